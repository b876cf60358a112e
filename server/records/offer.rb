# frozen_string_literal: true

module Server
  module Records
    # Free or reduced shipping under conditions.
    class Offer < Base
      says :name, :active, :label, :label_more, :threshold, :zones, :methods, :groups, :coupons, :promotions, :starts,
           :ends, :first, :blocking, :paying, :paying_count, :effect, :own_prices, :hides_paid, :combines, :milepost

      include Policy

      private

      def read(item, store)
        GateMile::Documents.read(GateMile::Offer, item, store.money, store.time_zone)
      end
    end
  end
end
