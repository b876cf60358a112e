# frozen_string_literal: true

require_relative "../support/server"

# The door that answers quotes in front of the application: the same book, the same refusals, the same words.
class QuoteDoorTest < Minitest::Test
  include ServerSupport

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  def test_prices_are_those_of_the_whole_quote
    places = [{ country: "GB", postcode: "TR29 4ZZ" }, { country: "GB", postcode: "IV40 8AA" }, { country: "IE" }, { country: "JP" }, { country: "GB" }, {}]
    places.each do |place|
      cart = CART.merge("destination" => place)
      whole = api(:post, "/api/quote", cart)
      prices = api(:post, "/api/quote?detail=prices", cart)
      available = whole["methods"].select { |method| method["status"] == "available" }
      assert_equal whole.slice("status", "text"), prices.slice("status", "text")
      assert_equal available.map { |method| method.slice("code", "name", "promise", "price", "messages") }, prices["methods"]
      assert_equal whole.except("at"), api(:post, "/api/quote?detail=reckonings", cart).except("at")
    end
    assert_operator api(:post, "/api/quote", CART)["methods"].first["reckoning"].size, :>, 2
  end

  # Each is refused in words, at its place, and by the same kind of answer as everywhere.
  def test_refusals
    { [415, nil] => ["{}", "text/plain"], [400, nil] => ["{", "application/json"], [422, "/lines"] => ["{}", "application/json"],
      [422, "/lines/0/quantity"] => [JSON.generate({ lines: [{ sku: "A", quantity: 0 }] }), "application/json"],
      [422, "/order_discount"] => ['{"lines":[],"order_discount":1e400}', "application/json"],
      [413, nil] => [%({"lines":[],"group":"#{"x" * Server::Body::LIMIT}"}), "application/json"] }.each do |(code, pointer), (body, type)|
      %w[/api/quote /api/quote?detail=prices].each do |path|
        problem = api(:post, path, body, "CONTENT_TYPE" => type)
        assert_equal [code, code], [status, problem["status"]], path
        assert_includes problem["errors"].map { |error| error["pointer"] }, pointer if pointer
        assert_equal "application/problem+json", last_response.content_type
      end
    end
    assert_equal 422, api(:post, "/api/quote?detail=everything", CART)["status"]
    assert_match(/prices or reckonings/, api(:post, "/api/quote?detail=everything", CART)["detail"])
    assert_equal 404, api(:get, "/api/quote")["status"]
  end

  def test_hosts_and_origins_are_looked_at_first
    header "Host", "elsewhere.example"
    post "/api/quote", JSON.generate(CART), "CONTENT_TYPE" => "application/json"
    assert_equal 403, status
    api(:post, "/api/quote", CART, "HTTP_ORIGIN" => "https://elsewhere.example")
    assert_equal 403, status
    api(:post, "/api/quote", CART, "HTTP_ORIGIN" => "http://localhost")
    assert_equal 200, status
  end

  def test_without_a_shop_and_when_something_breaks
    fresh(nil)
    assert_equal 404, api(:post, "/api/quote?detail=prices", CART)["status"]
    fresh(ServerSupport::WHOLE_DEMO)
    api(:post, "/api/quote", CART)
    shelf = Server::App.settings.shelf
    broken = shelf.method(:latest)
    shelf.define_singleton_method(:latest) { raise "out of order" }
    Server::Log.to = StringIO.new
    assert_equal 500, api(:post, "/api/quote", CART)["status"]
    assert_match(%r{fault while POST /api/quote: RuntimeError: out of order}, Server::Log.to.string)
    shelf.define_singleton_method(:latest) { raise SQLite3::BusyException }
    assert_equal [503, "1"], [api(:post, "/api/quote", CART)["status"], last_response["retry-after"]]
  ensure
    shelf&.define_singleton_method(:latest, broken) if broken
    Server::Log.to = nil
  end

  # The number is read beside the records: what another connection has stored is seen, what it has not is not.
  def test_the_revision_is_seen_as_soon_as_it_is_stored
    before = Server::Revision.now
    assert_equal Server::Records::Store.revision, before
    seen = nil
    Server::Database.write do
      Server::Records::Store.connection.execute("UPDATE stores SET revision = revision + 1")
      seen = Server::Revision.now
    end
    assert_equal [before, before + 1], [seen, Server::Revision.now]
    assert_equal [before + 1] * 3, Array.new(3) { Thread.new { Server::Revision.now } }.map(&:value)
  end

  # The bench asks for the reckonings that are open: prices are the same, and the others are not worked out.
  def test_the_bench_tells_the_reckonings_that_are_asked_for
    told = ->(**more) { api(:post, "/api/bench", { cart: CART, **more }) }
    methods = ->(bench) { (bench["board"].flat_map { |row| row["methods"] } + bench["quote"]["methods"]).uniq }
    every = methods.call(told.call)
    none = methods.call(told.call(reckonings: []))
    one = methods.call(told.call(reckonings: %w[uk-tracked]))
    assert_equal(every.map { |method| method.except("reckoning") }, none.map { |method| method.except("reckoning") })
    assert_empty(none.flat_map { |method| method["reckoning"] })
    assert_equal(every.select { |method| method["rate"] == "uk-tracked" }, one.reject { |method| method["reckoning"].empty? })
    assert_equal 422, api(:post, "/api/bench", { cart: CART, reckonings: [1] })["status"]
  end

  # An edit is in the next quote, whoever asks.
  def test_an_edit_is_in_the_next_quote
    rate = find("rates", "uk-collect")
    cart = CART.merge("destination" => { country: "GB", postcode: "TR29 4ZZ" })
    price = -> { api(:post, "/api/quote?detail=prices", cart)["methods"].find { |method| method["code"] == "COLLECT" }["price"] }
    assert_equal "0.00", price.call
    api(:patch, "/api/rates/uk-collect", { lock_version: rate["lock_version"], plan: { schedule: { kind: "flat", amount: "1.23" } } })
    assert_equal "1.23", price.call
  end

  def test_long_answers_are_compressed_and_short_ones_are_not
    long = ->(path) { get(path, {}, "HTTP_ACCEPT_ENCODING" => "gzip", "HTTP_HOST" => "localhost") && last_response["content-encoding"] }
    assert_equal "gzip", long.call("/api/setup")
    assert_nil long.call("/api/carriers/state?x=#{"y" * 9}") if api(:get, "/api/carriers/state").to_s.size < 900
    api(:post, "/api/quote?detail=prices", CART, "HTTP_ACCEPT_ENCODING" => "gzip")
    assert_nil last_response["content-encoding"]
  end

  private

  def status = last_response.status
end
