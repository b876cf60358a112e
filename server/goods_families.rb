# frozen_string_literal: true

module Server
  # Brings the rows of an import together with their products, which may stand in the file or in the shop already.
  class GoodsFamilies
    DEFAULTS = { "ships" => 1, "hazardous" => 0, "tags" => "[]", "packing" => "any" }.freeze
    private_constant :DEFAULTS

    # @param rows [Array<GoodsImport::Row>]
    # @param there [Hash{String => Hash}] rows of the shop by folded SKU
    def initialize(rows, there)
      @rows = rows
      # Of rows with the same SKU the first one counts.
      @by_key = rows.reverse.to_h { |row| [row.key, row] }
      @there = there
      @by_id = there.each_value.to_h { |row| [row["id"], row] }
    end

    # @return [void] notes on the rows which product each belongs to, and what stands against it
    def relate
      @rows.each do |row|
        belong(row, GateMile::Product.fold(row.cells["variant_of"].to_s)) if row.cells.key?("variant_of")
        inherit(row)
      end
    end

    private

    def belong(row, key)
      return stay(row, key) if row.old
      return if key.empty?

      parent = @by_key[key] || @there[key]
      return row.tell("variant_of", Words.of(:no_parent, sku: row.cells["variant_of"])) unless usable?(parent, row)
      return row.tell("variant_of", Words.of(:variant_of_variant)) if variant?(parent)

      row.columns["parent_id"] = parent.is_a?(GoodsImport::Row) ? parent : parent["id"]
    end

    # What is there already does not move.
    def stay(row, key)
      now = @by_id[row.old["parent_id"]]
      row.tell("variant_of", Words.of(:other_parent)) if key != (now ? GateMile::Product.fold(now["sku"]) : "")
    end

    def usable?(parent, row)
      return !parent.nil? unless parent.is_a?(GoodsImport::Row)

      parent.good? && !parent.equal?(row)
    end

    def variant?(parent)
      return parent["parent_id"] unless parent.is_a?(GoodsImport::Row)

      parent.old ? parent.old["parent_id"] : parent.cells["variant_of"].to_s.strip != ""
    end

    # What a variant has from its product may stand in its row too, as long as it is the same.
    def inherit(row)
      theirs = product_of(row) or return
      GoodsRows::OF_PRODUCTS.each do |column|
        value = row.columns.delete(column)
        field = GoodsRows::FIELDS.fetch(column, column)
        next if row.cells[field].to_s.strip.empty? || value == (theirs[column] || DEFAULTS[column])

        row.tell(field, Words.of(:from_its_product))
      end
    end

    def product_of(row)
      parent = row.columns["parent_id"] || row.old&.fetch("parent_id")
      return @by_id[parent] unless parent.is_a?(GoodsImport::Row)

      (parent.old || {}).merge(parent.columns)
    end
  end
end
