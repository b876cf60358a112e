# frozen_string_literal: true

module Server
  # The one place that turns records into a book: first into its JSON document, then into the compiled value, so that
  # a quote from the database and one from an exported file can't differ.
  module BookDocument
    # Lists of the book beyond its rates, and whose records stand on them.
    POLICIES = { "groups" => -> { Records::CustomerGroup }, "coupons" => -> { Records::Coupon },
                 "offers" => -> { Records::Offer }, "rules" => -> { Records::Rule } }.freeze
    # The parts of a book, and the tables of which each is made, as {Journal} names them.
    PARTS = { "store" => %w[stores tax_classes boxes], "classes" => %w[shipping_classes class_targets],
              "treatments" => %w[treatments], "zones" => %w[zones areas], "methods" => %w[shipping_methods],
              "rates" => %w[rates zones], "groups" => %w[customer_groups], "coupons" => %w[coupons],
              "offers" => %w[offers], "rules" => %w[rules], "carriers" => %w[carriers] }.freeze

    class << self
      # @return [Hash] the whole setup (docs/formats/book.schema.json)
      def read
        kept = documents(Records::Proof)
        without_products.merge("products" => CatalogueDocument.products.values,
                               **(kept.any? ? { "proofs" => kept } : {}))
      end

      # @param last [Hash, nil] what was read before: parts of which nobody touched a table since are taken over
      # @param touched [Array<String>] names of tables
      # @return [Hash] the same, all but the catalogue and the proofs, which are no part of any price
      def without_products(last: nil, touched: [])
        head = { "format" => GateMile::Book::FORMAT, "version" => GateMile::Book::VERSION }
        PARTS.each_with_object(head) do |(part, tables), document|
          document[part] = last && !tables.intersect?(touched) ? last.fetch(part) : read_part(part)
        end
      end

      private

      def read_part(part) = part == "methods" ? shipping_methods : send(part)

      def store
        classes = in_order(Records::TaxClass).map(&:document)
        boxes = in_order(Records::Box).map { |box| box.document.compact }
        holidays = BankHolidays.dates(Records::Store.current.holiday_region)
        lists = { "tax_classes" => classes, "boxes" => boxes, "holidays" => holidays }.reject { |_, list| list.empty? }
        Records::Store.current.document.compact.merge(lists)
      end

      def classes = in_order(Records::ShippingClass.includes(:targets)).map(&:document)
      def treatments = documents(Records::Treatment)
      def zones = documents(Records::Zone.includes(:areas))
      def shipping_methods = documents(Records::ShippingMethod)
      def carriers = in_order(Records::Carrier).map(&:document)

      POLICIES.each { |list, model| define_method(list) { documents(model.call) } }

      # Zone by zone, each in the merchant's order.
      def rates
        by_zone = in_order(Records::Rate).group_by(&:zone_id)
        Records::Zone.order(:position, :id).ids.flat_map { |id| by_zone.fetch(id, []) }
                     .map { |rate| rate.document.compact }
      end

      def documents(records) = in_order(records).map { |record| record.document.compact }
      def in_order(records) = records.order(:position, :id).to_a
    end
  end
end
