# frozen_string_literal: true

require "json"
require "openssl"

# A receiver's side of Gate Mile's webhooks, by the Standard Webhooks specification: one small file, to be copied or
# required. It takes what was signed with the secret, a moment ago, and for the first time.
class GateMileWebhooks
  # Seconds that a message may be old, or come from a clock that is ahead.
  TOLERANCE = 300

  # What is no message of this shop, or came too late or twice. Answer 400 to it; for one that came twice answer 204,
  # since it has been dealt with.
  class Refused < StandardError
    # @return [Boolean] whether it was taken before
    attr_reader :again

    def initialize(message, again: false)
      @again = again
      super(message)
    end
  end

  # Ids of messages that were taken, in memory. Where several processes receive, keep them in a database instead:
  # whatever answers {#add?} like this will do.
  class Taken
    def initialize
      @lock = Mutex.new
      @ids = {}
    end

    # @param id [String]
    # @param now [Time]
    # @return [Boolean] false where it has been added before
    def add?(id, now)
      @lock.synchronize do
        @ids.delete_if { |_, at| now - at > TOLERANCE * 2 }
        !@ids.key?(id) && !@ids.store(id, now).nil?
      end
    end
  end

  # @param secret [String] whsec_..., as the workbench told it
  # @param taken [#add?]
  def initialize(secret, taken: Taken.new)
    @key = secret.delete_prefix("whsec_").unpack1("m")
    @taken = taken
  end

  # @param headers [Hash{String => String}] with webhook-id, webhook-timestamp and webhook-signature, in any case
  # @param body [String] to the byte as it came
  # @param now [Time]
  # @return [Hash] the message: type, timestamp and data
  # @raise [Refused]
  def read(headers, body, now: Time.now)
    headers = headers.to_h { |name, value| [name.downcase, value.to_s] }
    id, at, signatures = %w[webhook-id webhook-timestamp webhook-signature].map { |name| headers[name].to_s }
    raise Refused, "it is not signed" if [id, at, signatures].any?(&:empty?)
    raise Refused, "the signature is another one" unless signed?(signatures, "#{id}.#{at}.#{body}")
    raise Refused, "it was sent too long ago" unless at.match?(/\A\d+\z/) && (now.to_i - at.to_i).abs <= TOLERANCE
    raise Refused.new("it was taken before", again: true) unless @taken.add?(id, now)

    JSON.parse(body)
  rescue JSON::ParserError
    raise Refused, "it is no JSON"
  end

  private

  # While a secret is being replaced, a message carries several signatures.
  def signed?(signatures, text)
    own = "v1,#{[OpenSSL::HMAC.digest("SHA256", @key, text)].pack("m0")}"
    signatures.split.any? { |one| one.bytesize == own.bytesize && OpenSSL.fixed_length_secure_compare(one, own) }
  end
end
