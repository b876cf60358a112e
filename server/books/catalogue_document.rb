# frozen_string_literal: true

module Server
  # The products of the database as they stand in a book document, variants under their products.
  module CatalogueDocument
    COLUMNS = ["id", "parent_id", *Records::GoodsField::ALL.map(&:column)].freeze
    OWN = Records::GoodsField::ALL.select(&:own?).freeze
    private_constant :COLUMNS, :OWN

    class << self
      # @param only [Array<String>, nil] ids of products, not of variants; nil for all
      # @return [Hash{String => Hash}] documents by id of the product, in the merchant's order
      # @raise [Problem] 503 while goods are being imported
      def products(only: nil)
        LongChange.refuse_half
        currency = Records::Store.current.money
        rows = rows(only)
        treatments = treatments(only && rows.map { |row| row["id"] })
        variants, products = rows.partition { |row| row["parent_id"] }
        by_product = variants.group_by { |row| row["parent_id"] }
        products.to_h do |row|
          own = by_product.fetch(row["id"], []).map { |variant| item(OWN, variant, currency, treatments) }
          made = item(Records::GoodsField::ALL, row, currency, treatments)
          made["variants"] = own if own.any?
          [row["id"], made]
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

      # Rows as they are kept: twenty thousand are read at a start, and need no objects of their own.
      def plucked(relation)
        Records::Product.connection.select_rows(relation.select(*COLUMNS).to_sql).map { |row| COLUMNS.zip(row).to_h }
      end

      # @return [Hash{String => Array<String>}] ids of treatments by row
      def treatments(ids)
        targets = Records::TreatmentTarget.joins(:treatment).where.not(product_id: nil)
                                          .order("treatments.position", "treatments.id")
        lists = ids ? ids.each_slice(500).map { |slice| targets.where(product_id: slice) } : [targets]
        lists.flat_map { |list| list.pluck(:product_id, :treatment_id) }
             .group_by(&:first).transform_values { |pairs| pairs.map(&:last) }
      end

      def item(fields, row, currency, treatments)
        made = {}
        fields.each do |field|
          said = field.document(row, currency)
          made[field.name] = said unless said.nil?
        end
        sides = row.slice(*GateMile::Sides::NAMES)
        made["size"] = sides if sides.each_value.all?
        found = treatments[row["id"]]
        made["treatments"] = found if found
        made
      end
    end
  end
end
