# frozen_string_literal: true

module Server
  module Records
    # What a shop has sold with a quote of the checkout door, with all that its price can be worked out from again.
    class Order < ActiveRecord::Base
      STATES = %w[placed cancelled returned].freeze

      # Orders that are looked at for what was paid lately, and how long ago lately is.
      LATELY = 1000
      DAYS = 90
      private_constant :LATELY, :DAYS

      self.primary_key = :number
      belongs_to :release
      has_many :offers, class_name: "OrderOffer", foreign_key: :order_number, inverse_of: :order, dependent: :delete_all

      # @param now [Time]
      # @return [Hash{Array(String, String) => Array<GateMile::Money>}] what orders paid lately, by ids of zone and
      #   method
      def self.lately_paid(now)
        rows = where(placed_at: (now - DAYS.days)..).order(placed_at: :desc).limit(LATELY)
                                                    .pluck(:zone, :method_id, :price, :currency)
        rows.group_by { |row| row.first(2) }.transform_values do |list|
          list.map { |_, _, price, currency| GateMile::Money.parse(price, GateMile::Currency[currency]) }
        end
      end

      # @return [Hash] CheckoutOrder of the contract: what the shop is told
      def told
        { order: number, state: state, method: { code: method_code, name: method_name }, price: price,
          currency: currency, release: release_id, placed_at: placed_at.utc.iso8601 }
      end

      # @return [Hash] ShopOrder of the contract
      def document
        { number: number, state: state, release: release_id, method: method_id, code: method_code, name: method_name,
          zone: zone, price: price, currency: currency, key: key_name, evidence: !cart.nil?,
          offers: offers.map(&:offer),
          **%i[quoted_at placed_at closed_at].to_h { |field| [field, self[field]&.utc&.iso8601] } }
      end
    end
  end
end
