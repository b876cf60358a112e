# frozen_string_literal: true

module Server
  # Edits of many rates: one copied to other zones, or all amounts of many raised or lowered at once.
  module RateChanges
    class << self
      # @param rate [Records::Rate]
      # @param zones [Array<Records::Zone>] a rate of the same method there is replaced
      # @return [void]
      def copy(rate, zones)
        zones.each do |zone|
          there = Records::Rate.find_or_initialize_by(zone_id: zone.id, shipping_method_id: rate.shipping_method_id)
          there.update!(rate.said.except("zone_id"))
        end
      end

      # @param rates [Array<Records::Rate>]
      # @param percent [String, nil] of either sign
      # @param amount [String, nil] of either sign, in major units
      # @param store [Boolean] do it, or only say what it would do
      # @return [Hash] RatesChanged of the contract
      # @raise [Problem] 422
      def change(rates, percent, amount, store:)
        percent = read("/percent") { percent.blank? ? GateMile::Percentage::NONE : hundred(percent) }
        amount = read("/amount") { GateMile::Money.parse(amount.presence || "0", Records::Store.current.money) }
        changed = rates.select(&:plan).filter_map { |rate| of_rate(rate, percent, amount, store) }
        { rates: changed, stored: store }
      end

      private

      def hundred(text)
        GateMile::Percentage.parse(text).tap do |found|
          raise GateMile::Malformed, :out_of_hundred unless found.value.between?(-100, 100)
        end
      end

      def read(pointer)
        yield
      rescue GateMile::Malformed => e
        raise Problem.at(pointer, e.code, **e.numbers)
      end

      def of_rate(rate, percent, amount, store)
        change = GateMile::PriceChange.new(percent, amount)
        plan = change.of(rate.value_of("plan"))
        return if change.amounts.empty?

        rate.update!(plan: GateMile::Documents.write(plan)) if store
        { rate: rate.id, amounts: change.amounts.map do |one|
          { pointer: one.pointer, before: one.before.to_s, after: one.after.to_s }
        end }
      end
    end
  end
end
