# frozen_string_literal: true

module Server
  module Records
    # Who is told of what happens: an address, and the secret that what is sent there is signed with.
    class Webhook < ActiveRecord::Base
      include Edition

      EDITED = %w[url events active gone_at].freeze
      EVENTS = %w[release.published carrier.down offer.used_up proof.failing nothing.offered backup.failed].freeze
      # Characters of an address.
      LONGEST = 500

      encrypts :secret
      has_many :deliveries, class_name: "WebhookDelivery", inverse_of: :webhook, dependent: :delete_all
      before_create { self.id ||= Base.new_id }
      validates :url, length: { maximum: LONGEST },
                      format: { with: %r{\Ahttps?://[^\s/?#]+[^\s]*\z}, message: Words.of(:not_an_address_to_tell) }

      scope :told_of, ->(kind) { where(active: true, gone_at: nil).select { |one| one.events.include?(kind) } }

      # @return [Hash] Webhook of the contract
      def document
        { id: id, url: url, events: events, active: active, made_at: made_at.utc.iso8601,
          gone_at: gone_at&.utc&.iso8601, edition: edition }
      end
    end
  end
end
