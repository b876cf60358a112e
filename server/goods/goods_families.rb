# frozen_string_literal: true

module Server
  # Brings the rows of an import together with their products, which may stand in the file or in the shop already.
  class GoodsFamilies
    # What is known of a product: id, whether its row is good, its family, the last place behind it, and what its
    # variants have from it.
    Known = Struct.new(:id, :good, :family, :last, :own)
    private_constant :Known

    # @param index [GoodsIndex]
    # @param shop [GoodsInShop]
    def initialize(index, shop)
      @index = index
      @shop = shop
      @known = {}
      @family = shop.last_family
    end

    # @param rows [Array<GoodsImport::Row>] of one slice
    # @return [void] notes on them which product each belongs to, and what stands against it
    def relate(rows)
      parents = parents_of(rows)
      rows.each do |row|
        row.id = row.old ? row.old["id"] : Records::Base.new_id
        key = GateMile::Product.fold(row.cells["variant_of"].to_s)
        if row.old.nil? then belong(row, key, parents)
        elsif row.cells.key?("variant_of") then stay(row, key, parents)
        end
        inherit(row, parents)
      end
    end

    # Takes note of a product of the file that others may belong to.
    # @param row [GoodsImport::Row]
    # @return [void]
    def know(row)
      return unless @index.wanted?(row.key) && @index.line(row.key) == row.line && !row.columns["parent_id"]

      family = row.old ? row.old["family"] : nil
      own = (row.old || {}).merge(row.columns).slice(*GoodsRows::OF_PRODUCTS)
      @known[row.key] = Known.new(row.id, row.good?, family, nil, own)
    end

    # @param row [GoodsImport::Row] that comes
    # @return [Hash] where it stands in the catalogue
    def place(row)
      known = @known.values_at(GateMile::Product.fold(row.cells["variant_of"].to_s)).first if row.columns["parent_id"]
      return { "family" => known.family, "position" => known.last += 1 } if known

      @family += 1
      @known[row.key].family = @family if @known.key?(row.key)
      { "family" => @family, "position" => 0 }
    end

    private

    # Products of the shop that rows of the slice belong to, by id.
    def parents_of(rows)
      ids = rows.flat_map do |row|
        [row.old && row.old["parent_id"], @index.id(GateMile::Product.fold(row.cells["variant_of"].to_s))]
      end.compact.uniq
      return {} if ids.empty?

      found = @shop.rows(ids).to_h { |row| [row["id"], row] }
      lasts = @shop.last_places(ids)
      found.each_value { |row| remember(row, lasts.fetch(row["id"], 0)) }
      found
    end

    def remember(row, last)
      key = GateMile::Product.fold(row["sku"])
      known = @known[key] ||= Known.new(row["id"], true, row["family"], nil, row.slice(*GoodsRows::OF_PRODUCTS))
      known.family ||= row["family"]
      known.last ||= last
    end

    def belong(row, key, _parents)
      return if key.empty?
      return row.tell("variant_of", Words.of(:variant_of_variant)) if @index.variant_of?(key) && key != row.key

      known = @known[key]
      unless known&.good && key != row.key
        return row.tell("variant_of",
                        Words.of(:no_parent, sku: row.cells["variant_of"]))
      end

      known.last ||= 0
      row.columns["parent_id"] = known.id
    end

    # What is there already does not move.
    def stay(row, key, parents)
      now = parents[row.old["parent_id"]]
      row.tell("variant_of", Words.of(:other_parent)) if key != (now ? GateMile::Product.fold(now["sku"]) : "")
    end

    # What a variant has from its product may stand in its row too, as long as it is the same.
    def inherit(row, parents)
      theirs = product_of(row, parents) or return
      usual = GoodsRows.raw(Records::GoodsField::OF_PRODUCTS.to_h { |field| [field.column, field.usual] })
      Records::GoodsField::OF_PRODUCTS.each do |field|
        value = row.columns.delete(field.column)
        next if row.cells[field.name].to_s.strip.empty? || value == (theirs[field.column] || usual[field.column])

        row.tell(field.name, Words.of(:from_its_product))
      end
    end

    def product_of(row, parents)
      return @known[GateMile::Product.fold(row.cells["variant_of"].to_s)]&.own if row.columns["parent_id"]

      there = row.old && parents[row.old["parent_id"]] or return
      @known[GateMile::Product.fold(there["sku"])]&.own || there
    end
  end
end
