# frozen_string_literal: true

require_relative "../support/server"

class GoodsServerTest < Minitest::Test
  include ServerSupport

  COLUMNS = Server::GoodsCsv::COLUMNS

  def setup = fresh

  def test_what_goes_out_as_csv_comes_back_as_it_was
    exported = api(:get, "/api/products.csv")
    read = import("\uFEFF#{exported}", store: false)
    assert_equal [66, 0, 0, 66, [], []], read.values_at("total", "created", "changed", "unchanged", "faults", "doubts")
    treatments = api(:get, "/api/treatments.csv")
    assert_equal DEMO["treatments"].size, api(:post, "/api/treatments/import", { csv: treatments, store: false })["unchanged"].size
    fresh(DEMO.merge("products" => [], "treatments" => [], "classes" => []))
    import(exported, store: true)
    api(:post, "/api/treatments/import", { csv: treatments, store: true })
    assert_equal [exported, treatments], [api(:get, "/api/products.csv"), api(:get, "/api/treatments.csv")]
    plain = ->(book) { GateMile::Book.compile(book).quote(GateMile::Cart.parse(CART, GateMile::Currency["GBP"]), at: Time.at(0)).dump["methods"].map { |method| method["price"] } }
    assert_equal plain.call(DEMO), plain.call(Server::BookDocument.read)
  end

  # Each kind of row once: what is good is taken as one change, the rest comes back with its reasons, and undo leaves no trace.
  def test_an_import_with_every_kind_of_row
    before = [api(:get, "/api/products.csv"), setup_now["classes"]]
    csv = <<~CSV
      Article number;Title;Price;Weight (g);Parent;Shipping class;colour
      buoy-40;Mooring buoy;48.00;3100;;Bulky;red
      CHT-PASS-F;Passage chart, folded;16.00;120;;Letter;
      STK-QUAY;Tarrow Quay sticker;1.50;4;;Letter;
      BUOY-41;Small buoy;4x;;;;
      BUOY-42;Large buoy;9;2500000;;;
      BUOY-43;;9;;;;
      BUOY-40;Twice;9;;;;
      ;No code;9;;;;
      OIL-JKT-XXL;Oilskin jacket, giant;;1800;OIL-JKT;;
      BUOY-40-S;Mooring buoy, short;;;BUOY-40;;
      BUOY-40-T;Of a variant;;;OIL-JKT-S;;
      BUOY-44;Lost;;;NOPE;;
    CSV
    head = api(:post, "/api/products/csv/head", { csv: csv.lines.first(3).join })
    assert_equal(
      { "sku" => "Article number", "name" => "Title", "price" => "Price", "weight" => "Weight (g)", "variant_of" => "Parent",
        "class" => "Shipping class" }, head["mapping"]
    )
    assert_equal({ "weight" => "g" }, head["units"])
    read = import(csv, store: false, mapping: head["mapping"])
    assert_equal before, [api(:get, "/api/products.csv"), setup_now["classes"]]
    assert_equal [12, 3, 1, 1, ["Bulky"]], read.values_at("total", "created", "changed", "unchanged", "new_classes")
    assert_equal([[5, "price"], [7, "name"], [8, "sku"], [9, "sku"], [12, "variant_of"], [13, "variant_of"]], read["faults"].map do |fault|
      fault.values_at("line", "field")
    end)
    assert_equal([[6, "2500000", nil]], read["doubts"].map { |doubt| doubt.values_at("line", "weight", "meant") })
    assert_equal 7, CSV.parse(read["faulty_csv"], col_sep: ",").size
    assert_equal "There is no product NOPE to be a variant of.", CSV.parse(read["faulty_csv"]).last.last
    import(csv, store: true, mapping: head["mapping"], sure: true)
    found = api(:get, "/api/products?q=buoy-4")["products"]
    assert_equal([["buoy-40", "3100 g"], ["BUOY-40-S", nil], ["BUOY-42", "2500000 g"]], found.map { |item| item.values_at("sku", "weight") })
    assert_equal [found.first["id"], "48.00"], [found[1]["parent"], found[1]["inherited"]["price"]]
    assert_equal "oil-jkt", api(:get, "/api/products?q=giant")["products"].first["inherited"]["sku"].downcase
    api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] })
    assert_equal before, [api(:get, "/api/products.csv"), setup_now["classes"].map { |item| item.merge("lock_version" => 0) }]
  end

  def test_tables_that_are_none
    { "" => "csv_no_header", "a\u0000" => "csv_encoding", "sku,\"x" => "csv_malformed" }.each do |csv, code|
      line = JSON.parse(import_raw(csv, { "sku" => "sku" }).lines.last)
      assert_equal code, line["problem"]["errors"].first["code"]
    end
    { { "name" => "name" } => "/mapping/sku", { "sku" => "sku", "name" => "sku" } => "/mapping/sku" }.each do |mapping, pointer|
      assert_equal pointer, JSON.parse(import_raw("sku,name\nA,B", mapping).lines.last)["problem"]["errors"].first["pointer"]
    end
    comma = import("sku,name,price,weight\nC,C,\"1,50\",\"0,2 kg\"\nD,D,\"2,50\",\"0,3\"", store: true, comma: true)
    assert_equal [1, 1], [comma["created"], comma["faults"].size], "a unit after the comma is no bare figure"
    assert_equal "0.3 kg", api(:get, "/api/products?q=D&sort=sku&descending=true")["products"].find { |item| item["sku"] == "D" }["weight"]
    csv = "treatment,pays,products,charge\nNew,apart,NOPE,1\nOther,apart,STK-QUAY,1: 2; 1: 3\nGood,along,STK-QUAY,\nGood,along,STK-QUAY,\n"
    read = api(:post, "/api/treatments/import", { csv: csv, store: true })
    assert_equal [["Good"], [2, 3, 5]], [read["created"], read["faults"].map { |fault| fault["line"] }]
  end

  def test_cells_that_were_pasted
    rows = api(:get, "/api/products?q=shackle&limit=4")["products"]
    sent = rows.zip(["0.1", "heavy", "99999", "12 oz"]).map do |row, weight|
      { id: row["id"], lock_version: row["lock_version"], cells: { weight: weight, class: "letter", price: "2.10" } }
    end
    sent.first[:cells][:sku] = rows.last["sku"].downcase
    sent[3][:lock_version] += 1
    done = api(:post, "/api/products/cells", { rows: sent })
    assert_equal 7, done["stored"]
    faults = done["faults"].map { |fault| [rows.index { |row| row["id"] == fault["id"] }, fault["field"], fault["code"]] }
    assert_equal [[0, "sku", "invalid"], [1, "weight", "not_a_measure"], [2, "weight", "doubtful_weight"],
                  [3, "weight", "stale"], [3, "class", "stale"], [3, "price", "stale"]],
                 faults
    assert_equal "99999 g", done["faults"][2]["suggestion"]
    assert_equal(["0.1 kg", rows[1]["weight"], rows[2]["weight"]], done["products"].sort_by do |row|
      rows.index do |old|
        old["id"] == row["id"]
      end
    end.first(3).map { |row| row["weight"] })
    again = { id: rows[2]["id"], lock_version: done["products"].find { |row| row["id"] == rows[2]["id"] }["lock_version"], cells: { weight: "99999" } }
    assert_equal 1, api(:post, "/api/products/cells", { rows: [again], sure: true })["stored"]
    variant = api(:get, "/api/products?q=OIL-JKT-L")["products"].first
    told = api(:post, "/api/products/cells", { rows: [{ id: variant["id"], lock_version: 0, cells: { tags: "warm", weight: "" } }] })
    assert_equal [1, ["tags"]], [told["stored"], told["faults"].map { |fault| fault["field"] }]
  end

  def test_one_change_for_many
    exported = api(:get, "/api/products.csv")
    ask = ->(set, store: false, scope: { filter: "no_size" }) { api(:post, "/api/products/bulk", { scope: scope, set: set, store: store }) }
    size = { length: "10", width: "10 cm", height: "4 in" }
    plan = ask.call(size)
    count = api(:get, "/api/products?filter=no_size")["total"]
    assert_equal [count, count, exported], [plan["found"], plan["changed"], api(:get, "/api/products.csv")]
    assert_equal(%w[length width height], plan["samples"].first["changes"].map { |change| change["field"] })
    assert_equal count, ask.call({ length: "10" })["faults"].size, "a size in part"
    ask.call(size, store: true)
    assert_equal 0, api(:get, "/api/products?filter=no_size")["total"]
    tagged = ask.call({ tags_add: %w[sale SALE], tags_remove: ["Clothing"], hazardous: true, class: nil }, store: true, scope: { q: "oilskin" })
    assert_equal [8, 6], tagged.values_at("found", "inheriting")
    assert_equal [["sale"], true, nil], api(:get, "/api/products?tag=Sale")["products"].first.values_at("tags", "hazardous", "class")
    treatment = setup_now["treatments"].find { |item| item["name"] == "Dinghy by pallet" }["id"]
    assert_equal 6, ask.call({ treatment_add: treatment }, store: true, scope: { filter: "variants", q: "oilskin" })["changed"]
    assert_equal 7, api(:get, "/api/products?treatment=#{treatment}")["total"]
    ask.call({ treatment_remove: treatment }, store: true, scope: { treatment: treatment })
    assert_equal 0, api(:get, "/api/products?treatment=#{treatment}")["total"]
    5.times { setup_now["history"]["undo"]&.then { |change| api(:post, "/api/history/undo", { change: change["id"] }) } }
    assert_equal exported, api(:get, "/api/products.csv")
  end

  # What goes takes its name out of the treatments; one that was limited to it alone is off, never suddenly everywhere.
  def test_treatments_of_a_zone_or_method_that_goes
    by_name = -> { setup_now["treatments"].to_h { |item| [item["name"], item] } }
    before = by_name.call
    method = find("methods", "tracked")
    api(:delete, "/api/methods/tracked?lock_version=#{method["lock_version"]}")
    after = by_name.call
    assert_equal [false, nil], after["Charts post free"].values_at("active", "methods")
    assert_equal [true, %w[next-day air]], after["Over-length"].values_at("active", "methods")
    api(:delete, "/api/methods/pallet?lock_version=0")
    assert_equal(["collect"], by_name.call["Anchors by the piece"]["price"]["by_method"].map { |item| item["method"] })
    GateMile::Book.compile(Server::BookDocument.read)
    2.times { api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] }) }
    assert_equal(before.transform_values { |item| item.except("lock_version") }, by_name.call.transform_values { |item| item.except("lock_version") })
  end

  # The index and the filters against a plain look at every row.
  def test_goods_are_found_as_a_plain_look_finds_them
    all = api(:get, "/api/products?limit=500")["products"]
    own = ->(item, field) { item[field] || item.dig("inherited", field) }
    ships = ->(item) { item["inherited"] ? item["inherited"]["ships"] : item["ships"] }
    plain = { "no_weight" => ->(item) { own.call(item, "weight").nil? && ships.call(item) }, "no_class" => ->(item) { own.call(item, "class").nil? },
              "no_size" => ->(item) { own.call(item, "length").nil? && ships.call(item) }, "variants" => ->(item) { item["parent"] },
              "no_shipping" => ->(item) { !ships.call(item) }, "hazardous" => ->(item) { (item["inherited"] || item)["hazardous"] } }
    random = Random.new(6)
    words = all.flat_map { |item| item["name"].split + [item["sku"]] }.flat_map { |word| [word, word[1..], word[0, 2]] }.reject { |word| word.to_s.empty? }
    200.times do
      asked = words.sample(random.rand(0..2), random: random)
      filters = plain.keys.sample(random.rand(0..2), random: random)
      named = ->(item) { asked.all? { |word| item.values_at("name", "sku").any? { |text| text.downcase.include?(word.downcase) } } }
      expected = all.select { |item| named.call(item) && filters.all? { |filter| plain[filter].call(item) } }
      found = api(:get, "/api/products?limit=500&#{URI.encode_www_form(q: asked.join(" "), filter: filters.join(","))}")
      assert_equal expected.map { |item| item["sku"] }, found["products"].map { |item| item["sku"] }, [asked, filters].inspect
    end
    sorted = api(:get, "/api/products?limit=500&sort=weight")["products"]
    known = sorted.filter_map { |item| own.call(item, "weight") }.map { |weight| GateMile::Weight.parse(weight) }
    assert_equal known.sort, known
  end

  private

  def import_raw(csv, mapping, **also) = api(:post, "/api/products/import", { csv: csv, mapping: mapping, store: false, **also })

  def import(csv, store:, mapping: nil, **also)
    mapping ||= csv.delete_prefix("\uFEFF").lines.first.strip.split(",").to_h { |column| [column, column] }
    lines = import_raw(csv, mapping, **also, store: store).lines.map { |line| JSON.parse(line) }
    assert_nil lines.last["problem"]
    lines.last.fetch("result")
  end
end
