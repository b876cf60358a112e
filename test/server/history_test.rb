# frozen_string_literal: true

require_relative "../support/server"

class HistoryTest < Minitest::Test
  include ServerSupport

  # Any run of edits, undone one by one, leaves every state as it was, and redone, as it became.
  def test_undo_and_redo_walk_through_the_same_states
    Rounds.of(4).times do |seed|
      fresh(DEMO.merge("products" => DEMO["products"].first(4)))
      random = Random.new(seed)
      @known = nil
      states = [state]
      18.times do
        edit(random)
        states << state unless state == states.last
      end
      changes = Server::Records::Change.done.count
      back = Array.new(changes) { step("undo") }
      assert_same_walk states.reverse.drop(1), back
      forth = Array.new(changes) { step("redo") }
      assert_same_walk states.drop(1), forth
      assert_nil setup_now["history"]["redo"]
    end
    assert_operator @told, :>, 20, "most answers hold only what has changed"
  end

  # A database that was brought back may have come to the same revision in another way.
  def test_a_revision_of_another_journal_says_nothing
    now = setup_now
    since = ->(journal) { api(:get, "/api/setup/since?revision=#{now["revision"]}&journal=#{journal}") }
    assert_nil since.call(now["journal"])["whole"]
    assert_equal now, since.call("other")["whole"]
    Server::Journal.clear
    assert_equal now["zones"], since.call(now["journal"])["whole"]["zones"]
  end

  def test_a_new_edit_ends_what_could_be_redone
    api(:patch, "/api/zones/mainland", { lock_version: 0, name: "Britain" })
    step("undo")
    api(:post, "/api/methods", { name: "Mule" })
    assert_nil setup_now["history"]["redo"]
    assert_equal %w[create method], setup_now["history"]["undo"].values_at("action", "kind")
  end

  # What only the program can read is never told: a list, a code, an id.
  def test_a_change_tells_values_that_people_can_read
    flat = ->(amount) { { schedule: { kind: "flat", amount: amount } } }
    steps = { schedule: { kind: "steps", measure: "weight", steps: [{ at: "0 kg", amount: "4.00" }, { at: "2 kg", amount: "7.50" }] } }
    { [:rates, "ie-tracked", { plan: flat.call("11.50") }] => ["plan", "12.90", "11.50"],
      [:rates, "ie-tracked", { plan: steps }] => ["plan", nil, nil],
      [:zones, "ireland", { name: "Eire" }] => %w[name Ireland Eire],
      [:zones, "ireland", { active: false }] => %w[active true false] }.each do |(list, id, fields), told|
      now = find(list.to_s, id)
      api(:patch, "/api/#{list}/#{id}", { **fields, lock_version: now["lock_version"] })
      assert_equal 200, status
      assert_equal told, setup_now["history"]["undo"]["names"].values_at("fields", "from", "to"), fields.inspect
    end
    { { class: "Long" } => %w[shipping_class_id Heavy Long], { tax_class: "Books and charts" } => ["tax_class_id", "", "Books and charts"],
      { tags: "new; old" } => ["tags", nil, nil], { packing: "upright" } => ["packing", nil, nil] }.each do |cells, told|
      row = api(:get, "/api/products?q=ANC-06")["products"].first
      assert_equal 1, api(:post, "/api/products/cells", { rows: [{ id: row["id"], lock_version: row["lock_version"], cells: cells }] })["stored"]
      assert_equal told, setup_now["history"]["undo"]["names"].values_at("fields", "from", "to"), cells.inspect
    end
  end

  def test_records_and_books_are_two_forms_of_the_same
    compiled = GateMile::Book.compile(DEMO)
    assert_equal compiled.dump, GateMile::Book.compile(Server::BookDocument.read).dump
    asked = GateMile::Cart.parse(CART, compiled.currency)
    expected = compiled.quote(asked, at: Time.now).dump.except("at")
    assert_equal expected, api(:post, "/api/quote", CART).except("at")
  end

  # What the models refuse, the database refuses too.
  def test_constraints_stand_in_the_database
    zone = "INSERT INTO zones (id, name, active, position) VALUES"
    ["#{zone} ('a', 'ireland', 1, 1)", "#{zone} ('a', ' ', 1, 1)", "#{zone} ('a', '#{"x" * 121}', 1, 1)",
     "DELETE FROM zones WHERE id = 'mainland'", "INSERT INTO areas (id, zone_id, kind, position) VALUES ('a', 'mainland', 'country', 1)",
     "INSERT INTO rates (id, zone_id, shipping_method_id, active) VALUES ('a', 'mainland', 'tracked', 1)",
     "UPDATE products SET price_minor = -1", "INSERT INTO stores SELECT 2, name, country, currency, time_zone, weight_unit, length_unit,
      method_order, prices_include_tax, ship_from, opening_cart, revision, lock_version FROM stores"].each do |statement|
      assert_raises(ActiveRecord::StatementInvalid, statement) { ActiveRecord::Base.connection.execute(statement) }
    end
    pragmas = %w[journal_mode foreign_keys synchronous].map do |name|
      ActiveRecord::Base.connection.select_value("PRAGMA #{name}")
    end
    assert_equal ["wal", 1, 1], pragmas
  end

  def setup = fresh

  private

  def state
    drop = ->(list) { list.map { |item| item.except("lock_version") } }
    now = setup_now
    assert_up_to_date
    assert_brought_up_to_date(now)
    [now["store"].except("lock_version"),
     *%w[zones methods rates classes tax_classes treatments].map { |list| drop.call(now[list]) },
     drop.call(api(:get, "/api/products?limit=500")["products"])]
  end

  # The book that was brought up to date in part is the one that a fresh reading makes.
  def assert_up_to_date
    sorted = ->(dump) { dump.merge("products" => dump["products"].sort_by { |product| product["sku"] }) }
    fresh = GateMile::Book.compile(Server::BookDocument.read).dump
    kept = Server::App.settings.shelf.current.last.dump
    assert_equal sorted.call(fresh), sorted.call(kept)
  end

  # What a page knew, with what has changed since, is the setup as it stands.
  def assert_brought_up_to_date(now)
    since = api(:get, "/api/setup/since?revision=#{@known ? @known["revision"] : 0}&journal=#{now["journal"]}")
    found = since["whole"] || since["changes"].then do |changes|
      lists = changes["lists"].to_h { |list, told| [list, told["ids"].map { |id| (told["items"] + @known[list]).find { |one| one["id"] == id } }] }
      @known.merge(changes.except("lists"), lists)
    end
    @told = (@told || 0) + 1 if since["changes"]
    assert_equal now, found
    @known = now
  end

  # States are long: what is told is where the first one differs.
  def assert_same_walk(expected, walked)
    walked = walked.chunk_while { |a, b| a == b }.map(&:first)
    differing = expected.zip(walked).find { |a, b| a != b }
    parts = differing && differing[0].zip(differing[1].to_a).find { |a, b| a != b }
    assert_nil(parts&.map { |part| part.is_a?(Array) ? part - (parts[0] & parts[1]) : part })
    assert_equal expected.size, walked.size
  end

  def step(kind)
    api(:post, "/api/history/#{kind}", { change: setup_now["history"][kind]["id"] })
    assert_equal 200, status
    state
  end

  def edit(random)
    now = setup_now
    pick = ->(list) { list.sample(random: random) }
    zone, method, rate = %w[zones methods rates].map { |list| pick.call(now[list]) }
    name = "Name #{random.rand(1_000_000)}"
    case random.rand(17)
    when 0 then api(:post, "/api/zones",
                    { name: name, areas: [{ kind: "country", country: %w[JP BR NZ].sample(random: random) }] })
    when 1 then zone && edit_areas(zone, random)
    when 2 then zone && api(:delete, "/api/zones/#{zone["id"]}?lock_version=#{zone["lock_version"]}")
    when 3 then api(:put, "/api/zones/order", { ids: now["zones"].map { |found| found["id"] }.shuffle(random: random) })
    when 4 then api(:post, "/api/methods", { name: name })
    when 5 then method && random.rand(3).zero? && api(:delete,
                                                      "/api/methods/#{method["id"]}?lock_version=#{method["lock_version"]}")
    when 6 then rate && api(:patch, "/api/rates/#{rate["id"]}",
                            { lock_version: rate["lock_version"], plan: { schedule: { kind: "flat", amount: random.rand(99).to_s } } })
    when 7 then zone && api(:post, "/api/rates", { zone: zone["id"], new_method: { name: name }, active: false })
    when 8 then api(:patch, "/api/store",
                    { lock_version: now["store"]["lock_version"], name: name, ship_from: { country: "GB", lines: [name] } })
    when 9 then api(:post, "/api/products", { sku: name, name: name, price: "1.00", weight: "3 oz" })
    else edit_goods(now, random, name)
    end
    assert_includes [200, 201, 204], status, last_response.body
  end

  def edit_goods(now, random, name)
    item, group, treatment = [api(:get, "/api/products?limit=500")["products"], now["classes"], now["treatments"]].map { |list| list.sample(random: random) }
    case random.rand(10)
    when 0 then api(:post, "/api/classes", { name: name })
    when 1 then group && api(:delete, "/api/classes/#{group["id"]}?lock_version=#{group["lock_version"]}")
    when 2 then api(:post, "/api/treatments", { name: name, methods: now["methods"].first(1).pluck("id").presence, on: { products: [item].compact.pluck("id") },
                                                price: { kind: "apart", charge: { kind: "unit", amount: "1" } } })
    when 3 then treatment && api(:delete, "/api/treatments/#{treatment["id"]}?lock_version=#{treatment["lock_version"]}")
    when 4 then treatment && group && api(:post, "/api/treatments/#{treatment["id"]}/targets",
                                          { lock_version: treatment["lock_version"], add: { classes: [group["id"]] } })
    when 5 then item && api(:delete, "/api/products/#{item["id"]}?lock_version=#{item["lock_version"]}")
    when 6 then item && item["parent"].nil? && api(:post, "/api/products", { parent: item["id"], sku: name, name: name, class: group && group["id"] })
    when 7 then item && api(:post, "/api/products/cells",
                            { rows: [{ id: item["id"], lock_version: item["lock_version"], cells: { sku: name, weight: "#{random.rand(9) + 1} oz" } }] })
    when 8
      set = { class: group && group["id"], treatment_add: treatment && treatment["id"] }.compact
      api(:post, "/api/products/bulk", { scope: { filter: "no_class" }, set: set.merge(tags_add: [name], hazardous: true), store: true })
    else
      csv = "sku,name,price,class,variant_of\n#{name},#{name},2.00,Bulk,\n#{name}-1,One,,,#{name}\n"
      api(:post, "/api/products/import", { csv: csv, mapping: %w[sku name price class variant_of].index_by(&:itself), store: true })
    end
  end

  def edit_areas(zone, random)
    area = zone["areas"].sample(random: random)
    return api(:post, "/api/zones/#{zone["id"]}/copy", {}) if area.nil? || random.rand(4).zero?
    return api(:delete, "/api/areas/#{area["id"]}?lock_version=#{zone["lock_version"]}") if random.rand(3).zero?

    api(:patch, "/api/areas/#{area["id"]}", { lock_version: zone["lock_version"], except: "1#{random.rand(99)}, 2#" })
  end
end
