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

      # A request that was answered, as a line of JSON: neither whose it was nor what it asked.
      # @param id [String] which its answer names too
      # @param said [Hash] part, method, status, seconds
      # @return [void]
      def request(id:, **said)
        line = { at: Time.now.utc.iso8601(3), request: id, **said, seconds: said[:seconds].round(4) }
        to.puts(JSON.generate(line))
      end

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
