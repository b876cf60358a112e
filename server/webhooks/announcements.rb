# frozen_string_literal: true

module Server
  # What happens and is told to others. Each is written down first, and sent by {Deliveries} beside everything else.
  module Announcements
    # Announcements that wait to be written down.
    WAITING = 1000
    private_constant :WAITING
    @soon = Queue.new
    @writing = Mutex.new

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

      # The same from a request that must not wait: it is kept in memory, and written down by {.write_down}.
      # @param kind [String]
      # @param now [Time]
      # @yieldreturn [Hash, nil] the data, when it is written down; nil where there is nothing to say any more
      # @return [void]
      def soon(kind, now: Time.now, &data)
        @soon.push([kind, data, now]) if @soon.size < WAITING
      end

      # Writes down what was said in requests. What can't be written now waits for the next time.
      # @return [void]
      def write_down
        @writing.synchronize do
          while @next ||= @soon.empty? ? nil : @soon.pop
            kind, data, now = @next
            Database.write { data.call&.then { |said| tell(kind, said, now: now) } }
            @next = nil
          end
        end
      end

      # @return [void] forgets what was not written down
      def clear
        @soon.clear
        @next = nil
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
