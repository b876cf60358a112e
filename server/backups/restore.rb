# frozen_string_literal: true

require "sqlite3"
require "tmpdir"

module Server
  # Puts a backup where there is no shop yet. The shop is made whole in a folder of its own, opened and checked there as
  # the server will open it, and moved into place at the end: what fails before leaves nothing behind.
  class Restore
    # It is no backup, a damaged one, there is a shop already, or a server runs there. Its message says which.
    class Refused < StandardError; end

    # What is told of what came back: by table, what one and what several of them are called.
    COUNTED = { "zones" => %w[zone zones], "rates" => %w[rate rates], "products" => %w[product products],
                "proofs" => %w[proof proofs], "releases" => %w[release releases], "orders" => %w[order orders] }.freeze

    # What came: the shop's name, when the backup was made, counts by table, and the names of carriers whose secrets
    # have to be typed again.
    Told = Struct.new(:shop, :made_at, :counts, :lost)

    class << self
      # @param file [String] that {Backup} wrote
      # @param passphrase [#call, nil] asked where the backup holds keys; nil to leave them
      # @return [Told]
      # @raise [Refused]
      def read(file, passphrase: nil)
        fresh = !File.exist?(folder)
        made_at, sealed = checked(file)
        keys = passphrase && sealed && unlocked(sealed, passphrase.call)
        FileUtils.mkdir_p(folder, mode: 0o700)
        FolderLock.take
        refuse_what_is_there
        into_place(file, keys, made_at).tap { Database.connect }
      rescue FolderLock::Taken, SystemCallError => e
        raise Refused, e.message
      ensure
        give_back(fresh)
      end

      private

      def folder = File.dirname(Settings.database)

      # A failed restore leaves the folder as it was.
      def give_back(fresh)
        FolderLock.release
        return unless fresh && Dir.exist?(folder) && !File.exist?(Settings.database)

        FileUtils.rm_f(File.join(folder, FolderLock::NAME))
        Dir.rmdir(folder) if Dir.empty?(folder)
      end

      # SQLite would play a log that is left over onto whatever database stands beside it.
      def refuse_what_is_there
        there = [Settings.database, Keys.file].find { |path| File.exist?(path) }
        raise Refused, "there is a shop already: #{there}. Move it away first; it is not written over" if there

        left = Database.beside(Settings.database).select { |path| File.exist?(path) }
        return if left.empty?

        raise Refused, "#{left.join(" and ")} belong to the database that was here, and hold its last edits. " \
                       "Move them to where you moved the database"
      end

      # @return [Array(String, String)] when it was made, and the sealed keys where it has them
      def checked(file)
        raise Refused, "there is no file #{file}" unless File.file?(file)

        found = Soundness.faults(file)
        made = nil
        SQLite3::Database.new(file, readonly: true) do |copy|
          Database.refuse_newer(copy.execute("SELECT version FROM schema_migrations").flatten.map(&:to_i))
          made = copy.get_first_row("SELECT made_at, keys FROM #{Backup::TABLE}")
        end
        raise Refused, "it is damaged: #{found.join("; ")}" if found.any?

        made
      rescue Database::Newer => e
        raise Refused, e.message
      rescue SQLite3::Exception
        raise Refused, "#{file} is no backup of Gate Mile, or a damaged one"
      end

      def unlocked(keys, passphrase)
        Backup.unlocked(keys, passphrase) or raise Refused, "the passphrase is another one"
      end

      # @return [Told]
      def into_place(file, keys, made_at)
        # What a restore that was killed has left.
        FileUtils.rm_rf(Dir[File.join(folder, "restoring-*")])
        Dir.mktmpdir("restoring-", folder) do |aside|
          made = File.join(aside, "shop.sqlite3")
          copied(file, made, keys && File.join(aside, "keys.json"), keys)
          told = Settings.with_database(made) { opened(made_at, counts(file)) }
          place(made, File.join(aside, "keys.json"))
          told
        end
      end

      def copied(file, made, keys_file, keys)
        FileUtils.cp(file, made)
        File.chmod(0o600, made)
        SQLite3::Database.new(made) { |copy| copy.execute("DROP TABLE #{Backup::TABLE}") }
        File.write(keys_file, keys, mode: File::WRONLY | File::CREAT | File::EXCL, perm: 0o600) if keys
      end

      # As the server will open it, with every step that this version adds to its tables.
      def opened(made_at, expected)
        Database.connect
        Database.migrate
        found = told(made_at)
        raise Refused, "it did not come over whole" unless found.counts == expected

        found
      ensure
        ActiveRecord::Base.connection_handler.clear_all_connections!
        ActiveRecord::Base.remove_connection
      end

      # The keys come first: a database that finds none makes new ones, and its secrets would be lost.
      def place(made, keys_file)
        raise Refused, "its log could not be emptied" if File.size?("#{made}-wal")

        found = Soundness.faults(made)
        raise Refused, "it is damaged: #{found.join("; ")}" if found.any?

        [made, keys_file].each { |one| File.open(one, &:fsync) }
        File.rename(keys_file, Keys.file)
        File.rename(made, Settings.database)
        File.open(folder, &:fsync)
      end

      def counts(file)
        SQLite3::Database.new(file, readonly: true) do |copy|
          return COUNTED.keys.to_h { |table| [table, copy.get_first_value("SELECT COUNT(*) FROM #{table}")] }
        end
      end

      def told(made_at)
        counts = COUNTED.keys.to_h do |table|
          [table, ActiveRecord::Base.connection.select_value("SELECT COUNT(*) FROM #{table}")]
        end
        Told.new(Records::Store.current&.name, made_at, counts,
                 Records::Carrier.order(:name).select(&:secret_lost?).map(&:name))
      end
    end
  end
end
