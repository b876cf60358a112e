# frozen_string_literal: true

module Server
  # What the server itself did wrong, on the error stream: the error's class, where it happened and its message, without
  # what was sent.
  module Log
    class << self
      # @return [IO]
      attr_writer :to

      # @return [IO]
      def to = @to || $stderr

      # @param error [Exception]
      # @param doing [String] what the server was doing
      # @return [void]
      def fault(error, doing)
        lines = error.backtrace.to_a.first(20).map { |line| "  #{line.delete_prefix("#{ROOT}/")}" }
        to.puts("#{Time.now.utc.iso8601} fault while #{doing}: #{error.class}: #{error.message.to_s.scrub[0, 300]}",
                *lines)
      end
    end
  end
end
