# frozen_string_literal: true

module Server
  module Records
    # Something that happened, as it is told: the body is sent as it stands here, to the byte.
    class WebhookMessage < ActiveRecord::Base
      has_many :deliveries, class_name: "WebhookDelivery", foreign_key: :message_id, inverse_of: :message,
                            dependent: :delete_all
    end
  end
end
