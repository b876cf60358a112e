# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../support/carriers"

# The door that checkouts ask: keys, quotes, batches and what a delivery page is built from.
# Statuses and headers by RFC 9110 (401, 403, 404, 405), RFC 6585 (429) and RFC 9457 (problem details).
class CheckoutTest < Minitest::Test
  include CheckoutSupport

  def setup
    fresh(WHOLE_DEMO)
    @key = key_for
    publish
  end

  def challenge = last_response.headers["www-authenticate"]

  # A cart gets over the door what the engine gives it in that release, whatever the draft says.
  def test_a_quote_is_the_releases
    answer = quoted
    book = releases.book(1)
    own = book.quote(GateMile::Cart.parse(cart, book.currency), at: Time.parse(answer["at"]))
    assert_equal(own.method_quotes.select(&:available?).map { |one| [one.code, one.name, one.price.to_s] },
                 answer["methods"].map { |one| one.values_at("code", "name", "price") })
    assert_equal [200, 1, "priced", "GBP"], [status, *answer.values_at("release", "status", "currency")]
    reprice("uk-tracked", "9.99")
    assert_equal price(answer), price(quoted)
    publish(overrule: "Dearer")
    assert_equal([2, "9.99"], quoted.then { |one| [one["release"], price(one)] })
  end

  def test_how_much_is_told
    plain = ask(:post, "quotes", { cart: cart, detail: "prices" })
    assert_equal %w[at currency holds_until methods needs quote release status text], plain.keys.sort
    assert_equal [%w[code name price]], plain["methods"].map { |one| one.keys.sort }.uniq
    whole = ask(:post, "quotes", { cart: cart, detail: "reckonings" })
    assert(whole["methods"].all? { |one| one["reckoning"].any? })
    refute(quoted["methods"].any? { |one| one.key?("reckoning") })
    assert_equal "free-75", quoted["mileposts"].first["offer"]
  end

  # The tax in a price, by a class of the shop: British standard rate, 20 %, in prices with tax: a sixth (HMRC's VAT fraction, VAT guide, 7.3.1).
  def test_tax_of_a_price
    api(:patch, "/api/door", { tax_class: "standard", lock_version: 0 })
    told = quoted(cart(goods("ANC-06")))["methods"].to_h { |one| one.values_at("price", "tax") }
    told.each { |price, tax| assert_in_delta price.to_r / 6, tax.to_r, 0.005 }
    refute_empty told
    api(:patch, "/api/door", { tax_class: "gone", lock_version: 1 })
    assert_equal 422, status
    api(:patch, "/api/door", { holds_minutes: 5, lock_version: 0 })
    assert_equal 409, status
    api(:patch, "/api/door", { holds_minutes: 5, lock_version: 1 })
    answer = quoted
    assert_equal 300, Time.parse(answer["holds_until"]) - Time.parse(answer["at"])
  end

  # That there is nothing, or that more must be known, is an answer and no error.
  def test_nothing_to_choose
    nowhere = quoted(cart(goods, { "country" => "JP" }))
    assert_equal [200, "not_served", []], [status, *nowhere.values_at("status", "methods")]
    refute_nil nowhere["text"]
    open = quoted(cart(goods, { "country" => "GB" }))
    assert_equal [200, "undetermined", %w[postcode]], [status, *open.values_at("status", "needs")]
    barred = quoted(cart(goods("FLR-HAND-R"), { "country" => "IE", "postcode" => "D01 ZZ99" }))
    assert_equal [200, "nothing_available", []], [status, *barred.values_at("status", "methods")]
    assert_includes barred["unavailable"].flat_map { |one| one["causes"] }, "line_barred"
    assert_equal "empty", quoted(cart([]))["status"]
  end

  def test_a_batch
    told = ask(:post, "quotes/batch", { products: ["LOG-A4", "NO-SUCH", 7], destination: MAINLAND })
    assert_equal [200, 3], [status, told["quotes"].size]
    assert_equal price(quoted), price(told["quotes"].first)
    assert_equal [422, "/products/2"], told["quotes"].last["problem"].values_at("status", "pointer")
    mixed = ask(:post, "quotes/batch", { carts: [cart, { "lines" => 3 }, cart(goods("ANC-06"))], detail: "prices" })
    assert_equal([nil, 422, nil], mixed["quotes"].map { |one| one.dig("problem", "status") })
    assert_equal "/carts/1/lines", mixed["quotes"][1]["problem"]["errors"].first["pointer"]
    [{}, { carts: [cart] * 51 }, { carts: 7 }, { carts: [], more: 1 }].each do |body|
      ask(:post, "quotes/batch", body)
      assert_equal 422, status, body.keys.inspect
    end
  end

  # What the contract does not allow is told at its place, and the door is as it was.
  def test_what_is_refused
    { [{}, "/cart"] => 422, [{ cart: 7 }, "/cart"] => 422, [{ cart: cart, more: 1 }, "/more"] => 422, [[], ""] => 422,
      [{ cart: cart, detail: "all" }, "/detail"] => 422, [{ cart: cart, deadline_ms: 1 }, "/deadline_ms"] => 422,
      [{ cart: cart, deadline_ms: "soon" }, "/deadline_ms"] => 422, [{ cart: cart([{ sku: "A", quantity: -1 }]) }, "/cart/lines/0/quantity"] => 422,
      [{ cart: cart.merge("offer_uses" => { "slack" => 0 }) }, "/cart/offer_uses"] => 422,
      [{ cart: cart(Array.new(501) { goods.first }) }, "/cart/lines"] => 422 }.each do |(body, place), expected|
      answer = ask(:post, "quotes", body)
      assert_equal [expected, [place]], [status, pointers(answer)], body.to_s[0, 80]
    end
    ask(:post, "quotes", "{")
    assert_equal 400, status
    ask(:post, "quotes", { cart: cart }, CONTENT_TYPE: "text/plain")
    assert_equal 415, status
    ask(:post, "quotes", "[#{" " * 1_100_000}]")
    assert_equal 413, status
    { [:get, "quotes"] => [405, "POST"], [:post, "methods"] => [405, "GET"], [:get, "nothing"] => [404, nil], [:delete, "orders/1"] => [405, "PATCH"] }
      .each do |(verb, call), (expected, allowed)|
      ask(verb, call)
      assert_equal [expected, allowed], [status, last_response.headers["allow"]], call
    end
  end

  def test_without_a_key_or_with_another
    [nil, "gmk_nothing", "x" * 5000, ""].each do |key|
      ask(:post, "quotes", { cart: cart }, key: key)
      assert_equal [401, "Bearer"], [status, challenge]
    end
    api(:post, "/checkout/v1/quotes", { cart: cart }, "HTTP_AUTHORIZATION" => "Basic #{@key}")
    assert_equal 401, status
    narrow = key_for("Delivery page", calls: %w[methods])
    ask(:get, "methods", key: narrow)
    assert_equal 200, status
    ask(:post, "quotes", { cart: cart }, key: narrow)
    assert_equal 403, status
  end

  # Made, told once, kept as a digest; rotated with overlap, revoked at once.
  def test_the_life_of_a_key
    kept = ActiveRecord::Base.connection.select_all("SELECT * FROM checkout_keys").rows.flatten.map(&:to_s)
    refute(kept.any? { |value| value.include?(@key) })
    assert_includes kept, Digest::SHA256.hexdigest(@key)
    id = api(:get, "/api/keys")["keys"].first["id"]
    assert_nil api(:get, "/api/keys")["keys"].first["used_at"]
    quote = quoted["quote"]
    refute_nil api(:get, "/api/keys")["keys"].first["used_at"]
    second = api(:post, "/api/keys/#{id}/rotate", { hours: 2 })["key"]
    [@key, second].each { |key| assert_equal "priced", quoted(key: key)["status"] }
    ask(:post, "orders", { order: "1", quote: quote, method: "TRACKED" }, key: second)
    assert_equal 201, status, "its successor orders with its quotes"
    later(7300) do
      quoted
      assert_equal 401, status
      quoted(key: second)
      assert_equal 200, status
      api(:post, "/api/keys/#{id}/rotate", { hours: 2 })
      assert_equal 409, status, "nothing is left to rotate"
    end
    api(:delete, "/api/keys/#{api(:get, "/api/keys")["keys"].find { |one| one["id"] != id }["id"]}")
    quoted(key: second)
    assert_equal 401, status
    api(:delete, "/api/keys/none")
    assert_equal 404, status
  end

  def test_how_often_a_key_may_ask
    slow = key_for("Slow", pace: 3)
    Time.stub(:now, Time.at(1_800_000_010)) do
      codes = Array.new(5) { ask(:get, "methods", key: slow) && status }
      assert_equal [200, 200, 200, 429, 429], codes
      assert_equal "50", last_response.headers["retry-after"]
      ask(:get, "methods")
      assert_equal 200, status, "another key has its own pace"
    end
    Time.stub(:now, Time.at(1_800_000_060)) { assert_equal 200, ask(:get, "methods", key: slow) && status }
  end

  # Stands in pages: only for the listed origins, with prices of the catalogue, and never to order with.
  def test_a_public_key
    page = "https://shop.example"
    open = key_for("Pages", public: true, origins: [page])
    estimate = quoted({ "lines" => goods, "destination" => MAINLAND }, key: open, HTTP_ORIGIN: page)
    assert_equal [200, page, nil], [status, last_response.headers["access-control-allow-origin"], estimate["quote"]]
    refute_nil price(estimate)
    quoted(key: open, HTTP_ORIGIN: "https://else.example")
    assert_equal [403, nil], [status, last_response.headers["access-control-allow-origin"]]
    quoted(key: open)
    assert_equal 403, status
    { cart([{ sku: "LOG-A4", quantity: 1, unit_price: "0.01" }]) => "/cart/lines/0/unit_price", cart.merge("group" => "Trade") => "/cart/group" }
      .each do |wanted, place|
      assert_equal([422, [place]], quoted(wanted, key: open, HTTP_ORIGIN: page).then { |one| [status, pointers(one)] })
    end
    ask(:post, "orders", { order: "1", quote: "gmq_x", method: "TRACKED" }, key: open, HTTP_ORIGIN: page)
    assert_equal 403, status
    api(:post, "/api/keys", { name: "Pages", calls: %w[quotes], public: true })
    assert_equal 422, status
    assert_equal ["/origins/0"], pointers(api(:post, "/api/keys", { name: "Pages", calls: %w[quotes], public: true, origins: ["shop.example/path"] }))
  end

  # Origins are compared as browsers write them.
  def test_origins_however_they_are_typed
    key = key_for("Pages", public: true, origins: ["https://Shop.Example/", "https://shop.example"])
    assert_equal ["https://shop.example"], api(:get, "/api/keys")["keys"].find { |one| one["public"] }["origins"]
    quoted({ "lines" => goods, "destination" => MAINLAND }, key: key, HTTP_ORIGIN: "https://shop.example")
    assert_equal 200, status
    id = api(:get, "/api/keys")["keys"].find { |one| one["public"] }["id"]
    assert_equal ["/origins"], pointers(edit_beside("/api/keys/#{id}", { origins: [] }))
    assert_equal ["/calls"], pointers(edit_beside("/api/keys/#{id}", { calls: %w[orders] })), "pages order nothing"
    assert_equal ["/calls"], pointers(api(:post, "/api/keys", { name: "Pages", calls: %w[state orders], public: true, origins: %w[https://a.example] }))
    assert_equal %w[served], edit_beside("/api/keys/#{id}", { calls: %w[orders served] })["calls"]
    assert_equal ["https://other.example"], edit_beside("/api/keys/#{id}", { origins: ["https://OTHER.example"] })["origins"]
    assert_equal "Renamed", edit_beside("/api/keys/#{id}", { name: "Renamed" })["name"]
  end

  # With the key of a server nothing is open to pages.
  def test_pages_of_other_origins
    quoted(HTTP_ORIGIN: "https://shop.example")
    assert_nil last_response.headers["access-control-allow-origin"]
    options("/checkout/v1/quotes", {}, { "HTTP_ORIGIN" => "https://shop.example" })
    assert_equal 403, status
    key_for("Pages", public: true, origins: ["https://shop.example"])
    options("/checkout/v1/quotes", {}, { "HTTP_ORIGIN" => "https://shop.example" })
    assert_equal [204, "https://shop.example"], [status, last_response.headers["access-control-allow-origin"]]
    assert_includes last_response.headers["access-control-allow-headers"], "authorization"
  end

  # Asked once more with the same key, the same question gets the same answer, and another question none.
  # An answer is given again for as long as its quote holds, and not a moment longer.
  def test_an_answer_that_ran_out
    api(:patch, "/api/door", { holds_minutes: 2, lock_version: api(:get, "/api/door")["lock_version"] })
    first = quoted(HTTP_IDEMPOTENCY_KEY: "abc")
    later(100) { assert_equal first, quoted(HTTP_IDEMPOTENCY_KEY: "abc") }
    later(130) { assert_operator quoted(HTTP_IDEMPOTENCY_KEY: "abc")["holds_until"], :>, first["holds_until"] }
  end

  # A batch counts as many times as it holds carts; a thread that comes late counts in its own minute and wipes no other.
  def test_the_pace_of_batches
    slow = key_for("Slow", pace: 10)
    assert_equal 200, ask(:post, "quotes/batch", { carts: [cart] * 6 }, key: slow) && status
    assert_equal 429, ask(:post, "quotes/batch", { carts: [cart] * 5 }, key: slow) && status
    pace = Server::CheckoutPace.new
    at = Time.at(600)
    assert_equal [1, 1, 2, 2], [pace.count("k", at), pace.count("k", at - 1), pace.count("k", at), pace.count("k", at - 1)]
    assert_equal 3, pace.count("k", at)
  end

  # Any text that an order may have as its number is one in an address too; what is no text is told.
  def test_numbers_in_addresses
    number = "ü" * 60
    ask(:post, "orders", { order: number, quote: quoted["quote"], method: "TRACKED" })
    assert_equal 201, status
    ask(:patch, "orders/#{ERB::Util.url_encode(number)}", { state: "cancelled" })
    assert_equal 200, status
    %w[%FF %C3%28 a%ED%A0%80].each { |part| assert_equal 400, ask(:patch, "orders/#{part}", { state: "cancelled" }) && status, part }
  end

  def test_idempotency
    first = quoted(HTTP_IDEMPOTENCY_KEY: "abc")
    assert_equal first, quoted(HTTP_IDEMPOTENCY_KEY: "abc")
    refute_equal first["quote"], quoted["quote"]
    quoted(cart(goods("ANC-06")), HTTP_IDEMPOTENCY_KEY: "abc")
    assert_equal 422, status
    other = key_for("Other")
    refute_equal first["quote"], quoted(key: other, HTTP_IDEMPOTENCY_KEY: "abc")["quote"]
    quoted(HTTP_IDEMPOTENCY_KEY: "x" * 201)
    assert_equal 422, status
  end

  def test_what_a_delivery_page_is_built_from
    methods = ask(:get, "methods")["methods"]
    assert_includes methods.map { |one| one["code"] }, "TRACKED"
    served = ask(:get, "served")["countries"].to_h { |one| one.values_at("country", "served") }
    assert_equal %w[wholly none], served.values_at("IE", "JP")
    offers = ask(:get, "offers")["offers"]
    assert_equal([["75.00", %w[TRACKED]]], offers.select { |one| one["threshold"] }.map { |one| one.values_at("threshold", "methods") })
    refute(offers.any? { |one| one.key?("name") }, "what an offer is called is the merchant's own")
  end

  # All keys are written in one statement. Each keeps its own time, and an unused key has none.
  def test_when_each_key_was_last_used
    keys = Array.new(3) { |at| Server::Database.write { Server::KeyRing.make({ "name" => "Key #{at}", "public" => false, "origins" => [], "pace" => 10, "calls" => CALLS }) } }
    ring = Server::KeyRing.new
    used = keys.first(2).each_with_index.to_h do |(record, text), at|
      moment = Time.utc(2026, 3, 1, 8 + at)
      assert ring.key({ "HTTP_AUTHORIZATION" => "Bearer #{text}" }, moment)
      [record.id, moment]
    end
    ring.write_down
    assert_equal(used.merge(keys.last.first.id => nil), Server::Records::CheckoutKey.where(id: keys.map do |record,|
      record.id
    end).to_h { |one| [one.id, one.used_at] })
  end

  # Carriers that do not answer in the time that the caller gives them cost no more than that.
  def test_a_deadline
    fresh(WHOLE_DEMO)
    @key = key_for
    publish
    asked = nil
    slow = Server::CheckoutQuotes.new(Server::QuoteSeal.new("k" * 32), carriers: ->(seconds) { (asked = seconds) && GateMile::Recorded::NONE.port })
    key = Server::KeyRing::Key.new("k", "Key", false, "f", [], CALLS, 10, nil)
    slow.one({ "cart" => cart, "deadline_ms" => 120 }, key, checkout.ground)
    assert_in_delta 0.12, asked
    slow.one({ "cart" => cart }, key, checkout.ground)
    assert_in_delta Server::Settings.deadline, asked
  end

  # A shop that has published nothing says so, and when to ask again.
  def test_before_anything_is_published
    fresh
    @key = key_for
    quoted
    assert_equal [503, "60"], [status, last_response.headers["retry-after"]]
  end

  def test_only_the_hosts_of_this_server
    post("/checkout/v1/quotes", JSON.generate(cart: cart), "HTTP_HOST" => "else.example", "CONTENT_TYPE" => "application/json")
    header "Host", "else.example"
    post("/checkout/v1/quotes", JSON.generate(cart: cart), "CONTENT_TYPE" => "application/json")
    assert_equal 403, status
  end
end
