# frozen_string_literal: true

require "json"
require "net/http"
require "uri"

# A shop's side of the checkout door (/checkout/v1), for its server: one small file, to be copied or required. Answers
# are hashes as docs/api/openapi.yaml says; what is refused is raised as a {Refused}.
class GateMileCheckout
  # What the door refused: problem details (RFC 9457).
  class Refused < StandardError
    # @return [Integer]
    attr_reader :status
    # @return [Hash]
    attr_reader :problem
    # @return [Integer, nil] seconds after which to ask again
    attr_reader :retry_after

    # @param status [Integer]
    # @param problem [Hash]
    # @param retry_after [Integer, nil]
    def initialize(status, problem, retry_after)
      @status = status
      @problem = problem
      @retry_after = retry_after
      super(problem["detail"] || "refused with #{status}")
    end

    # @return [Boolean] whether the quote ran out: `problem["quote"]` is a new one, `problem["now"]` its price
    def ran_out? = problem["errors"].to_a.any? { |error| error["code"] == "quote_ran_out" }
  end

  # The door did not answer, or with nothing that can be read.
  class Unreachable < StandardError; end

  # @param address [String] of the workbench or of a quote server, e.g. "https://gate.example"
  # @param key [String] gmk_...
  # @param timeout [Float] seconds to wait for an answer
  def initialize(address, key, timeout: 5)
    @base = URI.join("#{address.chomp("/")}/", "checkout/v1/")
    @key = key
    @timeout = timeout
  end

  # @param cart [Hash]
  # @param detail [String, nil] prices, methods or reckonings
  # @param deadline_ms [Integer, nil] that carriers may take
  # @param idempotency_key [String, nil] the same question under it gets the same answer
  # @return [Hash]
  def quote(cart, detail: nil, deadline_ms: nil, idempotency_key: nil)
    send_json(:Post, "quotes", { cart: cart, detail: detail, deadline_ms: deadline_ms }.compact, idempotency_key)
  end

  # @param carts [Array<Hash>] up to 50
  # @return [Array<Hash>] an answer, or what was wrong ("problem"), for each
  def quotes(carts, detail: nil)
    send_json(:Post, "quotes/batch", { carts: carts, detail: detail }.compact).fetch("quotes")
  end

  # @param number [String] the shop's own
  # @param quote [String] id of the quote
  # @param method [String] code of the method
  # @return [Hash] told once more, the same order is answered alike
  # @raise [Refused] also where the quote ran out
  def order(number, quote:, method:) = send_json(:Post, "orders", { order: number, quote: quote, method: method })

  # @param number [String]
  # @return [Hash]
  def cancel(number) = close(number, "cancelled")

  # @param number [String]
  # @return [Hash]
  def returned(number) = close(number, "returned")

  # @return [Array<Hash>]
  def methods_offered = send_json(:Get, "methods").fetch("methods")

  # @return [Array<Hash>]
  def served = send_json(:Get, "served").fetch("countries")

  # @return [Array<Hash>]
  def offers = send_json(:Get, "offers").fetch("offers")

  private

  def close(number, state)
    send_json(:Patch, "orders/#{URI.encode_www_form_component(number).gsub("+", "%20")}", { state: state })
  end

  def send_json(verb, path, body = nil, idempotency_key = nil)
    request = Net::HTTP.const_get(verb).new(URI.join(@base, path))
    request["authorization"] = "Bearer #{@key}"
    request["idempotency-key"] = idempotency_key if idempotency_key
    if body
      request["content-type"] = "application/json"
      request.body = JSON.generate(body)
    end
    read(connection { |http| http.request(request) })
  end

  def connection(&)
    Net::HTTP.start(@base.host, @base.port, use_ssl: @base.scheme == "https", open_timeout: @timeout,
                                            read_timeout: @timeout, &)
  rescue SystemCallError, IOError, Net::OpenTimeout, Net::ReadTimeout, SocketError => e
    raise Unreachable, e.message
  end

  def read(response)
    parsed = JSON.parse(response.body.to_s)
    return parsed if response.is_a?(Net::HTTPSuccess)

    raise Refused.new(response.code.to_i, parsed, response["retry-after"]&.to_i)
  rescue JSON::ParserError
    raise Unreachable, "answered with #{response.code} and no JSON"
  end
end
