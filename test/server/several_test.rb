# frozen_string_literal: true

require_relative "../support/server"

# Several questions in one request: each is answered as at its own address, and nothing else can be asked so.
class SeveralTest < Minitest::Test
  include ServerSupport

  def setup = fresh(WHOLE_DEMO)

  def several(*asks) = api(:post, "/api/several", { asks: asks })
  def lines(text) = text.lines.map { |line| JSON.parse(line) }

  def test_each_is_answered_as_at_its_own_address
    lines = { cart: CART, measure: "weight", most: "10 kg" }
    bench = { cart: CART, compare_to: nil, preview: nil, reckonings: [] }
    asks = [{ path: "/api/bench", body: bench }, { path: "/api/releases/state" }, { path: "/api/proofs/state" },
            { path: "/api/gates?at=2026-06-01T10:00", body: CART }, { path: "/api/lines", body: lines }, { path: "/api/class-prices" }]
    found = lines(several(*asks))
    assert_equal([*0..5], found.map { |line| line["at"] })
    asks.zip(found) do |ask, line|
      alone = ask.key?(:body) ? api(:post, ask[:path], ask[:body]) : api(:get, ask[:path])
      assert_equal [status, without_moment(alone)], [line["status"], without_moment(line["body"])], ask[:path]
    end
  end

  # What is wrong with one says nothing of the others.
  def test_a_refusal_among_others
    found = lines(several({ path: "/api/bench", body: { cart: { lines: [{ sku: "LOG-A4", quantity: 0 }] } } }, { path: "/api/gates", body: CART },
                          { path: "/api/bench", body: { nothing: 1 } }))
    assert_equal([422, 200, 422], found.map { |line| line["status"] })
    assert_includes found[0]["body"]["errors"].map { |error| error["pointer"] }, "/cart/lines/0/quantity"
  end

  def test_nothing_else_can_be_asked_so
    [{ path: "/api/setup" }, { path: "/api/people" }, { path: "/api/setup/export" },
     { path: "/api/methods", body: { name: "Mule" } }, { path: "/api/bench" }, { path: "/api/findings", body: {} },
     { path: "//api/findings" }, { path: "/api/findings/../people" },
     { path: "/checkout/v1/state" },
     { path: "/api/findings?a[b]=1" }, { path: "/api/several", body: { asks: [] } }].each do |ask|
      answer = several({ path: "/api/findings" }, ask)
      assert_equal [422, ["/asks/1/path"]], [status, pointers(answer)], ask.inspect
    end
    assert_equal(422, several.then { status })
    assert_equal(422, several(*Array.new(13) { { path: "/api/findings" } }).then { status })
    assert_equal(0, setup_now["methods"].count { |one| one["name"] == "Mule" })
  end

  # Who may look may ask; who is not in gets nothing, whatever the addresses are.
  def test_who_may_ask
    api(:post, "/api/joining/first", { name: "Ann", email: "ann@tarrow.example", password: "lantern gravel whistle" })
    assert_equal(200, several({ path: "/api/proofs/state" }).then { status })
    clear_cookies
    assert_equal(401, several({ path: "/api/proofs/state" }).then { status })
  end

  private

  def without_moment(body) = JSON.parse(JSON.generate(body).gsub(/"at":"[^"]*"/, '"at":""'))
end
