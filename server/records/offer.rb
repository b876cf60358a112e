# frozen_string_literal: true

module Server
  module Records
    # Free or reduced shipping under conditions.
    class Offer < Base
      says :name, :active, :label, :label_more, :threshold, :zones, :methods, :groups, :coupons, :promotions, :starts,
           :ends, :first, :blocking, :paying, :paying_count, :effect, :own_prices, :hides_paid, :combines, :milepost
      LISTS = { "zone" => "zones", "method" => "methods", "coupon" => "coupons" }.freeze
      private_constant :LISTS

      include Policy

      # One that was limited to what goes is off from then on.
      # @param kind [String]
      # @param gone [String]
      # @return [void]
      def forget(kind, gone)
        list = LISTS[kind]
        shrink(list, gone) if list && self[list]&.include?(gone)
        forget_groups(gone) if kind == "group"
        %w[blocking paying].each { |field| forget_class(field, gone) } if kind == "class"
        forget_in_milepost(gone)
        save! if changed?
      end

      private

      def read(item, store)
        GateMile::Offer.read(item, { currency: store.money, time_zone: store.time_zone })
      end

      def shrink(list, gone)
        self[list] = (self[list] - [gone]).presence
        self.active = false if self[list].nil?
      end

      def forget_groups(gone)
        return if groups.nil?

        key, ids = groups.first
        self.groups = (ids - [gone]).presence&.then { |left| { key => left } }
        self.active = false if groups.nil? && key == "only"
      end

      def forget_class(field, gone)
        return unless self[field]&.fetch("classes", nil)&.include?(gone)

        left = self[field].merge("classes" => self[field]["classes"] - [gone])
        self[field] = left.any? { |_, value| value.present? } ? left : nil
      end

      def forget_in_milepost(gone)
        return if milepost.nil?

        self.milepost = milepost.to_h do |key, value|
          [key, %w[zones groups].include?(key) ? less(value, gone).presence : value]
        end.compact
      end
    end
  end
end
