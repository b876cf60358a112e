# frozen_string_literal: true

module Server
  module Records
    # One message to one address. due: when it is tried next; trouble: why the last try failed, in a word.
    class WebhookDelivery < ActiveRecord::Base
      belongs_to :webhook, inverse_of: :deliveries
      belongs_to :message, class_name: "WebhookMessage", inverse_of: :deliveries

      # @return [Hash] WebhookDelivery of the contract
      def document
        { id: id, webhook: webhook_id, message: message_id, kind: message.kind, state: state, attempts: attempts,
          status: status, trouble: trouble, made_at: message.made_at.utc.iso8601,
          tried_at: tried_at&.utc&.iso8601, due: (due.utc.iso8601 if state == "waiting") }
      end
    end
  end
end
