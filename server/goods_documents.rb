# frozen_string_literal: true

module Server
  # Rows of the catalogue as the contract shows them: what a product or variant says itself, and what a variant has from
  # its product.
  module GoodsDocuments
    class << self
      # @param records [Array<Records::Product>]
      # @return [Array<Hash>]
      def of(records)
        return [] if records.empty?

        parents = Records::Product.where(id: records.filter_map(&:parent_id)).index_by(&:id)
        variants = Records::Product.where(parent_id: records.map(&:id)).group(:parent_id).count
        treatments = treatments(records.map(&:id) + parents.keys)
        money = Records::Store.current.money
        records.map do |record|
          parent = parents[record.parent_id]
          own(record, money, treatments).merge(
            id: record.id, lock_version: record.lock_version, parent: record.parent_id,
            variants: variants.fetch(record.id, 0), inherited: parent && own(parent, money, treatments)
          )
        end
      end

      private

      def treatments(ids)
        Records::TreatmentTarget.where(product_id: ids).pluck(:product_id, :treatment_id)
                                .group_by(&:first).transform_values { |pairs| pairs.map(&:last) }
      end

      def own(record, money, treatments)
        price = record.price_minor && GateMile::Money.new(record.price_minor, money).to_s
        { sku: record.sku, name: record.name, price: price, weight: record.weight, length: record.length,
          width: record.width, height: record.height, class: record.shipping_class_id, tags: record.tags,
          hazardous: record.hazardous, ships: record.ships, tax_class: record.tax_class_id,
          treatments: treatments.fetch(record.id, []) }
      end
    end
  end
end
