# frozen_string_literal: true

require "logger"

module Server
  # What the server says on the error stream, by Ruby's own Logger: what it did wrong, with the error's class, where it
  # happened and its message, without what was sent; and, where that is asked for, what it answered.
  module Log
    # A hash is a line of JSON; a text begins with the moment.
    FORM = lambda do |_, at, _, said|
      said.is_a?(Hash) ? "#{JSON.generate(said)}\n" : "#{at.utc.iso8601} #{said}\n"
    end
    private_constant :FORM

    class << self
      # @param stream [IO, nil] nil for the error stream
      def to=(stream)
        @to = stream
        @logger = nil
      end

      # @return [IO]
      def to = @to || $stderr

      # A request that was answered, as a line of JSON: neither whose it was nor what it asked.
      # @param id [String] which its answer names too
      # @param said [Hash] part, method, status, seconds
      # @return [void]
      def request(id:, **said)
        logger.info({ at: Time.now.utc.iso8601(3), request: id, **said, seconds: said[:seconds].round(4) })
      end

      # @param error [Exception]
      # @param doing [String] what the server was doing
      # @return [void]
      def fault(error, doing)
        where = error.backtrace.to_a.first(20).map { |line| "\n  #{line.delete_prefix("#{ROOT}/")}" }
        logger.error("fault while #{doing}: #{error.class}: #{error.message.to_s.scrub[0, 300]}#{where.join}")
      end

      private

      def logger = @logger ||= Logger.new(to, formatter: FORM)
    end
  end
end
