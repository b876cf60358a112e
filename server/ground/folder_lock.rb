# frozen_string_literal: true

require "fileutils"

module Server
  # Keeps a second server, or a restore, away from the folder of a database that is in use: keys, caches and what is
  # due live in one process. The kernel releases the lock when its process ends, however it ends.
  module FolderLock
    NAME = "in-use.lock"
    LOCK = Mutex.new
    private_constant :LOCK

    # Another process uses the folder. Its message says which one.
    class Taken < StandardError; end

    class << self
      # Holds the lock until this process ends. A process that holds it already keeps it.
      # @param folder [String] of the database
      # @return [void]
      # @raise [Taken]
      def take(folder = File.dirname(Settings.database))
        LOCK.synchronize do
          folder = File.expand_path(folder)
          (@held ||= {})[folder] ||= opened(folder)
        end
      end

      # Gives the lock back before the process ends.
      # @param folder [String]
      # @return [void]
      def release(folder = File.dirname(Settings.database))
        LOCK.synchronize { @held&.delete(File.expand_path(folder))&.close }
      end

      private

      def opened(folder)
        FileUtils.mkdir_p(folder)
        file = File.new(File.join(folder, NAME), File::RDWR | File::CREAT, 0o600)
        return note(file) if file.flock(File::LOCK_EX | File::LOCK_NB)

        holder = file.read.strip
        file.close
        raise Taken, "#{folder} is in use by another Gate Mile#{" (process #{holder})" unless holder.empty?}. " \
                     "Stop it first, or choose another database with GATE_MILE_DATABASE"
      end

      def note(file)
        file.truncate(0)
        file.write(Process.pid.to_s)
        file.flush
        file
      end
    end
  end
end
