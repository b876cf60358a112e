# frozen_string_literal: true

module Server
  # Rows of the catalogue as the contract shows them: what a product or variant says itself, and what a variant has from
  # its product. Pages of them are read as plain rows, which takes half the time that records take.
  module GoodsDocuments
    class << self
      # @param relation [ActiveRecord::Relation] of {Records::Product}
      # @return [Array<Hash>]
      def of(relation)
        rows = GoodsRows.of(relation)
        return [] if rows.empty?

        parents = parents_of(rows)
        treatments = treatments(rows.map { |row| row["id"] } + parents.keys)
        variants = variants(rows)
        currency = Records::Store.current.money
        rows.map do |row|
          parent = parents[row["parent_id"]]
          own(row, treatments, currency).merge(
            id: row["id"], lock_version: row["lock_version"], parent: row["parent_id"],
            variants: variants.fetch(row["id"], 0), inherited: parent && own(parent, treatments, currency)
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

      def own(row, treatments, currency)
        Records::GoodsField::ALL.to_h { |field| [field.name.to_sym, field.shown(row, currency)] }
                                .merge(treatments: treatments.fetch(row["id"], []))
      end
    end
  end
end
