# frozen_string_literal: true

require "faraday"
require "faraday/net_http_persistent"

module Server
  # The workbench, as a quote process asks it.
  class Workbench
    # Seconds that it may take.
    PATIENCE = 3
    private_constant :PATIENCE

    # It does not answer, or not now.
    class Away < StandardError; end

    # @param address [String]
    # @param key [String] that is for quote servers
    def initialize(address, key)
      @base = "#{address.chomp("/")}#{CheckoutDoor::PATH}"
      @key = key
    end

    # @param call [String] what is asked for
    # @param etag [String, nil] of what is known
    # @return [Array(String, String), nil] body and ETag; nil where it is as it was known
    # @raise [Away]
    def get(call, etag = nil)
      answer = asked(:get, call, nil, etag ? { "if-none-match" => etag } : {})
      return if answer.status == 304
      raise Away, "#{call}: #{answer.status}" unless answer.status == 200

      [answer.body.dup.force_encoding(Encoding::UTF_8), answer.headers["etag"]]
    end

    # @param verb [Symbol]
    # @param call [String]
    # @param body [Hash]
    # @return [Array] a Rack response, whatever it says
    # @raise [Away]
    def tell(verb, call, body)
      answer = asked(verb, call, JSON.generate(body), { "content-type" => "application/json" })
      raise Away, "#{call}: #{answer.status}" if answer.status >= 500 || [401, 429].include?(answer.status)

      [answer.status, answer.headers.slice("content-type", "cache-control", "retry-after").to_h, [answer.body.to_s]]
    end

    private

    def asked(verb, call, body, headers)
      connection.run_request(verb, @base + call, body, { "authorization" => "Bearer #{@key}", **headers })
    rescue Faraday::Error => e
      raise Away, e.class.name
    end

    def connection
      Thread.current[:gate_mile_workbench] ||=
        Faraday.new(request: { timeout: PATIENCE, open_timeout: PATIENCE }) { |to| to.adapter(:net_http_persistent) }
    end
  end
end
