# frozen_string_literal: true

require "puma"
require "puma/server"

module Server
  # How requests are read: all of one has to be there within a time that its first byte begins, however its bytes are
  # spread (Puma's own deadline begins anew with each of them), and a body that is larger than its address takes, or
  # that is for another host, is refused while it comes instead of being kept on the disk first.
  module Reading
    # Seconds for a request, and bytes of its body for which there is one second more.
    WHOLE = 15
    SLOWEST = 65_536
    # Bytes of a body: the first beginning that fits says how many. Routes have narrower limits of their own.
    LIMITS = { "/public/" => 65_536, "/checkout/v1/" => 1_048_576, "/api/setup/import" => 33_554_432,
               "/api/products/" => 26_214_400, "/api/" => 8_388_608, "" => 65_536 }.freeze

    class << self
      # @return [Array<String>, nil] hosts whose bodies are read; nil for all
      attr_accessor :hosts

      # @param path [String]
      # @param host [String, nil] as it was sent
      # @return [Integer] bytes of a body
      def limit(path, host = nil)
        return 0 if hosts && host && !ours?(host.downcase.sub(/:\d+\z/, ""))

        LIMITS.find { |start, _| path.start_with?(start) }.last
      end

      # @return [Float] seconds of a clock that never goes back
      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      private

      # A name that begins with a dot stands for all below it, as the application's own look at hosts has it.
      def ours?(name)
        hosts.any? { |one| one.start_with?(".") ? name.end_with?(one.downcase) : name == one.downcase }
      end
    end

    # @param seconds [Numeric] for which nothing may come
    # @return [void]
    def set_timeout(seconds) # rubocop:disable Naming/AccessorMethodName
      super
      return unless @buffer || in_data_phase

      @begun ||= Reading.now
      @timeout_at = [@timeout_at, @begun + WHOLE + (@env["CONTENT_LENGTH"].to_i / SLOWEST)].min
    end

    # @return [void] the next request of the connection has a time of its own
    def reset
      @begun = nil
      super
    end

    private

    def setup_body
      @http_content_length_limit = Reading.limit(@env["REQUEST_PATH"].to_s, @env["HTTP_HOST"])
      super
    end
  end
end

Puma::Client.prepend(Server::Reading)
