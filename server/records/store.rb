# frozen_string_literal: true

module Server
  module Records
    # The shop: one row.
    class Store < Base
      words :name
      normalizes :holiday_region, with: lambda(&:presence)
      validates :holiday_region, inclusion: { in: ->(_) { BankHolidays.regions }, message: Words.of(:unknown_id) },
                                 allow_nil: true
      validate :readable_by_the_core, :currency_before_prices

      # @return [Store, nil]
      def self.current = find_by(id: 1)

      # @return [Integer] grows with every change of the setup; 0 before there is a shop
      def self.revision = connection.select_value("SELECT revision FROM stores WHERE id = 1").to_i

      # @return [GateMile::Currency]
      def money = GateMile::Currency[currency]

      # @return [Hash] as in a book document
      def document
        { "name" => name, "country" => country, "currency" => currency, "time_zone" => time_zone,
          "weight_unit" => weight_unit, "length_unit" => length_unit, "prices_include_tax" => prices_include_tax,
          "method_order" => method_order, "ship_from" => ship_from || {},
          "basis" => basis || GateMile::Basis::DEFAULT.dump,
          "parcels" => parcels || GateMile::ParcelPolicy::DEFAULT.dump, "zero_word" => zero_word.presence,
          "nothing_text" => nothing_text.presence, "storefront" => storefront,
          "holiday_region" => holiday_region }
      end

      private

      def readable_by_the_core
        reader = GateMile::Reader.new(document)
        read = GateMile::Store.read(reader)
        self.storefront = read.storefront.dump if storefront && reader.problems.empty?
        reader.problems.each do |problem|
          field = problem.pointer.split("/")[1]
          next if field == "name"

          errors.add(field, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
      end

      def currency_before_prices
        return unless currency_changed? && persisted?

        priced = [Rate.where.not(plan: nil), Treatment.where.not(price: nil)]
        return unless Product.exists? || priced.any?(&:exists?)

        errors.add(:currency, Words.of(:prices_stand, currency: currency_was))
      end
    end
  end
end
