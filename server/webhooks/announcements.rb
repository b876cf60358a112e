# frozen_string_literal: true

module Server
  # What happens and is told to others. Each is written down first, and sent by {Deliveries} beside everything else.
  module Announcements
    class << self
      # @param kind [String] one of {Records::Webhook::EVENTS}, or "test"
      # @param data [Hash] for JSON
      # @param to [Array<Records::Webhook>] who is told
      # @param now [Time]
      # @return [Records::WebhookMessage, nil] nil where nobody wants to know
      def tell(kind, data, to: Records::Webhook.told_of(kind), now: Time.now)
        return if to.empty?

        body = JSON.generate({ type: kind, timestamp: now.utc.iso8601, data: data })
        Records::WebhookMessage.transaction do
          message = Records::WebhookMessage.create!(id: "msg_#{SecureRandom.alphanumeric(24)}", kind: kind, body: body,
                                                    made_at: now)
          to.each { |hook| Records::WebhookDelivery.create!(webhook: hook, message: message, due: now) }
          message
        end
      end

      # @param publication [Records::Publication] that has begun to count
      # @param now [Time]
      # @return [void]
      def published(publication, now: Time.now)
        digest = Records::Release.where(id: publication.release_id).pick(:digest)
        told = { release: publication.release_id, digest: digest, since: publication.due.utc.iso8601 }
        tell("release.published", told, now: now)
      end

      # Asked while the order is being written, when nobody else counts.
      # @param offers [Array<GateMile::Offer>] that an order acted on
      # @return [void]
      def used(offers)
        offers.select { |offer| offer.first && Records::OrderOffer.used(offer.id) == offer.first }
              .each { |offer| tell("offer.used_up", { offer: offer.name, first: offer.first }) }
      end
    end
  end
end
