# frozen_string_literal: true

require "faraday"
require "faraday/net_http_persistent"

module Server
  # The workbench, as a quote process asks it. Only what the contract lets it answer is an answer: whatever else comes
  # from its address, such as a proxy's redirect, page or refusal, says that it is away.
  class Workbench
    # Seconds that it may take.
    PATIENCE = 3
    # What it answers when it takes a call, and when it refuses one for good.
    TAKEN = [200, 201, 204].freeze
    REFUSED = [400, 404, 409, 413, 415, 422].freeze
    private_constant :PATIENCE, :TAKEN, :REFUSED

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
      return if answer.status == 304 && etag
      raise Away, "#{call}: #{answer.status}" unless answer.status == 200 && type(answer) == "application/json"

      [answer.body.dup.force_encoding(Encoding::UTF_8), answer.headers["etag"]]
    end

    # @param verb [Symbol]
    # @param call [String]
    # @param body [Hash]
    # @return [Array] a Rack response, whatever it says
    # @raise [Away]
    def tell(verb, call, body)
      answer = asked(verb, call, JSON.generate(body), { "content-type" => "application/json" })
      raise Away, "#{call}: #{answer.status} #{type(answer)}".strip unless taken?(answer) || refused?(answer)

      [answer.status, answer.headers.slice("content-type", "cache-control", "retry-after").to_h, [answer.body.to_s]]
    end

    private

    def taken?(answer)
      return false unless TAKEN.include?(answer.status)
      return answer.body.to_s.empty? if answer.status == 204

      type(answer) == "application/json" && parsed(answer).key?("order")
    end

    def refused?(answer)
      REFUSED.include?(answer.status) && type(answer) == Problem::TYPE && parsed(answer)["status"] == answer.status
    end

    def type(answer) = answer.headers["content-type"].to_s.split(";").first.to_s.strip

    def parsed(answer)
      found = JSON.parse(answer.body.to_s)
      found.is_a?(Hash) ? found : {}
    rescue JSON::ParserError
      {}
    end

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
