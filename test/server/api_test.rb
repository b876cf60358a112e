# frozen_string_literal: true

require_relative "../support/server"

class ApiTest < Minitest::Test
  include ServerSupport

  def setup = fresh

  # Every operation of the contract once, each answer held against its schema.
  def test_the_whole_contract
    api(:get, "/api/choices")
    api(:get, "/api/revision")
    api(:get, "/api/products?q=shackle%2010")
    zone = api(:post, "/api/zones", { name: "Baltic", areas: [{ kind: "country", country: "EE" }] })
    assert_equal 201, status
    zone = api(:post, "/api/zones/#{zone["id"]}/areas",
               { lock_version: 0, areas: [{ kind: "country", country: "LV", only: "1001, 10##; 2000 to 2999" }] })
    area = zone["areas"].last
    assert_equal({ "count" => 3, "clauses" => ["1001", "10##", "2000 to 2999"] }, area["only"])
    api(:patch, "/api/areas/#{area["id"]}", { lock_version: zone["lock_version"], only: "", except: "30" })
    assert_equal([[], ["30"]], api(:get, "/api/areas/#{area["id"]}").values_at("only", "except").map do |list|
      list["clauses"]
    end)
    zone = find("zones", zone["id"])
    zone = api(:delete, "/api/areas/#{area["id"]}?lock_version=#{zone["lock_version"]}")
    zone = api(:patch, "/api/zones/#{zone["id"]}", { lock_version: zone["lock_version"], name: "Baltic shore" })
    geography
    copied = api(:post, "/api/zones/highlands/copy", {})
    file = api(:get, "/api/setup/export")
    assert_equal([false, true], api(:post, "/api/setup/import", { book: file, store: false }).then { |told| [told["stored"], told["lists"].key?("zones")] })
    api(:post, "/api/methods/tracked/copy", {})
    api(:delete, "/api/methods/#{setup_now["methods"].find { |found| found["name"] == "Tracked, copy" }["id"]}?lock_version=0")
    assert_equal ["Copy of Highlands & Islands", 10], [copied["name"], copied["areas"].first["only"]["count"]]
    method = api(:post, "/api/methods", { name: "Ferry" })
    assert_equal "FERRY", method["code"]
    api(:patch, "/api/methods/#{method["id"]}", { lock_version: 0, promise: "weekly" })
    rate = api(:post, "/api/rates",
               { zone: zone["id"], method: method["id"], plan: { schedule: { kind: "flat", amount: "7.5" } } })
    other = api(:post, "/api/rates", { zone: zone["id"], new_method: { name: "Sledge" }, plan: nil })
    api(:patch, "/api/rates/#{rate["id"]}", { lock_version: 0, name: "By sea" })
    api(:put, "/api/zones/#{zone["id"]}/rates/order", { ids: [other["id"], rate["id"]] })
    assert_equal([other["id"], rate["id"]], setup_now["rates"].select do |found|
      found["zone"] == zone["id"]
    end.map { |found| found["id"] })
    api(:put, "/api/zones/order", { ids: setup_now["zones"].map { |found| found["id"] }.rotate })
    api(:put, "/api/methods/order", { ids: setup_now["methods"].map { |found| found["id"] }.reverse })
    product = api(:post, "/api/products", { sku: "NEW-1", name: "Sounding line", price: "12", weight: "1.5 lb" })
    product = api(:patch, "/api/products/#{product["id"]}", { lock_version: 0, price: "13.00" })
    api(:delete, "/api/products/#{product["id"]}?lock_version=#{product["lock_version"]}")
    goods
    rates
    policies
    boxes
    some_carriers
    api(:patch, "/api/store", { lock_version: find_store, name: "Tarrow Quay", basis: { discounts: "before", tax: "without" } })
    assert_equal "priced", api(:post, "/api/quote", CART)["status"]
    before = setup_now["revision"]
    api(:patch, "/api/rates/uk-tracked", { lock_version: 0, plan: { schedule: { kind: "flat", amount: "4.50" } } })
    bench = api(:post, "/api/bench", { cart: CART, compare_to: before, preview: { rate: "ie-tracked", plan: nil } })
    assert_equal "5.95", bench["before"]["rates"]["uk-tracked"]
    assert_equal "incomplete", bench["board"].flat_map { |band|
      band["methods"]
    }.find { |found| found["rate"] == "ie-tracked" }["status"]
    lines = api(:post, "/api/lines",
                { cart: CART, measure: "weight", most: "5 kg", preview: { rate: "uk-tracked", plan: { schedule: { kind: "flat", amount: "3" } } } })["lines"]
    assert_equal([["0 kg", "5 kg", "3.00"]], lines["uk-tracked"].map { |piece| piece.values_at("from", "to", "price") })
    proof = api(:post, "/api/proofs", { cart: CART })
    api(:patch, "/api/proofs/#{proof["id"]}", { note: "Kept", lock_version: 0 })
    assert_operator api(:get, "/api/proofs")["total"], :>=, 1
    assert_operator api(:get, "/api/proofs/state")["holds"], :>=, 1
    assert_equal "priced", api(:get, "/api/proofs/#{proof["id"]}/parting")["after"]["status"]
    assert_includes api(:get, "/api/proofs.csv"), "Kept"
    assert_includes api(:post, "/api/proofs/import", { csv: "proof,goods\n", store: false }), "result"
    %w[accept record].each { |what| assert_equal 1, api(:post, "/api/proofs/#{what}", { ids: [proof["id"]] })["count"] }
    walked = api(:post, "/api/walk", { rate: "uk-pallet" })["carts"].first
    assert_equal 1, api(:post, "/api/proofs/keep", { proofs: [{ name: "Walked", cart: walked["cart"] }] })["count"]
    assert_equal 0, api(:post, "/api/proofs/remove", { ids: ["gone"] })["count"]
    version = api(:get, "/api/proofs")["proofs"].find { |one| one.dig("proof", "id") == proof["id"] }.dig("proof", "lock_version")
    api(:delete, "/api/proofs/#{proof["id"]}?lock_version=#{version}")
    rate = find("rates", other["id"])
    api(:delete, "/api/rates/#{rate["id"]}?lock_version=#{rate["lock_version"]}")
    method = find("methods", method["id"])
    api(:delete, "/api/methods/#{method["id"]}?lock_version=#{method["lock_version"]}")
    zone = find("zones", zone["id"])
    api(:delete, "/api/zones/#{zone["id"]}?lock_version=#{zone["lock_version"]}")
    newest = api(:get, "/api/history")["changes"].first
    assert_equal newest["id"], api(:get, "/api/setup/since?revision=0&journal=x").dig("whole", "history", "undo", "id")
    assert_equal 2, api(:post, "/api/several", { asks: [{ path: "/api/proofs/state" }, { path: "/api/bench", body: { cart: CART } }] }).lines.size
    assert_kind_of Array, api(:post, "/api/history/effects", { cart: CART })["effects"]
    assert_equal ["delete", "zone", "Baltic shore"], [newest["action"], newest["kind"], newest["names"]["name"]]
    undone = api(:post, "/api/history/undo", { change: newest["id"] })
    api(:post, "/api/history/redo", { change: undone["history"]["redo"]["id"] })
    assert_equal 1, going_live
    people
    fresh(nil)
    api(:post, "/api/store", SHOP)
    known = Server::Contract.source["paths"].flat_map { |path, verbs| (verbs.keys & %w[get post put patch delete]).map { |verb| [verb.to_sym, path] } }
    assert_empty known - ServerSupport.used
  end

  # What parts of the shop's pages ask, and a cart that is tried there.
  def as_shopper(**headers)
    cart = { lines: [{ sku: "LOG-A4", quantity: 1 }], destination: { country: "GB" } }
    api(:post, "/checkout/v1/served", { country: "GB" }, **headers)
    trial = api(:post, "/api/trials", { cart: cart })["trial"]
    assert_equal "LOG-A4", api(:get, "/checkout/v1/trials/#{trial}", **headers).dig("cart", "lines", 0, "sku")
    assert_nil api(:post, "/api/shopper/quotes", { cart: cart })["quote"]
    assert_equal 1, api(:post, "/api/shopper/quotes/batch", { carts: [cart] })["quotes"].size
    api(:get, "/api/shopper/served")
    api(:post, "/api/shopper/served", { country: "GB" })
  end

  # Publishing, the keys and the door, each call once.
  # @return [Integer] orders that there are then
  def going_live
    number = api(:post, "/api/releases", { revision: setup_now["revision"] })["number"]
    assert_equal number, api(:get, "/api/releases")["live"]
    api(:get, "/api/releases/#{number}/book")
    api(:get, "/api/releases/changes?from=#{number}&to=#{number}")
    later = api(:post, "/api/releases/#{number}/return", { at: "2999-01-01T00:00" })
    api(:delete, "/api/publications/#{later["id"]}")
    assert_empty api(:get, "/api/releases/state")["planned"]
    key = api(:post, "/api/keys", { name: "Shop", calls: %w[quotes orders methods served offers state] })
    key = api(:post, "/api/keys/#{key.dig("made", "id")}/rotate", { hours: 1 })
    edit_beside("/api/keys/#{key.dig("made", "id")}", { pace: 300 })
    api(:patch, "/api/door", { holds_minutes: 20, lock_version: api(:get, "/api/door")["lock_version"] })
    through_the_door("HTTP_AUTHORIZATION" => "Bearer #{key["key"]}")
    as_shopper("HTTP_AUTHORIZATION" => "Bearer #{key["key"]}")
    api(:post, "/checkout/v1/notices", { nothing_offered: 0, carriers_down: [] }, "HTTP_AUTHORIZATION" => "Bearer #{key["key"]}")
    api(:get, "/api/keys")["keys"].each { |one| api(:delete, "/api/keys/#{one["id"]}") }
    hooks
    assert_equal 1, api(:get, "/api/today").dig("orders", "placed")
    assert_kind_of Array, api(:get, "/api/turned-away?days=1")["groups"]
    assert_equal 2, api(:get, "/api/orders.csv").lines.size
    api(:get, "/api/orders/7")
    assert_equal "3.1.0", api(:get, "/api/reference")["openapi"]
    FileUtils.mkdir_p(Server::Nightly.folder)
    Server::Backup.write(Server::Nightly.file(Date.new(2026, 1, 5)))
    assert_equal(["2026-01-05"], api(:get, "/api/backups")["nights"].map { |night| night["date"] })
    %w[now 2026-01-05].each { |one| assert_equal "SQLite format 3\0", api(:get, "/api/backups/#{one}")[0, 16] }
    FileUtils.rm_rf(Server::Nightly.folder)
    assert_equal 404, api(:get, "/api/backups/2026-01-05")["status"]
    api(:get, "/api/orders")["count"]
  end

  # Accounts, each call once.
  def people
    words = { password: "lantern gravel whistle" }
    current = { current: words[:password] }
    ann = api(:post, "/api/joining/first", { name: "Ann", email: "ann@tarrow.example", **words })["person"]
    code = ROTP::TOTP.new(api(:post, "/api/me/codes", current)["secret"])
    api(:put, "/api/me/codes", { code: code.now })
    api(:post, "/api/me/codes/recovery", current)
    api(:post, "/api/me/codes/off", current)
    edit_beside("/api/me", { name: "Ann Quay" })
    api(:delete, "/api/session")
    api(:post, "/api/session", { email: "ann@tarrow.example", **words })
    assert_equal ann["id"], api(:get, "/api/session").dig("person", "id")
    api(:delete, "/api/me/sessions/others")
    links = Array.new(2) { api(:post, "/api/invitations", { role: "editor" }) }
    api(:delete, "/api/invitations/#{links[1].dig("made", "id")}")
    ben = invited(links[0]["link"], words)
    edit_beside("/api/people/#{ben}", { role: "viewer" })
    api(:post, "/api/people/#{ben}/reset")
    %W[/api/people/#{ben}/codes /api/people/#{ben}/sessions /api/people/#{ben}].each { |path| api(:delete, path) }
    assert_equal [1, 1], [api(:get, "/api/people")["people"].size, api(:get, "/api/me")["sessions"].size]
    assert_includes api(:get, "/api/audit")["entries"].map { |entry| entry["what"] }, "person_removed"
  end

  # @return [String] id of whoever has joined by the link; the owner stays signed in
  def invited(link, words)
    cookie = rack_mock_session.cookie_jar.to_hash["gate-mile"]
    api(:post, "/api/joining/look", { link: link })
    id = api(:post, "/api/joining", { link: link, name: "Ben", email: "ben@tarrow.example", **words }).dig("person", "id")
    clear_cookies
    set_cookie("gate-mile=#{cookie}")
    id
  end

  def hooks
    hook = api(:post, "/api/webhooks", { url: "http://127.0.0.1:9/hooks", events: %w[release.published] })["made"]
    edit_beside("/api/webhooks/#{hook["id"]}", { events: %w[proof.failing] })
    api(:post, "/api/webhooks/#{hook["id"]}/test")
    api(:post, "/api/deliveries/#{api(:get, "/api/webhooks")["deliveries"].first["id"]}/resend")
    api(:delete, "/api/webhooks/#{hook["id"]}")
  end

  def through_the_door(bearer)
    cart = { lines: [{ name: "Else", quantity: 1, unit_price: "5.00", weight: "1 kg" }], destination: { country: "GB", postcode: "TR29 4ZZ" } }
    quote = api(:post, "/checkout/v1/quotes", { cart: cart }, **bearer)
    api(:post, "/checkout/v1/quotes/batch", { carts: [cart] }, **bearer)
    %w[methods served offers].each { |call| api(:get, "/checkout/v1/#{call}", **bearer) }
    api(:get, "/checkout/v1/book/#{api(:get, "/checkout/v1/state", **bearer)["release"]["number"]}", **bearer)
    2.times { api(:post, "/checkout/v1/orders", { order: "7", quote: quote["quote"], method: quote["methods"].first["code"] }, **bearer) }
    api(:patch, "/checkout/v1/orders/7", { state: "returned" }, **bearer)
  end

  def test_bad_input_is_a_problem_at_its_field_and_never_a_500
    plan = ->(amount) { { lock_version: 0, plan: { schedule: { kind: "flat", amount: amount } } } }
    { "-1" => "/plan/schedule/amount", "4.505" => "/plan/schedule/amount", "four" => "/plan/schedule/amount", "" => "/plan/schedule/amount",
      "9" * 40 => "/plan/schedule/amount", 4.5 => "/plan/schedule/amount", nil => "/plan/schedule/amount" }.each do |amount, pointer|
      assert_equal [422, [pointer]], refused(:patch, "/api/rates/uk-tracked", plan.call(amount)), amount.inspect
    end
    [
      [:post, "/api/zones", { name: "x" * 300 }, "/name"], [:post, "/api/zones", { name: " " }, "/name"],
      [:post, "/api/zones", { name: "IRELAND" }, "/name"], [:post, "/api/zones", { name: "a\nb" }, "/name"], [:post, "/api/zones", {}, "/name"],
      [:post, "/api/zones", { name: 7 }, "/name"], [:post, "/api/zones", { name: "N", colour: "red" }, "/colour"],
      [:post, "/api/zones", { name: "N", areas: [{ kind: "country", country: "XX" }] }, "/areas/0/country"],
      [:post, "/api/zones", { name: "N", areas: [{ kind: "country" }] }, "/areas/0/country"],
      [:post, "/api/zones", { name: "N", areas: [{ kind: "world" }, { kind: "world" }] }, "/areas/1/country"],
      [:post, "/api/zones", { name: "N", areas: [{ kind: "regions", country: "IE", regions: ["ENG"] }] }, "/areas/0/regions/0"],
      [:post, "/api/zones", { name: "N", areas: [{ kind: "regions", country: "IE" }] }, "/areas/0/regions"],
      [:post, "/api/zones/ireland/areas", { lock_version: 0, areas: [{ kind: "country", country: "DE", only: "10115, 1999 to 1000" }] }, "/areas/0/only/2"],
      [:post, "/api/zones/ireland/areas", { lock_version: 0, areas: [{ kind: "country", country: "IE" }] }, "/areas/0/country"],
      [:post, "/api/clauses", { country: "XX", text: "1" }, "/country"], [:post, "/api/landing", { country: "XX" }, "/country"],
      [:post, "/api/rates", { zone: "nowhere", method: "air" }, "/zone"], [:post, "/api/rates", { zone: "mainland", method: "nothing" }, "/method"],
      [:post, "/api/rates", { zone: "mainland", method: "tracked" }, "/method"],
      [:post, "/api/rates", { zone: "mainland", new_method: { name: "" } }, "/new_method/name"],
      [:post, "/api/methods", { name: "Air 2", code: "air" }, "/code"], [:patch, "/api/rates/uk-tracked", { name: "x" }, "/lock_version"],
      [:post, "/api/products", { sku: "cht-pass-f", name: "N", price: "1" }, "/sku"], [:post, "/api/products", { sku: "N", name: "N", price: "-1" }, "/price"],
      [:post, "/api/products", { sku: "N", name: "N", price: "1", weight: "-1 kg" }, "/weight"],
      [:post, "/api/products", { sku: "N", name: "N", price: "1", length: "3 cm" }, "/width"],
      [:patch, "/api/store", { lock_version: 0, currency: "JPY" }, "/currency"],
      [:patch, "/api/store", { lock_version: 0, time_zone: "Mars/Base" }, "/time_zone"],
      [:post, "/api/quote", { lines: [{ sku: "A", quantity: 0 }] }, "/lines/0/quantity"],
      [:post, "/api/quote", { lines: [{ sku: "A", quantity: 1_000_000_000 }] }, "/lines/0/quantity"],
      [:post, "/api/products", { sku: "N", name: "N", price: "1", weight: "25000" }, "/weight"],
      [:post, "/api/products", { sku: "N", name: "N", price: "1,5" }, "/price"],
      [:post, "/api/products", { sku: "N", name: "N", price: "1", class: "gone" }, "/class"],
      [:post, "/api/products", { sku: "N", name: "N", parent: "gone" }, "/parent"], [:post, "/api/tax-classes", { name: "T", rate: "120" }, "/rate"],
      [:post, "/api/treatments", { name: "T", methods: ["gone"] }, "/methods"], [:post, "/api/treatments", { name: "T", zones: [] }, "/zones"],
      [:post, "/api/treatments", { name: "T", on: { products: ["gone"] } }, "/on/products"],
      [:post, "/api/treatments", { name: "T", price: { kind: "apart", charge: { kind: "whole", steps: [{ from: 1, amount: "1" }] * 2 } } },
       "/price/charge/steps/1/from"],
      [:get, "/api/products?filter=blue", nil, "/filter"], [:post, "/api/products/bulk", { scope: {}, set: { weight: "-1 kg" }, store: false }, "/set/weight"],
      [:post, "/api/quote", { lines: [], destination: { country: "ZZ" } }, "/destination/country"],
      [:post, "/api/bench", { cart: { lines: [{ sku: "A", quantity: 0 }] } }, "/cart/lines/0/quantity"],
      [:post, "/api/bench", { cart: CART, preview: { rate: "uk-tracked", plan: { schedule: { kind: "flat", amount: "1.234" } } } },
       "/preview/plan/schedule/amount"]
    ].each do |verb, path, body, pointer|
      code, pointers = refused(verb, path, body)
      assert_equal [422, true], [code, pointers.include?(pointer)], "#{path} #{body}: #{code} #{pointers}"
    end
    assert_equal DEMO["rates"].size, setup_now["rates"].size
    assert_nil setup_now["history"]["undo"], "a refused edit leaves no trace"
  end

  def test_decimals_follow_the_currency
    fresh(nil)
    api(:post, "/api/store", SHOP.merge("currency" => "JPY"))
    zone = setup_now["zones"].first["id"]
    assert_equal [422, ["/plan/schedule/amount"]],
                 refused(:post, "/api/rates",
                         { zone: zone, new_method: { name: "Post" }, plan: { schedule: { kind: "flat", amount: "4.5" } } })
    assert_empty setup_now["methods"], "the method of a refused rate is not left behind"
  end

  def test_the_doors
    assert_equal([400, 400, 400], ["{", "", "\xFF\xFE"].map { |body| refused(:post, "/api/zones", body).first })
    assert_equal 422, refused(:post, "/api/zones", "[1]").first
    assert_equal 413, refused(:post, "/api/zones", { name: "x" * 1_100_000 }).first
    assert_equal 415, refused(:post, "/api/zones", "name=N", CONTENT_TYPE: "application/x-www-form-urlencoded").first
    assert_equal 403, refused(:post, "/api/zones", { name: "N" }, HTTP_ORIGIN: "https://elsewhere.example").first
    header "Host", "shop.elsewhere.example"
    get "/api/setup"
    assert_equal [403, "application/problem+json"], [last_response.status, last_response.content_type]
    assert_equal 404, refused(:get, "/api/nothing", nil).first
    assert_equal 404, refused(:patch, "/api/zones/nothing", { lock_version: 0 }).first
  end

  def test_a_stale_edit_is_told_what_stands_there_now
    api(:patch, "/api/rates/uk-tracked", { lock_version: 0, plan: { schedule: { kind: "flat", amount: "5.00" } } })
    answer = api(:patch, "/api/rates/uk-tracked",
                 { lock_version: 0, plan: { schedule: { kind: "flat", amount: "6.00" } } })
    assert_equal [409, "5.00", 1],
                 [status, answer["current"]["plan"]["schedule"]["amount"], answer["current"]["lock_version"]]
    api(:delete, "/api/rates/uk-tracked?lock_version=0")
    assert_equal 409, status
    api(:put, "/api/zones/order", { ids: setup_now["zones"].map { |zone| zone["id"] }.drop(1) })
    assert_equal 409, status
    newest = setup_now["history"]["undo"]["id"]
    api(:post, "/api/history/undo", { change: newest + 1 })
    assert_equal 409, status
    api(:post, "/api/history/undo", { change: newest })
    api(:patch, "/api/rates/uk-tracked", { lock_version: 1, active: false })
    assert_equal 409, status, "an undo makes what was seen before it stale"
  end

  def test_a_shop_of_ones_own
    fresh(nil)
    assert_nil setup_now["store"]
    %w[findings coverage served].each { |path| assert_equal 404, refused(:get, "/api/#{path}", nil).first }
    %w[history products choices geography zones.csv].each { |path| assert_equal(200, api(:get, "/api/#{path}").then { status }) }
    assert_equal 404, refused(:post, "/api/zones", { name: "N" }).first
    assert_equal [422, %w[/name /currency]],
                 refused(:post, "/api/store", SHOP.merge("name" => " ", "currency" => "QQQ"))
    opened = api(:post, "/api/store", SHOP)
    assert_equal([["Ireland", true], ["All other countries", false]], opened["zones"].map do |zone|
      zone.values_at("name", "active")
    end)
    assert_nil opened["history"]["undo"]
    rate = api(:post, "/api/rates",
               { zone: opened["zones"].last["id"], new_method: { name: "Post" }, plan: { schedule: { kind: "flat", amount: "20" } } })
    assert setup_now["zones"].last["active"], "its first rate switches a zone on"
    quote = api(:post, "/api/quote",
                { lines: [{ sku: "X", quantity: 1, unit_price: "3.00" }], destination: { country: "NZ" } })
    assert_equal [rate["id"], "20.00"], quote["methods"].first.values_at("rate", "price")
    assert_equal 409, refused(:post, "/api/store", SHOP).first
  end

  # 10,000 clauses at once are one edit like any other; duplicates are merged, and faults told by their place.
  def test_clauses_by_the_thousand
    list = Array.new(10_000) { |number| format("%05d", number * 7) }
    read = api(:post, "/api/clauses", { country: "DE", text: [*list, list.first, "1999 to 1000", "45!"].join("\n") })
    assert_equal [10_000, 1, [10_002, 10_003]], [read["clauses"].size, read["duplicates"], read["faults"].map do |fault|
      fault["line"]
    end]
    area = find("zones", "near-europe")["areas"].find { |found| found["country"] == "DE" }
    zone = api(:patch, "/api/areas/#{area["id"]}", { lock_version: 0, only: list.join(", ") })
    kept = zone["areas"].find { |found| found["id"] == area["id"] }["only"]
    assert_equal [10_000, 40], [kept["count"], kept["clauses"].size]
    assert_equal "near-europe",
                 api(:post, "/api/quote",
                     CART.merge("destination" => { country: "DE", postcode: "00049" }))["landing"]["zone"]
    assert_equal "not_served",
                 api(:post, "/api/quote", CART.merge("destination" => { country: "DE", postcode: "00050" }))["status"]
  end

  def test_tables_that_are_none
    api(:post, "/api/zones/import", { csv: "zone,active\nA,yes", store: true })
    assert_equal [422, ["/csv"]], [status, pointers(JSON.parse(last_response.body))]
    { "z\u0000o\u0000n\u0000e" => "csv_encoding", "country,postcode,colour\n" => "csv_foreign",
      "country,postcode\n\"x" => "csv_malformed" }.each do |csv, code|
      assert_equal code, api(:post, "/api/landings", { csv: csv })["errors"].first["code"]
    end
    exported = api(:get, "/api/zones.csv")
    assert_equal(DEMO["zones"].map do |zone|
      zone["name"]
    end, api(:post, "/api/zones/import", { csv: "\uFEFF#{exported}", store: false })["unchanged"])
    csv = ["zone,active,kind,country,regions,only,except", "Ireland,yes,country,IE,,D01; D02,", "Oslo,no,country,NO,,0001 to 1295,",
           "Oslo,no,regions,NO,99,,", ",yes,country,SE,,,"].join("\n")
    done = api(:post, "/api/zones/import", { csv: csv, store: true })
    assert_equal [["Oslo"], ["Ireland"], [4, 5]], [done["created"], done["changed"], done["faults"].map do |fault|
      fault["line"]
    end]
    api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] })
    assert_equal exported, api(:get, "/api/zones.csv")
  end

  # Every schedule of the demo goes out and comes back as it was; what is wrong is told at its line, and its rate stays.
  def test_schedules_as_csv
    fresh(WHOLE_DEMO)
    csv = api(:get, "/api/rates.csv")
    read = ->(text, store: false) { api(:post, "/api/rates/import", { csv: text, store: store }) }
    same = read.call(csv)
    assert_equal [[], [], []], same.values_at("created", "changed", "faults")
    assert_equal WHOLE_DEMO["rates"].count { |rate| rate["plan"] }, same["unchanged"].size
    head = csv.lines.first
    own = CSV.parse(api(:get, "/api/rates.csv?rate=uk-tracked"), headers: true)
    assert_equal 1, own.map { |row| row.values_at("zone", "method") }.uniq.size
    zone, method = own.first.values_at("zone", "method")
    steps = ["5 kg,,,,9.00", "0 kg,,,,4.00", "20 kg,,,,none"].map { |cells| "#{zone},#{method},,steps,weight,,#{cells},,,\n" }
    bad = ["Nowhere,#{method},,flat,,,,,,,4,,,\n", "Ireland,#{method},,grid,weight,,0 kg,value,,0,x,,,\n",
           "Ireland,#{method},,grid,weight,,0 kg,value,,9,1,,,\n"]
    taken = read.call(head + steps.join + bad.join, store: true)
    assert_equal [["#{zone}, #{method}"],
                  [[5, "zone: There is none called Nowhere."], [6, "cells: Write an amount like 4.50, with a point and without a currency sign."]]],
                 [taken["changed"], taken["faults"].map { |fault| fault.values_at("line", "detail") }]
    assert_equal([["0 kg", "4.00"], ["5 kg", "9.00"], ["20 kg", nil]],
                 find("rates", "uk-tracked")["plan"]["schedule"]["steps"].map { |step| step.values_at("at", "amount") })
  end

  private

  # What goes through many rates, and what is only read of them.
  def rates
    by_unit = { schedule: { kind: "first", first: "3.00", additional: "0.25" } }
    api(:patch, "/api/rates/uk-tracked", { lock_version: find("rates", "uk-tracked")["lock_version"], plan: by_unit })
    gates = api(:post, "/api/gates", CART)["gates"].select { |gate| gate["rate"] == "uk-tracked" }
    assert_equal([[1, "9.00"], [-1, "8.50"]], gates.map { |gate| gate.values_at("by", "price") })
    api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] })
    ask = { rates: %w[uk-tracked ie-tracked], percent: "10", amount: "-0.05" }
    shown = api(:post, "/api/rates/change", { **ask, store: false })
    assert_equal [{ "pointer" => "/schedule/amount", "before" => "5.95", "after" => "6.50" }], shown["rates"].first["amounts"]
    assert_equal "5.95", find("rates", "uk-tracked")["plan"]["schedule"]["amount"]
    api(:post, "/api/rates/change", { **ask, store: true })
    assert_equal "6.50", find("rates", "uk-tracked")["plan"]["schedule"]["amount"]
    assert_equal [422, ["/percent"]], refused(:post, "/api/rates/change", { **ask, percent: "101", store: true })
    api(:post, "/api/rates/uk-tracked/copy", { ids: ["ireland"] })
    assert_equal "6.50", find("rates", "ie-tracked")["plan"]["schedule"]["amount"]
    2.times { api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] }) }
    classes = api(:get, "/api/class-prices")
    assert_equal [[{ "price" => "5.95", "cause" => nil }] * 3], classes["rates"].find { |row| row["rate"] == "uk-tracked" }["prices"].uniq
    read = api(:post, "/api/from-to", { rows: [%w[0 2 4.95], %w[3 5 6]], measure: "weight", edges: "up_to", choices: { "gap:2 kg" => "lower" } })
    assert_equal([["0 kg", "4.95"], ["3 kg", "6.00"], ["5 kg", nil]], read["steps"].map { |step| step.values_at("at", "amount") })
    api(:post, "/api/rates/import", { csv: api(:get, "/api/rates.csv"), store: false })
    finding = api(:get, "/api/findings")["findings"].first
    refute finding["asleep"]
    api(:put, "/api/findings/asleep", { keys: [finding["key"]], asleep: true })
    assert_equal(finding.merge("asleep" => true), api(:get, "/api/findings")["findings"].find { |found| found["key"] == finding["key"] })
  end

  # Classes, treatments, tables and edits of many, each answer held against the contract.
  def goods
    group = api(:post, "/api/classes", { name: "Bulky" })
    group = api(:patch, "/api/classes/#{group["id"]}", { lock_version: 0, description: "Larger than a door" })
    api(:put, "/api/classes/order", { ids: setup_now["classes"].map { |item| item["id"] }.reverse })
    tax = api(:post, "/api/tax-classes", { name: "Reduced", rate: "5" })
    api(:patch, "/api/tax-classes/#{tax["id"]}", { lock_version: 0, rate: "5.5" })
    api(:put, "/api/tax-classes/order", { ids: setup_now["tax_classes"].map { |item| item["id"] }.rotate })
    oar, jacket = %w[OAR-240 OIL-JKT].map do |sku|
      api(:get, "/api/products?q=#{sku}&sort=sku&filter=no_shipping")["products"].first || api(:get, "/api/products?q=#{sku}")["products"].first
    end
    variant = api(:post, "/api/products", { parent: jacket["id"], sku: "OIL-JKT-XS", name: "Oilskin jacket, extra small", tax_class: nil })
    assert_equal [jacket["id"], nil, "129.00"], [variant["parent"], variant["price"], variant["inherited"]["price"]]
    treatment = api(:post, "/api/treatments", { name: "By the roof rack", methods: ["pallet"], on: { products: [oar["id"]], classes: [group["id"]] },
                                                price: { kind: "apart", charge: { kind: "whole", steps: [[1, "9"], [3, "7.5"]].map do |from, amount|
                                                  { from: from, amount: amount }
                                                end },
                                                         together: true } })
    assert_equal [[group["id"]], 1, "7.50"], [treatment["classes"], treatment["products"], treatment["price"]["charge"]["steps"].last["amount"]]
    path = "/api/treatments/#{treatment["id"]}"
    treatment = api(:patch, path, { lock_version: 0, travel: { never: ["air"] }, zones: ["mainland"] })
    bench = api(:post, "/api/bench", { cart: { lines: [{ sku: "OAR-240", quantity: 3 }], destination: { country: "GB", postcode: "TR29 4ZZ" } },
                                       preview: { treatment: treatment.slice("id", "name", "price") } })
    assert_equal "22.50", bench["quote"]["methods"].find { |method| method["method"] == "collect" }["price"]
    assert_equal "in_force", api(:get, "/api/products/#{oar["id"]}/treatments")["treatments"].first["state"]
    assert_equal({ "uk-pallet" => "38.00" },
                 api(:post, "/api/comparison",
                     { zone: "mainland", treatment: treatment["id"], quantities: [3] })["quantities"].first["rates"].slice("uk-pallet"))
    assert_equal(["OAR-240"], api(:get, "#{path}/targets")["products"].map { |item| item["sku"] })
    api(:post, "#{path}/targets", { lock_version: treatment["lock_version"], remove: { products: [oar["id"]] } })
    assert_equal 0, api(:get, "/api/treatments")["treatments"].find { |item| item["id"] == treatment["id"] }["count"]
    api(:put, "/api/treatments/order", { ids: setup_now["treatments"].map { |item| item["id"] }.reverse })
    api(:post, "/api/products/cells", { rows: [{ id: oar["id"], lock_version: oar["lock_version"], cells: { weight: "2.7", class: "bulky" } }] })
    assert_equal [1, 0], api(:get, "/api/classes")["classes"].find { |item| item["id"] == group["id"] }.values_at("products", "variants")
    api(:post, "/api/products/bulk", { scope: { class: group["id"] }, set: { tags_add: ["long"] }, store: true })
    csv = api(:get, "/api/products.csv")
    head = api(:post, "/api/products/csv/head", { csv: csv.lines.first(3).join })
    api(:post, "/api/products/import", { csv: csv, mapping: head["mapping"], store: false })
    api(:post, "/api/treatments/import", { csv: api(:get, "/api/treatments.csv"), store: false })
    api(:delete, "/api/classes/#{group["id"]}?lock_version=#{find("classes", group["id"])["lock_version"]}&move_to=long")
    api(:delete, "#{path}?lock_version=#{find("treatments", treatment["id"])["lock_version"]}")
    api(:delete, "/api/tax-classes/#{tax["id"]}?lock_version=#{find("tax_classes", tax["id"])["lock_version"]}")
  end

  def some_carriers
    carrier = api(:post, "/api/carriers", { name: "Tern Lines", services: [{ code: "T", name: "Tern" }] })
    carrier = api(:patch, "/api/carriers/#{carrier["id"]}", { lock_version: 0, account: "QUAY", address: "http://127.0.0.1:1" })
    assert_equal [422, ["/address"]], refused(:patch, "/api/carriers/#{carrier["id"]}", { lock_version: carrier["lock_version"], address: "tern" })
    api(:put, "/api/carriers/order", { ids: setup_now["carriers"].map { |item| item["id"] }.reverse })
    api(:get, "/api/carriers/state")
    assert_equal [422, ["/from"]], refused(:post, "/api/carriers/survey", { from: -1 })
    asked = api(:post, "/api/carriers/survey", { from: 0 })
    assert_equal [0, 0], asked.values_at("of", "failed"), "no live rate, nothing to ask"
    refute api(:post, "/api/carriers/#{carrier["id"]}/test", {})["ok"]
    rate = find("rates", "uk-next-day")
    asked = { services: [{ carrier: carrier["id"], service: "T" }], ladder: { silent: { kind: "plan" } } }
    live = api(:patch, "/api/rates/uk-next-day", { lock_version: rate["lock_version"], live: asked })["live"]
    assert_equal %w[cheapest none], [live["answer"], live["ladder"]["refused"]["kind"]]
    assert_equal "9.80", api(:post, "/api/quote", CART)["methods"].find { |method| method["rate"] == "uk-next-day" }["price"]
    api(:delete, "/api/carriers/#{carrier["id"]}?lock_version=#{find("carriers", carrier["id"])["lock_version"]}")
    assert_nil find("rates", "uk-next-day")["live"]
  end

  # Boxes one by one and as a table; a cart packed into them.
  def boxes
    sides = { length: "40 cm", width: "30 cm", height: "20 cm" }
    box = api(:post, "/api/boxes", { name: "Crate", size: sides, padding: "1 cm", tare: "500 g" })
    box = api(:patch, "/api/boxes/#{box["id"]}", { lock_version: 0, up_to: "12 kg", cost: "1.5" })
    assert_equal ["0.5 kg", "1.50"], [GateMile::Weight.parse(box["tare"]).as("kg").to_s, box["cost"]]
    assert_equal [422, ["/padding"]], refused(:patch, "/api/boxes/#{box["id"]}", { lock_version: box["lock_version"], padding: "10 cm" })
    api(:put, "/api/boxes/order", { ids: setup_now["boxes"].map { |item| item["id"] }.reverse })
    table = CSV.parse(api(:get, "/api/boxes.csv"), headers: true)
    same = api(:post, "/api/boxes/import", { csv: table.to_s, store: false })
    assert_equal [[], [], []], same.values_at("created", "changed", "faults")
    taken = api(:post, "/api/boxes/import", { csv: "box,length,width,height\nHat,30,30,20\nFlat,30,0,20\n", store: true })
    assert_equal [["Hat"], [[3, "width: This must be more than zero."]]], [taken["created"], taken["faults"].map(&:values)]
    drawn = api(:post, "/api/parcels", { cart: CART })
    assert_equal [nil, 26], [drawn["cause"], drawn["parcels"].sum { |parcel| parcel["units"] * parcel["times"] }]
    store = api(:patch, "/api/store", { lock_version: find_store, parcels: { kind: "boxes", divisor: "5000" } })
    assert_equal "boxes", store["parcels"]["kind"]
    parcel = api(:post, "/api/parcels", { cart: CART, rate: "uk-tracked" })["parcels"].first
    assert_includes setup_now["boxes"].map { |item| item["name"] }, parcel["box"]
    drawn_to_scale(parcel)
    api(:delete, "/api/boxes/#{box["id"]}?lock_version=#{find("boxes", box["id"])["lock_version"]}")
  end

  # In tenths of a millimetre: the room is the box's, less its padding on both sides, and the blocks fill as much of it
  # as is said.
  def drawn_to_scale(parcel)
    box = setup_now["boxes"].find { |one| one["name"] == parcel["box"] }
    tenths = ->(text) { text ? (text.to_r * { "mm" => 10, "cm" => 100 }.fetch(text.split.last)).to_i : 0 }
    sides = %w[length width height].map { |side| tenths.call(box["size"][side]) - (2 * tenths.call(box["padding"])) }
    assert_equal sides.sort, parcel["drawing"]["room"].sort
    blocks = parcel["drawing"]["blocks"]
    assert_operator blocks.size, :>, 0
    used = blocks.sum { |block| (block["dims"] + block["counts"]).inject(:*) }
    assert_equal parcel["fill"], used * 100 / sides.inject(:*)
  end

  # Registers, offers, rules, what they leave, and what a shop's page is told.
  def policies
    group = api(:post, "/api/groups", { name: "Islanders" })
    group = api(:patch, "/api/groups/#{group["id"]}", { lock_version: 0, name: "Island clubs" })
    coupon = api(:post, "/api/coupons", { code: "Spring", ends: "2030-01-01T00:00" })
    assert_equal [422, ["/code"]], refused(:post, "/api/coupons", { code: "SPRING " })
    coupon = api(:patch, "/api/coupons/#{coupon["id"]}", { lock_version: 0, note: "By post" })
    free = { name: "Free", effect: { kind: "free" }, threshold: { measure: "value", from: "20" }, groups: { except: [group["id"]] }, coupons: [coupon["id"]] }
    offer = api(:post, "/api/offers", free)
    offer = api(:patch, "/api/offers/#{offer["id"]}",
                { lock_version: 0, methods: ["tracked"], milepost: { texts: { reached: "Free by {method}", away: "{remaining} more" } } })
    assert_equal [422, ["/ends"]],
                 refused(:patch, "/api/offers/#{offer["id"]}", { lock_version: offer["lock_version"], starts: "2027-01-02T00:00", ends: "2027-01-01T00:00" })
    clubs = { all: [{ fact: "group", of: [group["id"]] }, { any: [{ fact: "quantity", from: "2" }] }] }
    rule = api(:post, "/api/rules", { name: "Clubs", when: clubs, then: [{ kind: "cap", amount: "2.00" }] })
    rule = api(:patch, "/api/rules/#{rule["id"]}", { lock_version: 0, then: [{ kind: "message", text: "Hello" }, { kind: "cap", amount: "1.00" }] })
    %w[groups coupons offers rules].each { |list| api(:put, "/api/#{list}/order", { ids: setup_now[list].map { |item| item["id"] }.reverse }) }
    copies = { "offers" => offer, "rules" => rule }.map { |list, item| [list, api(:post, "/api/#{list}/#{item["id"]}/copy", {})] }
    assert_equal([["Free, copy", false], ["Clubs, copy", false]], copies.map { |_, copy| copy.values_at("name", "active") })
    copies.each { |list, copy| api(:delete, "/api/#{list}/#{copy["id"]}?lock_version=0") }
    club = CART.merge("group" => "island CLUBS", "coupons" => ["spring", "no such"])
    bench = api(:post, "/api/bench", { cart: club, at: "2027-06-01T18:00" })
    tracked = bench["quote"]["methods"].find { |one| one["method"] == "tracked" }
    assert_equal ["1.00", ["Hello"]], tracked.values_at("price", "messages")
    assert_equal(["no such"], bench["quote"]["refused"].map { |one| one["code"] })
    assert_equal "not_for_them", bench["quote"]["offers"].first["state"]
    margins = api(:post, "/api/margins", { cart: CART.merge("coupons" => ["spring"]), offer: offer.except("lock_version") })
    assert_equal(%w[cart threshold], margins["rows"].map { |row| row["at"] })
    embed(offer)
    forget(group, coupon, offer, rule)
  end

  def embed(offer)
    asked = CART.merge("coupons" => ["spring"])
    from = { HTTP_ORIGIN: "https://quay.example" }
    api(:post, "/public/mileposts", asked, **from)
    assert_equal 403, status
    api(:patch, "/api/store", { lock_version: find_store, storefront: { open: true, origins: ["https://quay.example/"] } })
    said = api(:post, "/public/mileposts", asked, **from)
    assert_equal ["reached", "Free by {method}", "Tracked"],
                 [said["mileposts"].first["moment"], said["mileposts"].first["text"], said["mileposts"].first["values"]["method"]["value"]]
    assert_equal ["https://quay.example", nil], [last_response["access-control-allow-origin"], last_response["set-cookie"]]
    assert_equal offer["id"], said["mileposts"].first["offer"]
    api(:post, "/public/mileposts", asked, HTTP_ORIGIN: "https://other.example")
    assert_equal 403, status
    assert_equal [422, ["/storefront/origins/0"]],
                 refused(:patch, "/api/store", { lock_version: find_store, storefront: { open: true, origins: ["quay.example"] } })
    api(:patch, "/api/store", { lock_version: find_store, storefront: nil })
    api(:post, "/public/mileposts", asked, **from)
    assert_equal 404, status
  end

  def find_store = setup_now["store"]["lock_version"]

  # What goes is taken out of everything that names it; one undo brings it all back.
  def forget(group, coupon, offer, rule)
    api(:delete, "/api/groups/#{group["id"]}?lock_version=#{find("groups", group["id"])["lock_version"]}")
    assert_nil find("offers", offer["id"])["groups"]
    left = find("rules", rule["id"])
    assert_equal [false, [{ "any" => [{ "fact" => "quantity", "from" => "2" }] }]], [left["active"], left["when"]["all"]]
    api(:delete, "/api/coupons/#{coupon["id"]}?lock_version=#{find("coupons", coupon["id"])["lock_version"]}")
    assert_equal [nil, false], find("offers", offer["id"]).values_at("coupons", "active")
    2.times { api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] }) }
    assert_equal [coupon["id"]], find("offers", offer["id"])["coupons"]
    { "offers" => offer, "rules" => rule }.each do |list, item|
      api(:delete, "/api/#{list}/#{item["id"]}?lock_version=#{find(list, item["id"])["lock_version"]}")
    end
    api(:delete, "/api/coupons/#{coupon["id"]}?lock_version=#{find("coupons", coupon["id"])["lock_version"]}")
    api(:delete, "/api/groups/#{group["id"]}?lock_version=#{find("groups", group["id"])["lock_version"]}")
  end

  def geography
    api(:get, "/api/geography")
    api(:get, "/api/findings")
    api(:get, "/api/zones.csv")
    assert_equal "wholly", api(:get, "/api/coverage")["countries"]["GB"]["served"]
    served = api(:get, "/api/served")["countries"].to_h { |found| [found["country"], found] }
    assert_equal %w[wholly none partly none],
                 [served["GB"]["served"], served["JP"]["served"], served["US"]["served"], served["US"]["regions"]["HI"]]
    assert_equal "*", last_response["access-control-allow-origin"]
    ladder = api(:post, "/api/landing", { country: "GB", postcode: "PA20 9ZZ", lines: ["PO Box 3"] })
    assert_equal([["highlands", "PA20 to PA80", "won"], ["mainland", nil, "less_specific"]], ladder["rungs"].map do |rung|
      rung.values_at("zone", "clause", "outcome")
    end)
    assert_equal [["po_box"], "highlands"], [ladder["remarks"], ladder["landing"]["zone"]]
    assert_equal "PA20 to PA80",
                 api(:post, "/api/landing", { country: "GB", postcode: "PA2 0AB" })["misses"].first["near"]
    landings = api(:post, "/api/landings", { csv: "country,postcode\nGB,IV29 9ZZ\nJP,1\nGB,\nXX,1\n" })
    assert_equal [{ "highlands" => 1 }, [3], [4], [5]], [landings["zones"], *%w[nowhere undetermined faults].map do |key|
      landings[key].map do |row|
        row["line"]
      end
    end]
    api(:post, "/api/clauses", { country: "GB", text: "IV" })
    api(:post, "/api/zones/import", { csv: "zone,active,kind,country,regions,only,except\n", store: false })
  end

  def refused(verb, path, body, **headers)
    answer = api(verb, path, body, **headers)
    [status, pointers(answer)]
  end
end
