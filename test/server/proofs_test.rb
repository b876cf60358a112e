# frozen_string_literal: true

require_relative "../support/server"

# Proofs through the whole stack: kept, run after each edit, accepted, taken out and in.
class ProofsTest < Minitest::Test
  include ServerSupport

  CART = { "lines" => [{ "sku" => "CHT-PASS-F", "quantity" => 3 }], "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } }.freeze
  ABROAD = CART.merge("destination" => { "country" => "DE" }).freeze

  def setup = fresh(WHOLE_DEMO.merge("proofs" => []))

  def keep(cart = CART, **fields) = api(:post, "/api/proofs", { cart: cart, **fields })
  def states = api(:get, "/api/proofs/state").values_at("holds", "changed", "unclear")
  def suite = Server::App.settings.suite

  def edit(path, fields)
    list, id = path.split("/").last(2)
    version = find(list, id).fetch("lock_version")
    api(:patch, path, { **fields, lock_version: version })
    assert_equal 200, status, last_response.body
  end

  # The whole job through the doors; every answer is held against the contract.
  def test_kept_changed_accepted_and_taken_back
    made = keep(note: "Charts go free", tags: ["charts"])
    assert_equal "3 × Passage chart, folded, to GB TR29 4ZZ", made["name"]
    assert_equal "#{made["name"]} (2)", keep["name"]
    assert_equal [2, 0, 0], states
    edit("/api/methods/next-day", active: false)
    assert_equal [0, 2, 0], states
    listed = api(:get, "/api/proofs?state=changed&limit=1&tag=charts&find=passage")
    assert_equal [2, 1, 1], [listed["total"], listed["found"], listed["proofs"].size]
    assert_equal [{ "code" => "gone", "method" => "next-day", "wanted" => { "kind" => "exact", "amount" => "9.80" } }],
                 listed["proofs"][0]["outcome"]["departures"]
    parting = api(:get, "/api/proofs/#{made["id"]}/parting")
    assert_equal([%w[next-day 9.80], nil, { "kind" => "method", "id" => "next-day", "field" => "active" }],
                 parting["methods"].first.then { |one| [one.values_at("method", "before"), one["after"], one["setting"]] })
    assert_equal 1, api(:post, "/api/proofs/accept", { ids: [made["id"], "gone"] })["count"]
    assert_equal [1, 1, 0], states
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
    assert_equal [0, 2, 0], states
  end

  # An edit asks again only what it touches; one of a proof only that one.
  def test_only_what_an_edit_touches_is_run_again
    3.times { keep }
    keep(ABROAD)
    states
    edit("/api/rates/uk-pallet", plan: { schedule: { kind: "flat", amount: "39.00" } })
    assert_equal [1, 3, 0], states
    moving = suite.run(now: suite.run.now)
    assert_equal 3, moving.asked
    edit("/api/zones/north-america", name: "America")
    assert_equal [1, 3, 0], states
    # In the same minute none is asked: nothing of North America counts for them.
    assert_includes [0, 4], suite.run.asked
    id = api(:get, "/api/proofs?limit=1")["proofs"][0]["proof"]["id"]
    version = api(:get, "/api/proofs?limit=1")["proofs"][0]["proof"]["lock_version"]
    api(:patch, "/api/proofs/#{id}", { expects: { zone: "mainland" }, lock_version: version })
    assert_equal [2, 2, 0], states
    assert_includes [1, 4], suite.run.asked
  end

  # Where it changed before anybody had looked, the books that are kept tell what it got.
  def test_what_it_got_is_known_though_nobody_looked
    made = keep
    edit("/api/methods/next-day", active: false)
    suite.clear
    assert_equal "9.80", api(:get, "/api/proofs/#{made["id"]}/parting")["methods"].find { |one| one["method"] == "next-day" }["before"]
    Server::App.settings.shelf.clear
    suite.clear
    assert_nil api(:get, "/api/proofs/#{made["id"]}/parting")["before"]
  end

  def test_what_is_wrong_is_told_at_its_place
    refused = api(:post, "/api/proofs", { cart: { lines: [{ sku: "A", quantity: 1 }] }, expects: { methods: [{ method: "m", is: "exact", amount: "4,50" }] } })
    assert_equal [422, ["/expects/methods/0/amount"]], [status, pointers(refused)]
    assert_equal [422, ["/cart/lines/0/quantity"]], [api(:post, "/api/proofs", { cart: { lines: [{ sku: "A", quantity: 0 }] } }).then do |one|
      [status, pointers(one)]
    end].first
    made = keep(name: "One")
    assert_equal ["/name"], pointers(keep(name: "one"))
    api(:patch, "/api/proofs/#{made["id"]}", { note: "first", lock_version: 0 })
    assert_equal 200, status
    stale = api(:patch, "/api/proofs/#{made["id"]}", { note: "second", lock_version: 0 })
    assert_equal [409, "first"], [status, stale["current"]["note"]]
    assert_equal(422, api(:get, "/api/proofs?state=green").then { status })
    assert_equal(404, api(:get, "/api/proofs/gone/parting").then { status })
    assert_equal(404, api(:post, "/api/walk", { zone: "gone" }).then { status })
    assert_equal(422, api(:post, "/api/walk", { zone: "a", rate: "b" }).then { status })
  end

  # What goes leaves proofs behind that are neither green nor red; what comes back makes them green again.
  def test_goods_that_are_gone
    keep
    fresh(WHOLE_DEMO.merge("products" => WHOLE_DEMO["products"].reject { |one| one["sku"].start_with?("CHT-PASS") }, "proofs" => [Server::BookDocument.read["proofs"][0]]))
    assert_equal [0, 0, 1], states
    made = api(:post, "/api/products", { sku: "CHT-PASS-F", name: "Chart", price: "15.40", weight: "0.12 kg" })
    assert_equal [201, [0, 1, 0]], [status, states], made
  end

  def imported(csv, store: true)
    api(:post, "/api/proofs/import", { csv: csv, store: store })
    JSON.parse(last_response.body.lines.last)
  end

  # Out and in again nothing is changed; into an empty shop it is the same.
  def test_out_and_in_as_csv
    fresh(WHOLE_DEMO)
    csv = api(:get, "/api/proofs.csv")
    assert_equal WHOLE_DEMO["proofs"].size, imported(csv)["result"]["unchanged"].size
    assert_equal WHOLE_DEMO["proofs"], Server::BookDocument.read["proofs"]
    fresh(WHOLE_DEMO.merge("proofs" => []))
    assert_equal WHOLE_DEMO["proofs"].size, imported(csv)["result"]["created"].size
    assert_equal(WHOLE_DEMO["proofs"].map { |one| one.except("id") }, Server::BookDocument.read["proofs"].map { |one| one.except("id") })
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
    assert_nil Server::BookDocument.read["proofs"]
  end

  # The demo's own proofs hold, of every kind.
  def test_the_demo_holds
    fresh(WHOLE_DEMO)
    assert_equal [WHOLE_DEMO["proofs"].size, 0, 0], states
    kinds = WHOLE_DEMO["proofs"].flat_map { |one| one["expects"].fetch("methods", []).map { |method| method["is"] } }
    assert_equal %w[at_least at_most exact free not_offered offered], kinds.uniq.sort
    assert(WHOLE_DEMO["proofs"].any? { |one| one["recorded"] } && WHOLE_DEMO["proofs"].any? { |one| one["weekdays"] })
  end

  # Good rows are taken, the others told by their line and column.
  def test_a_file_with_faults
    csv = <<~CSV
      proof,goods,country,methods,when,expects_nothing
    CSV
    assert_equal 422, imported(csv)["problem"]["status"]
    csv = <<~CSV
      proof,goods,country,methods,when,cart
      Good,2 * CHT-PASS-F,DE,TRACKED offered,,
      Good,2 * CHT-PASS-F,DE,TRACKED offered,,
      Goods,two charts,DE,TRACKED offered,,
      Price,2 * CHT-PASS-F,DE,TRACKED about 5,,
      Moment,2 * CHT-PASS-F,DE,TRACKED = 5,soon,
      Json,2 * CHT-PASS-F,DE,TRACKED = 5,,{x
      Nothing,2 * CHT-PASS-F,DE,,,
      Message,"{""name"":""A | B"",""quantity"":1}",DE,"TRACKED <= 5 (cheapest) ""Ring | us"" | AIR not offered",1 2 at 09:00,
    CSV
    told = imported(csv)["result"]
    assert_equal %w[Good Message], told["created"]
    assert_equal([[3, "proof"], [4, "goods"], [5, "methods"], [6, "at"], [7, "cart"], [8, "expects"]],
                 told["faults"].map { |one| [one["line"], one["detail"][/\A\w+/]] })
    kept = Server::BookDocument.read["proofs"].last
    assert_equal [{ "method" => "tracked", "is" => "at_most", "amount" => "5.00", "marks" => ["cheapest"], "messages" => ["Ring | us"] },
                  { "method" => "air", "is" => "not_offered" }], kept["expects"]["methods"]
    assert_equal [[1, 2], "09:00", "A | B"], [kept["weekdays"], kept["time"], kept.dig("cart", "lines", 0, "name")]
  end

  # Many at once: how far it is is told, every tenth is faulty, and one undo takes all of them back.
  def test_ten_thousand_in_a_file
    rows = Array.new(10_000) { |at| "Proof #{at},#{at % 10 == 9 ? "nothing" : "#{(at % 7) + 1} * CHT-PASS-F"},GB,TRACKED offered" }
    api(:post, "/api/proofs/import", { csv: "proof,goods,country,methods\n#{rows.join("\n")}", store: true })
    lines = last_response.body.lines.map { |line| JSON.parse(line) }
    assert_operator lines.count { |line| line["total"] == 10_000 }, :>, 20
    assert_equal([9000, 1000], lines.last["result"].then { |told| [told["created"].size, told["faults"].size] })
    assert_equal 9000, api(:get, "/api/proofs/state")["total"]
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
    assert_equal 0, api(:get, "/api/proofs/state")["total"]
  end

  # A walk is kept with one action, once.
  def test_a_walk_is_kept
    walk = api(:post, "/api/walk", { zone: "mainland" })
    carts = walk["carts"].map { |one| { name: "Walk", cart: one["cart"], at: one["at"], tags: ["walk"] } }
    kept = api(:post, "/api/proofs/keep", { proofs: carts })
    assert_equal [201, carts.size, 0], [status, kept["count"], kept["there"]]
    assert_equal [carts.size, 0, 0], states
    assert_equal [0, carts.size], api(:post, "/api/proofs/keep", { proofs: carts }).values_at("count", "there")
    edit("/api/rates/uk-pallet", plan: { schedule: { kind: "flat", amount: "38.01" } })
    assert_operator states[1], :>, 5
    ids = api(:get, "/api/proofs?limit=500")["proofs"].map { |one| one["proof"]["id"] }
    assert_equal ids.size, api(:post, "/api/proofs/remove", { ids: ids })["count"]
    assert_equal(%w[rate offer], %w[rate offer].select do |kind|
      api(:post, "/api/walk", { kind => { "rate" => "uk-tracked", "offer" => "free-75" }[kind] })["carts"].any?
    end)
  end

  # Carriers are asked when a cart is kept, and not again until somebody says so.
  def test_live_prices_are_recorded
    made = keep(CART.merge("destination" => { "country" => "IE" }), name: "Live")
    assert_equal [0, 0, 1], states
    assert_equal "not_recorded", api(:get, "/api/proofs")["proofs"][0]["outcome"]["unclear"][0]["code"]
    assert_equal 1, api(:post, "/api/proofs/record", { ids: [made["id"]] })["count"]
    own = Server::Records::Proof.find(made["id"])
    api(:patch, "/api/proofs/#{made["id"]}", { expects: { methods: [{ method: "tracked", is: "offered" }] }, lock_version: own.lock_version })
    assert_equal [1, 0, 0], states
    version = Server::Records::Proof.find(made["id"]).lock_version
    api(:delete, "/api/proofs/#{made["id"]}?lock_version=#{version}")
    assert_equal [204, [0, 0, 0]], [status, states]
  end
end
