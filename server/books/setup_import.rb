# frozen_string_literal: true

module Server
  # Takes a whole setup from a book file: into an empty shop, or in the place of what is there, as one undoable change.
  # What comes, goes and changes can be seen first. Accounts and secrets of carriers are in no file: those of carriers
  # that stay are kept.
  class SetupImport
    # Lists as merchants know them, with the field that names an item.
    NAMED = { "zones" => "name", "shipping_methods" => "name", "offers" => "name", "rules" => "name",
              "products" => "sku",
              "shipping_classes" => "name", "tax_classes" => "name", "treatments" => "name",
              "customer_groups" => "name", "coupons" => "code",
              "carriers" => "name", "boxes" => "name", "proofs" => "name" }.freeze
    # Names of each kind that are shown.
    SHOWN = 12
    private_constant :NAMED, :SHOWN

    # @param document [Hash] a book document
    # @return [Hash] the same, checked and in full: for {new}
    # @raise [Problem] 422 with every fault at its place
    def self.compiled(document)
      book = GateMile::Book.compile(document).dump
      region = book["store"]["holiday_region"]
      return book if region.nil? || BankHolidays.regions.include?(region)

      raise GateMile::Invalid, [GateMile::Problem.new(pointer: "/store/holiday_region", code: :unknown_id, numbers: {})]
    rescue GateMile::Invalid => e
      raise Problem.of_invalid(e, under: "/book")
    end

    # @param book [Hash] as {.compiled} returns it
    def initialize(book)
      @book = book
    end

    # @return [Hash] SetupImported of the contract: what would come and go
    def preview = Database.read { told(changes) }

    # @param seen [Integer, nil] the revision at which it was seen what comes and goes
    # @return [Hash] SetupImported of the contract
    # @raise [Problem] 409 where somebody changed something since it was seen
    def store(seen = nil)
      unless Records::Store.current
        unchanged(seen)
        return begin_with
      end

      done = nil
      History.edit("import", "setup", -> { { name: @book["store"]["name"] } }) do
        unchanged(seen)
        found = changes
        done = told(found)
        History.exchange(found)
      end
      done
    end

    private

    def unchanged(seen)
      return if seen.nil? || seen == Records::Store.revision

      raise Problem.new(409, "Something was changed in the meantime. Look at what would come and go now.")
    end

    def begin_with
      BookRecords.write(@book)
      told(SetupRows.now.transform_values { |rows| rows.transform_values { |row| [nil, row] } })
    end

    # @return [Hash{String => Hash}] by table and id the row before and after, where they differ; nil for none
    def changes
      now = SetupRows.now
      rows = SetupRows.new(@book, now).rows
      SetupRows::TABLES.to_h do |table|
        ids = now[table].keys | rows[table].keys
        pairs = ids.to_h { |id| [id, [now[table][id], rows[table][id]]] }
        [table, pairs.reject { |_, (before, after)| before == after }]
      end
    end

    def told(found)
      lists = NAMED.to_h do |table, field|
        pairs = found[table].values + inner(found, table)
        [table, { come: names(pairs.select { |before, _| before.nil? }, field), go: names(pairs.select do |_, after|
          after.nil?
        end, field),
                  change: names(pairs.select { |before, after| before && after }, field) }]
      end
      { lists: lists, store: found["stores"].any?, rates: sides(found["rates"]), revision: Records::Store.revision }
    end

    # A zone of which only areas change is changed too.
    def inner(found, table)
      return [] unless table == "zones"

      ids = found["areas"].values.map { |before, after| (after || before)["zone_id"] }.uniq - found["zones"].keys
      Records::Zone.where(id: ids).map { |zone| [{ "name" => zone.name }] * 2 }
    end

    def names(pairs, field)
      all = pairs.map { |before, after| (after || before)[field] }
      { count: all.size, names: all.first(SHOWN) }
    end

    def sides(pairs)
      { come: pairs.values.count { |before, _| before.nil? }, go: pairs.values.count { |_, after| after.nil? },
        change: pairs.values.count { |before, after| before && after } }
    end
  end
end
