# frozen_string_literal: true

module Server
  # The one place that turns records into a book: first into its JSON document, then into the compiled value, so that
  # a quote from the database and one from an exported file can't differ.
  module BookDocument
    # Lists of the book beyond its rates, and whose records stand on them.
    POLICIES = { "groups" => -> { Records::CustomerGroup }, "coupons" => -> { Records::Coupon },
                 "offers" => -> { Records::Offer }, "rules" => -> { Records::Rule } }.freeze

    class << self
      # @return [Hash] the whole setup (docs/formats/book.schema.json)
      def read = without_products.merge("products" => CatalogueDocument.products.values)

      # @return [Hash] the same, all but the catalogue
      def without_products
        zones = in_order(Records::Zone.includes(:areas))
        { "format" => GateMile::Book::FORMAT, "version" => GateMile::Book::VERSION, "store" => store,
          "classes" => in_order(Records::ShippingClass.includes(:targets)).map(&:document),
          "treatments" => in_order(Records::Treatment).map { |treatment| treatment.document.compact },
          "zones" => zones.map { |zone| zone.document.compact },
          "methods" => in_order(Records::ShippingMethod).map { |method| method.document.compact },
          "rates" => rates(zones).map { |rate| rate.document.compact }, **policies,
          "carriers" => in_order(Records::Carrier).map(&:document) }
      end

      # @return [Hash] customer groups, coupons, offers and rules
      def policies
        POLICIES.to_h { |list, model| [list, in_order(model.call).map { |record| record.document.compact }] }
      end

      private

      def store
        classes = in_order(Records::TaxClass).map(&:document)
        boxes = in_order(Records::Box).map { |box| box.document.compact }
        holidays = BankHolidays.dates(Records::Store.current.holiday_region)
        lists = { "tax_classes" => classes, "boxes" => boxes, "holidays" => holidays }.reject { |_, list| list.empty? }
        Records::Store.current.document.compact.merge(lists)
      end

      def in_order(records) = records.order(:position, :id).to_a

      # Zone by zone, each in the merchant's order.
      def rates(zones)
        by_zone = in_order(Records::Rate).group_by(&:zone_id)
        zones.flat_map { |zone| by_zone.fetch(zone.id, []) }
      end
    end
  end
end
