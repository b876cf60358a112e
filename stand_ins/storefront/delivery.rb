# frozen_string_literal: true

require "json"
require "net/http"

# How the shop asks who delivers: the checkout door of Gate Mile, with the shop's own key, and nothing else.
class Delivery
  # The door did not answer, or not in time, or with a fault of its own.
  class Away < StandardError; end

  # The door said no. status: of HTTP; body: what it said.
  class Refused < StandardError
    attr_reader :status, :body

    def initialize(status, body)
      @status = status
      @body = body
      super(body["detail"].to_s)
    end
  end

  # Seconds.
  OPENS = 2
  ANSWERS = 12
  TROUBLE = [SystemCallError, SocketError, IOError, Timeout::Error, Net::ProtocolError, JSON::ParserError,
             Net::HTTPBadResponse].freeze
  private_constant :OPENS, :ANSWERS, :TROUBLE

  # @param address [String] origin of Gate Mile
  # @param key [String, nil] of the shop's server; nil where nobody has made one: then the door is always away
  # @param patience [Numeric] seconds that an answer may take
  def initialize(address, key, patience: ANSWERS)
    @address = URI(address)
    @patience = patience
    @key = key
  end

  # @param call [String] e.g. "served"
  # @return [Hash]
  # @raise [Away, Refused]
  def get(call) = asked(Net::HTTP::Get.new(path(call)))

  # @param call [String] e.g. "quotes"
  # @param body [Hash]
  # @return [Hash]
  # @raise [Away, Refused]
  def post(call, body) = asked(Net::HTTP::Post.new(path(call)), body)

  private

  def path(call) = "/checkout/v1/#{call}"

  def asked(request, body = nil)
    raise Away if @key.nil?

    request["authorization"] = "Bearer #{@key}"
    request["content-type"] = "application/json"
    request.body = JSON.generate(body) if body
    response = Net::HTTP.start(@address.host, @address.port, open_timeout: OPENS, read_timeout: @patience) do |http|
      http.request(request)
    end
    told(response)
  rescue *TROUBLE
    raise Away
  end

  # What is busy, or not let in, is away to shoppers.
  def told(response)
    status = Integer(response.code)
    raise Away if status >= 500 || [401, 403, 429].include?(status)

    body = JSON.parse(response.body)
    status < 400 ? body : raise(Refused.new(status, body))
  end
end
