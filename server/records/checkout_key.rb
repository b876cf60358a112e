# frozen_string_literal: true

module Server
  module Records
    # What a shop's server or page shows to ask the checkout door. Only a digest of it is kept.
    class CheckoutKey < ActiveRecord::Base
      include Edition

      EDITED = %w[name origins calls pace].freeze
      CALLS = %w[quotes orders methods served offers state].freeze
      # What a shop's page may never ask.
      SERVER_ONLY = %w[orders state].freeze
      PACES = (1..100_000)

      before_create { self.id ||= Base.new_id }
      validates :name, presence: { message: Words.of(:missing) }, length: { maximum: 60 }

      # @return [Boolean] whether it opens the door
      def open?(now = Time.now) = revoked_at.nil? && (ends_at.nil? || ends_at > now)

      # @return [Hash] CheckoutKey of the contract
      def document
        { id: id, edition: edition, name: name, public: public, start: start, origins: origins, calls: calls,
          pace: pace,
          **%i[made_at used_at ends_at revoked_at].to_h { |field| [field, self[field]&.utc&.iso8601] } }
      end
    end
  end
end
