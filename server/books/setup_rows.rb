# frozen_string_literal: true

module Server
  # A book as rows of the database, so that it can be compared with the rows that are there: what is the same keeps its
  # id and its place.
  class SetupRows
    # Tables of the setup, each behind those that its rows point to.
    TABLES = %w[stores tax_classes boxes shipping_classes zones areas carriers shipping_methods rates customer_groups
                coupons offers rules treatments products treatment_targets proofs].freeze
    # What stands in a row and in no book.
    OWN = { "stores" => %w[opening_cart revision], "carriers" => %w[address account secret] }.freeze
    LISTS = { "boxes" => "Box", "tax_classes" => "TaxClass", "shipping_classes" => "ShippingClass", "zones" => "Zone",
              "carriers" => "Carrier",
              "shipping_methods" => "ShippingMethod", "customer_groups" => "CustomerGroup", "coupons" => "Coupon",
              "offers" => "Offer",
              "rules" => "Rule", "treatments" => "Treatment", "proofs" => "Proof" }.freeze
    private_constant :LISTS

    # @return [Hash{String => Hash{Object => Hash}}] rows by table and id, as the database holds them
    def self.now
      connection = ActiveRecord::Base.connection
      TABLES.to_h do |table|
        rows = connection.select_all("SELECT * FROM #{connection.quote_table_name(table)}").to_a
        [table, rows.to_h { |row| [row["id"], row.except("lock_version", "revision")] }]
      end
    end

    # @param record [Records::Base]
    # @return [Hash] its row, as the database would hold it
    def self.plain_row(record)
      row = record.attributes_for_database.except("lock_version", "revision")
      row.transform_values { |value| { true => 1, false => 0 }.fetch(value, value) }
    end

    # @param book [Hash] a book document as the core writes it
    # @param now [Hash] of {.now}
    def initialize(book, now)
      @book = book
      @now = now
    end

    # @return [Hash{String => Hash{Object => Hash}}] rows by table and id
    def rows
      @rows ||= { "stores" => store, **listed, "areas" => areas, "rates" => rates, "products" => products,
                  "treatment_targets" => targets }
    end

    private

    def documents
      store = @book["store"]
      { "boxes" => store.fetch("boxes", []), "tax_classes" => store.fetch("tax_classes", []),
        "shipping_classes" => @book["classes"],
        "zones" => @book["zones"], "carriers" => @book.fetch("carriers", []), "shipping_methods" => @book["methods"],
        "customer_groups" => @book.fetch("groups", []), "coupons" => @book.fetch("coupons", []),
        "offers" => @book.fetch("offers", []),
        "rules" => @book.fetch("rules", []), "treatments" => @book["treatments"],
        "proofs" => @book.fetch("proofs", []) }
    end

    # A record that says what a document says, as the database would hold it.
    def raw(model, said, also = {})
      record = model.new
      said.each { |column, value| record[column] = value if model.said.include?(column) }
      also.each { |column, value| record[column] = value }
      kept = OWN.fetch(model.table_name, []).to_h { |column| [column, @now[model.table_name].dig(record.id, column)] }
      SetupRows.plain_row(record).merge(kept.except("revision"))
    end

    def store = { 1 => raw(Records::Store, @book["store"], "id" => 1) }

    def listed
      documents.to_h do |table, items|
        model = Records.const_get(LISTS.fetch(table))
        places = places(table, items.map { |item| item["id"] })
        [table, items.to_h do |item|
          [item["id"], raw(model, item, "id" => item["id"], "position" => places.fetch(item["id"]))]
        end]
      end
    end

    # Rows that stand in their old order keep their places, and what comes behind them has the next.
    def places(table, ids, among = @now[table].values)
      in_order(among.sort_by { |row| [row["position"], row["id"]] }.to_h { |row| [row["id"], row["position"]] }, ids)
    end

    def in_order(there, ids)
      kept = there.slice(*(there.keys & ids))
      return ids.each.with_index(1).to_h unless ids.first(kept.size) == kept.keys

      last = there.values.max.to_i
      kept.merge(ids.drop(kept.size).each.with_index(1).to_h { |id, at| [id, last + at] })
    end

    def areas
      @book["zones"].flat_map do |zone|
        among = @now["areas"].values.select { |row| row["zone_id"] == zone["id"] }
        rows = areas_of(zone, among.dup)
        places = places("areas", rows.map { |row| row["id"] }, among)
        rows.map { |row| row.merge("position" => places.fetch(row["id"])) }
      end.to_h { |row| [row["id"], row] }
    end

    # Areas have no ids in a book: those that say the same are the same.
    def areas_of(zone, there)
      zone["areas"].map do |area|
        row = raw(Records::Area, area, "zone_id" => zone["id"])
        same = there.find { |one| one.except("id", "position") == row.except("id", "position") }
        row.merge("id" => there.delete(same)&.fetch("id") || Records::Base.new_id)
      end
    end

    def rates
      @book["rates"].group_by { |rate| rate["zone"] }.flat_map do |zone, list|
        among = @now["rates"].values.select { |row| row["zone_id"] == zone }
        places = places("rates", list.map { |rate| rate["id"] }, among)
        list.map do |rate|
          raw(Records::Rate, rate, "id" => rate["id"], "zone_id" => zone, "shipping_method_id" => rate["method"],
                                   "position" => places.fetch(rate["id"]))
        end
      end.to_h { |row| [row["id"], row] }
    end

    def products
      @ids = @now["products"].values.to_h { |row| [GateMile::Product.fold(row["sku"]), row["id"]] }
      goods = GoodsColumns.new(GateMile::Currency[@book["store"]["currency"]])
      family = families
      @book["products"].flat_map do |product|
        id = id_of(product)
        own = goods.row(product, "id" => id, "parent_id" => nil, "family" => family.fetch(id), "position" => 0)
        [own, *product.fetch("variants", []).each.with_index(1).map do |variant, at|
          goods.row(variant, "id" => id_of(variant), "parent_id" => id, "family" => family.fetch(id), "position" => at)
        end]
      end.to_h { |row| [row["id"], row] }
    end

    def families
      ids = @book["products"].map { |product| id_of(product) }
      there = @now["products"].values.reject { |row| row["parent_id"] }.sort_by { |row| [row["family"], row["id"]] }
                              .to_h { |row| [row["id"], row["family"]] }
      in_order(there, ids)
    end

    def id_of(item) = @ids[GateMile::Product.fold(item["sku"])] ||= Records::Base.new_id

    def targets
      there = @now["treatment_targets"].values.to_h do |row|
        [row.values_at("treatment_id", "product_id", "shipping_class_id"), row["id"]]
      end
      on = @book["classes"].flat_map { |item| item.fetch("treatments", []).map { |id| [id, nil, item["id"]] } }
      goods = @book["products"].flat_map { |product| [product, *product.fetch("variants", [])] }
      on += goods.flat_map { |item| item.fetch("treatments", []).map { |id| [id, @ids.fetch(GateMile::Product.fold(item["sku"])), nil] } }
      on.uniq.to_h do |key|
        id = there[key] || Records::Base.new_id
        [id, { "id" => id, "treatment_id" => key[0], "product_id" => key[1], "shipping_class_id" => key[2] }]
      end
    end
  end
end
