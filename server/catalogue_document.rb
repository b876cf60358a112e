# frozen_string_literal: true

module Server
  # The products of the database as they stand in a book document, variants under their products.
  module CatalogueDocument
    COLUMNS = %i[id parent_id sku name price_minor cost_minor weight length width height shipping_class_id ships tags
                 hazardous tax_class_id packing].freeze
    private_constant :COLUMNS

    class << self
      # @param only [Array<String>, nil] ids of products, not of variants; nil for all
      # @return [Hash{String => Hash}] documents by id of the product, in the merchant's order
      def products(only: nil)
        currency = Records::Store.current.money
        rows = rows(only)
        treatments = treatments(only && rows.map { |row| row["id"] })
        variants, products = rows.partition { |row| row["parent_id"] }
        by_product = variants.group_by { |row| row["parent_id"] }
        products.to_h do |row|
          own = by_product.fetch(row["id"], []).map { |variant| own(variant, currency, treatments) }
          [row["id"], own(row, currency, treatments).merge(product(row), own.any? ? { "variants" => own } : {})]
        end
      end

      # @param ids [Array<String>] of rows, products or variants, which need not be there any more
      # @return [Array<String>] ids of the products that these are, or are variants of
      def families(ids)
        parents = ids.each_slice(500).flat_map do |slice|
          Records::Product.where(id: slice).where.not(parent_id: nil).pluck(:id, :parent_id)
        end.to_h
        ids.map { |id| parents.fetch(id, id) }.uniq
      end

      private

      def rows(only)
        all = Records::Product.order(:family, :position, :id)
        return plucked(all) if only.nil?

        only.each_slice(500).flat_map { |slice| plucked(all.where(id: slice).or(all.where(parent_id: slice))) }
      end

      def plucked(relation)
        relation.pluck(*COLUMNS).map { |values| COLUMNS.map(&:to_s).zip(values).to_h }
      end

      # @return [Hash{String => Array<String>}] ids of treatments by row
      def treatments(ids)
        targets = Records::TreatmentTarget.joins(:treatment).where.not(product_id: nil)
                                          .order("treatments.position", "treatments.id")
        lists = ids ? ids.each_slice(500).map { |slice| targets.where(product_id: slice) } : [targets]
        lists.flat_map { |list| list.pluck(:product_id, :treatment_id) }
             .group_by(&:first).transform_values { |pairs| pairs.map(&:last) }
      end

      def own(row, currency, treatments)
        sides = row.slice(*GateMile::Sides::NAMES)
        { "sku" => row["sku"], "name" => row["name"], "weight" => row["weight"],
          **%w[price cost].to_h { |key| [key, amount(row["#{key}_minor"], currency)] },
          "size" => (sides if sides.values.all?), "class" => row["shipping_class_id"],
          "treatments" => treatments[row["id"]] }.compact
      end

      def amount(minor, currency) = minor && GateMile::Money.new(minor, currency).to_s

      def product(row)
        { "ships" => row["ships"], "tags" => row["tags"].presence, "hazardous" => row["hazardous"] || nil,
          "packing" => (row["packing"] unless row["packing"] == "any"),
          "tax_class" => row["tax_class_id"] }.compact
      end
    end
  end
end
