# frozen_string_literal: true

require "standardwebhooks"

module Server
  # How what is sent is signed, by the Standard Webhooks specification (1.0): HMAC-SHA256 over the message's id, the
  # moment of sending and the body. Receivers refuse what was sent long ago, so that nobody plays it again.
  module WebhookSignature
    PREFIX = "whsec_"
    # Bytes of a secret; the specification wants 24 to 64.
    BYTES = 32
    private_constant :PREFIX, :BYTES

    class << self
      # @return [String] a new secret
      def secret = PREFIX + [SecureRandom.bytes(BYTES)].pack("m0")

      # @param secret [String]
      # @param id [String] of the message
      # @param at [Time] of sending
      # @param body [String]
      # @return [Hash{String => String}] headers
      def headers(secret, id, at, body)
        signed = StandardWebhooks::Webhook.new(secret).sign(id, at.to_i, body)
        { "webhook-id" => id, "webhook-timestamp" => at.to_i.to_s, "webhook-signature" => signed }
      end
    end
  end
end
