# frozen_string_literal: true

module Server
  # Rows of the catalogue as the contract shows them: what a product or variant says itself, and what a variant has from
  # its product. Pages of them are read as plain rows, which takes half the time that records take.
  module GoodsDocuments
    ON = [1, true].freeze
    private_constant :ON

    class << self
      # @param relation [ActiveRecord::Relation] of {Records::Product}
      # @return [Array<Hash>]
      def of(relation)
        rows = GoodsRows.of(relation)
        return [] if rows.empty?

        parents = parents_of(rows)
        treatments = treatments(rows.map { |row| row["id"] } + parents.keys)
        variants = variants(rows)
        exponent = Records::Store.current.money.exponent
        rows.map do |row|
          parent = parents[row["parent_id"]]
          own(row, treatments, exponent).merge(
            id: row["id"], lock_version: row["lock_version"], parent: row["parent_id"],
            variants: variants.fetch(row["id"], 0), inherited: parent && own(parent, treatments, exponent)
          )
        end
      end

      private

      def parents_of(rows)
        ids = rows.filter_map { |row| row["parent_id"] }.uniq
        ids.empty? ? {} : GoodsRows.of(Records::Product.where(id: ids)).index_by { |row| row["id"] }
      end

      def variants(rows)
        ids = rows.filter_map { |row| row["id"] unless row["parent_id"] }
        Records::Product.where(parent_id: ids).group(:parent_id).pluck(:parent_id, Arel.sql("count(*)")).to_h
      end

      def treatments(ids)
        Records::TreatmentTarget.where(product_id: ids).order(:id).pluck(:product_id, :treatment_id)
                                .group_by(&:first).transform_values { |pairs| pairs.map(&:last) }
      end

      def amount(minor, exponent) = minor && GateMile::Decimal.point(minor, exponent)

      def own(row, treatments, exponent)
        { sku: row["sku"], name: row["name"], weight: row["weight"],
          **%i[price cost].to_h { |key| [key, amount(row["#{key}_minor"], exponent)] },
          length: row["length"], width: row["width"], height: row["height"], class: row["shipping_class_id"],
          packing: row["packing"],
          tags: row["tags"] == "[]" ? [] : JSON.parse(row["tags"]), hazardous: ON.include?(row["hazardous"]),
          ships: ON.include?(row["ships"]), tax_class: row["tax_class_id"],
          treatments: treatments.fetch(row["id"], []) }
      end
    end
  end
end
