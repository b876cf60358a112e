# frozen_string_literal: true

module Server
  # One change for many products: a selection, or everything that a filter finds. What a variant has from its product is
  # left alone in variants.
  class GoodsBulk
    SHOWN = 12
    TREATMENTS = %w[treatment_add treatment_remove].freeze
    TAGS = %w[tags_add tags_remove].freeze

    # @param scope [Hash] `ids`, or what {GoodsQuery} takes
    # @param set [Hash] what to set, by field; tags_add, tags_remove, treatment_add, treatment_remove
    # @param sure [Boolean]
    # @raise [Problem] 422 at the field of `set` that can't be taken
    def initialize(scope, set, sure:)
      @scope = scope
      @set = set
      @fields = Records::GoodsFields.new.whole
      @columns = read(set.except(*TREATMENTS, *TAGS), sure)
      @faults = []
    end

    # @param store [Boolean] do it, or only say what it would do
    # @param shop [GoodsInShop]
    # @return [Hash] GoodsBulkDone of the contract
    def run(store:, shop: GoodsInShop.new)
      @shop = shop
      found = rows
      changes = found.filter_map { |row| change(row) }
      targets = target_changes(found.map { |row| row["id"] })
      if store
        History.write("products", changes)
        History.write("treatment_targets", targets)
      end
      touched = (changes.map(&:first) + on(targets)).to_set
      { found: found.size, changed: touched.size, inheriting: @inheriting.to_i, faults: @faults, stored: store,
        samples: samples(found, changes, touched) }
    end

    private

    def read(set, sure)
      faults = []
      columns = set.map do |field, value|
        @fields.read(field, value, sure: sure)
      rescue Records::GoodsFields::Fault => e
        faults << { pointer: "/set/#{field}", code: e.code, detail: e.message, suggestion: e.suggestion }.compact
        {}
      end.reduce({}, :merge)
      raise Problem.new(422, Problem::TITLES[422], errors: faults) if faults.any?

      GoodsRows.raw(columns)
    end

    def rows
      @shop.found(@scope).each_slice(GoodsInShop::MANY).flat_map { |ids| @shop.rows(ids).index_by { |row| row["id"] }.values_at(*ids).compact }
    end

    def change(row)
      wanted = @columns
      wanted = wanted.merge("tags" => JSON.generate(tags(row))) if @set.keys.intersect?(TAGS)
      wanted = left_to_products(wanted) if row["parent_id"]
      after = wanted.reject { |column, value| row[column] == value }
      return if after.empty? || faulty?(row, after)

      [row["id"], row.slice(*after.keys), after]
    end

    def left_to_products(wanted)
      own = wanted.except(*GoodsRows::OF_PRODUCTS)
      @inheriting = @inheriting.to_i + 1 if own.size < wanted.size
      own
    end

    def tags(row)
      now = JSON.parse(row["tags"]) + @set.fetch("tags_add", [])
      gone = @set.fetch("tags_remove", []).map { |tag| GateMile::Product.fold(tag) }
      now.map(&:strip).reject { |tag| tag.empty? || gone.include?(GateMile::Product.fold(tag)) }
         .uniq { |tag| GateMile::Product.fold(tag) }.first(GateMile::Product::TAGS)
    end

    def faulty?(row, after)
      code = GoodsRows.fault(row.merge(after)) or return false
      @faults << { sku: row["sku"], detail: Words.of(code) }
    end

    def target_changes(ids)
      added = @set["treatment_add"]
      removed = @set["treatment_remove"]
      treatment = added || removed or return []
      there = ids.each_slice(GoodsInShop::MANY).flat_map { |some| @shop.targets(treatment, some) }
      return TreatmentTargets.gone(there) if removed

      TreatmentTargets.come(added, product_id: ids - there.map { |row| row["product_id"] })
    end

    def on(targets) = targets.map { |_, before, after| (after || before)["product_id"] }

    def samples(found, changes, touched)
      by_id = changes.to_h { |id, before, after| [id, [before, after]] }
      found.select { |row| touched.include?(row["id"]) }.first(SHOWN).map do |row|
        before, after = by_id.fetch(row["id"], [{}, {}])
        columns = after.keys.without(*Records::GoodsField::DERIVED)
        { sku: row["sku"], name: row["name"],
          changes: columns.map { |column| GoodsRows.shown(column, before[column], after[column], @fields) } }
      end
    end
  end
end
