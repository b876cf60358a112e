# frozen_string_literal: true

module Server
  module Records
    # The shop: one row.
    class Store < Base
      says :name, :country, :currency, :time_zone, :weight_unit, :length_unit, :prices_include_tax, :method_order,
           :ship_from,
           :basis, :parcels, :zero_word, :nothing_text, :storefront, :holiday_region

      words :name
      normalizes :holiday_region, with: lambda(&:presence)
      validates :holiday_region, inclusion: { in: ->(_) { BankHolidays.regions }, message: Words.of(:unknown_id) },
                                 allow_nil: true
      validate :readable_by_the_core, :currency_before_prices, :boxes_there

      # Takes a box that goes out of the parcel policy.
      # @param id [String]
      # @return [void]
      def self.forget_box(id)
        current&.then { |store| ParcelBoxes.forget(store.parcels, id) { |left| store.update!(parcels: left) } }
      end

      # @return [Store, nil]
      def self.current = find_by(id: 1)

      # @return [Integer] grows with every change of the setup; 0 before there is a shop
      def self.revision = connection.select_value("SELECT revision FROM stores WHERE id = 1").to_i

      # @return [GateMile::Currency]
      def money = GateMile::Currency[currency]

      # @return [Hash] as in a book document
      def document
        usual = [GateMile::Basis::DEFAULT, GateMile::ParcelPolicy::DEFAULT].map { |one| GateMile::Documents.write(one) }
        { **said, "ship_from" => ship_from || {}, "basis" => basis || usual.first, "parcels" => parcels || usual.last,
                  "zero_word" => zero_word.presence, "nothing_text" => nothing_text.presence }
      end

      private

      def readable_by_the_core
        reader = GateMile::Reader.new(document)
        read = GateMile::Documents.read(GateMile::Store, reader)
        self.storefront = GateMile::Documents.write(read.storefront) if storefront && reader.problems.empty?
        reader.problems.each do |problem|
          field = problem.pointer.split("/")[1]
          next if field == "name"

          errors.add(field, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
      end

      def boxes_there
        at = ParcelBoxes.unknown(parcels) or return
        errors.add(:parcels, Words.of(:unknown_id), pointer: "/parcels/boxes/#{at}")
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
