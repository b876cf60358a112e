# frozen_string_literal: true

module Server
  # What a request that only reads leaves to be noted: written in a thread of its own, since the request may not wait
  # for whoever writes, and is answered where nothing can be written at all.
  module Beside
    # Seconds between two tries while somebody else writes.
    REST = 0.2
    private_constant :REST
    @threads = ThreadGroup.new

    class << self
      # @param what [String] it is, for the log where it fails
      # @yield the writing
      # @return [Thread] that does it
      def write(what, &)
        Thread.new { told(what, &) }.tap { |thread| @threads.add(thread) }
      end

      # Waits for what was begun.
      # @param seconds [Numeric] at most, for each
      # @return [void]
      def finish(seconds = 5) = @threads.list.each { |thread| thread.join(seconds) }

      private

      def told(what)
        yield
      rescue *Database::BUSY
        sleep REST
        retry
      rescue ActiveRecord::StatementInvalid => e
        Log.fault(e, what)
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end
    end
  end
end
