# frozen_string_literal: true

module Server
  module Records
    # What a shop has sold with a quote of the checkout door, with all that its price can be worked out from again.
    class Order < ActiveRecord::Base
      STATES = %w[placed cancelled returned].freeze

      self.primary_key = :number
      belongs_to :release
      has_many :offers, class_name: "OrderOffer", foreign_key: :order_number, inverse_of: :order, dependent: :delete_all

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
