# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../support/carriers"

# Orders: the price as promised, the use of offers counted once, and a price that can be worked out again for years.
class OrdersTest < Minitest::Test
  include CheckoutSupport

  def setup
    fresh(WHOLE_DEMO)
    @key = key_for
    publish
  end

  def order(number, quote, method = "TRACKED", **more) = ask(:post, "orders", { order: number, quote: quote, method: method }, **more)
  def uses = checkout.uses.counts

  def test_the_price_as_promised
    quote = quoted
    reprice("uk-tracked", "9.99")
    publish(overrule: "Dearer")
    placed = order("1042", quote["quote"])
    assert_equal [201, price(quote), 1, "placed"], [status, *placed.values_at("price", "release", "state")]
    assert_equal placed, order("1042", quote["quote"])
    assert_equal 200, status, "told once more"
    assert_equal 409, order("1042", quote["quote"], "NEXT-DAY") && status
    assert_equal 409, order("1042", quoted["quote"]) && status
    assert_equal 1, Server::Records::Order.count
  end

  # A price is compared with what recent orders paid for the same zone and method.
  def test_paid_lately
    placed = Array.new(2) { |at| order("L-#{at}", quoted["quote"]) }
    paid = Server::Records::Order.lately_paid(Time.now)
    assert_equal([[%w[mainland tracked], placed.map { |one| one["price"] }]], paid.map { |key, list| [key, list.map(&:to_s)] })
    assert_empty Server::Records::Order.lately_paid(Time.now + (100 * 86_400))
    reprice("uk-tracked", "595.00")
    told = GateMile::FigureFindings.new(Server::App.settings.shelf.current.last, paid: paid).list
    assert_includes told.map { |one| one.numbers.values_at(:figure, :meant).map(&:to_s) }, %w[595.00 5.95]
  end

  # A quote holds until its last second, that one too.
  def test_the_last_second
    quote = quoted
    last = Time.iso8601(quote["holds_until"])
    Time.stub(:now, last + 1) { assert_equal 409, order("late", quote["quote"]) && status }
    Time.stub(:now, last) { assert_equal 201, order("in time", quote["quote"]) && status }
  end

  # Years later: the reckoning comes from that release, cart and moment, whatever has become of the setup.
  def test_worked_out_again
    quote = ask(:post, "quotes", { cart: cart(goods("ANC-06", 2)), detail: "reckonings" })
    order("A-7", quote["quote"])
    api(:delete, "/api/zones/mainland?lock_version=#{find("zones", "mainland")["lock_version"]}")
    publish(overrule: "No mainland")
    releases.clear
    told = api(:get, "/api/orders/A-7")
    assert_equal "mainland", told["order"]["zone"]
    again = told["quote"]["methods"].find { |one| one["code"] == "TRACKED" }
    then_ = quote["methods"].find { |one| one["code"] == "TRACKED" }
    assert_equal [then_["price"], then_["reckoning"]], [again["price"], again["reckoning"]]
    assert_equal ["A street"], told["cart"]["destination"]["lines"], "what pricing does not need is not kept"
    refute_includes ActiveRecord::Base.connection.select_value("SELECT cart FROM orders"), "Harbour Row"
    api(:get, "/api/orders/none")
    assert_equal 404, status
  end

  def test_finding_by_number
    quote = quoted["quote"]
    %w[1042 1043 2000 10%].each { |number| order(number, quote) }
    assert_equal([%w[1042 1043], 2], api(:get, "/api/orders?number=104").then { |one| [one["orders"].map { |order| order["number"] }.sort, one["count"]] })
    assert_equal(%w[10%], api(:get, "/api/orders?number=10%25")["orders"].map { |one| one["number"] })
    assert_equal([2, 4], api(:get, "/api/orders?limit=2").then { |one| [one["orders"].size, one["count"]] })
    order("a/b c", quote)
    assert_equal "a/b c", api(:get, "/api/orders/a%2Fb%20c")["order"]["number"]
    ask(:patch, "orders/a%2Fb%20c", { state: "cancelled" })
    assert_equal 200, status
  end

  def test_what_is_no_quote
    whole = quoted["quote"]
    ["gmq_never", "", whole[0..-5], "#{whole}x", whole.reverse, "gmq_#{"A" * 400}"].each do |id|
      assert_equal [422, ["/quote"]], order("1", id).then { |one| [status, pointers(one)] }, id[0, 20]
    end
    other = key_for("Other")
    assert_equal(["quote_of_another_key"], order("1", whole, key: other)["errors"].map { |one| one["code"] })
    assert_equal ["/method"], pointers(order("1", whole, "AIR"))
    good = { order: "1", quote: whole, method: "TRACKED" }
    [{}, good.merge(order: ""), good.merge(order: "1\n2"), good.merge(price: "0.01")]
      .each { |body| assert_equal 422, ask(:post, "orders", body) && status }
    assert_equal 0, Server::Records::Order.count
  end

  # Quoted again: both prices are told, nothing is placed, and the shop orders with the new one if it likes.
  def test_a_quote_that_ran_out
    quote = quoted
    reprice("uk-tracked", "9.99")
    publish(overrule: "Dearer")
    later(16 * 60) do
      told = order("1", quote["quote"])
      assert_equal [409, price(quote), "9.99"], [status, *told.values_at("promised", "now")]
      assert_equal 0, Server::Records::Order.count
      placed = order("1", told["quote"]["quote"])
      assert_equal [201, "9.99", 2], [status, *placed.values_at("price", "release")]
    end
  end

  def test_told_once_more_after_it_ran_out
    quote = quoted
    order("1", quote["quote"])
    later(16 * 60) { assert_equal 200, order("1", quote["quote"]) && status }
  end

  # A clock that was put back an hour does not make a quote run out, nor one that was put forward for a while lose an order.
  def test_a_clock_that_jumps
    quote = quoted["quote"]
    later(-3600) { assert_equal 201, order("1", quote) && status }
    early = later(3600) { quoted["quote"] }
    assert_equal 201, order("2", early) && status
  end

  def coupon = cart(coupons: ["SLACKWATER"])

  # Each use counts once; what was cancelled gives its use back, and who has the promise keeps it.
  def test_limited_offers
    offer = find("offers", "slack")
    api(:patch, "/api/offers/slack", { first: 2, lock_version: offer["lock_version"] })
    publish(overrule: "Two only")
    early = quoted(coupon)
    first, second = %w[1 2].map { |number| order(number, quoted(coupon)["quote"], "NEXT-DAY") && uses.fetch("slack", 0) }
    assert_equal [1, 2], [first, second]
    order("2", "gmq_x", "NEXT-DAY")
    assert_equal 2, uses["slack"]
    dear = price(quoted(coupon), "NEXT-DAY")
    assert_equal (price(early, "NEXT-DAY").to_r + 3), dear.to_r, "it is used up"
    assert_equal price(early, "NEXT-DAY"), order("3", early["quote"], "NEXT-DAY")["price"], "a promise is kept"
    ask(:patch, "orders/1", { state: "cancelled" })
    ask(:patch, "orders/1", { state: "cancelled" })
    ask(:patch, "orders/3", { state: "returned" })
    assert_equal 1, uses["slack"]
    assert_equal price(early, "NEXT-DAY"), price(quoted(coupon), "NEXT-DAY")
    assert_equal 409, ask(:patch, "orders/1", { state: "returned" }) && status
    assert_equal 404, ask(:patch, "orders/none", { state: "returned" }) && status
    assert_equal 404, ask(:patch, "orders/2", { state: "returned" }, key: key_for("Other")) && status
    assert_equal 422, ask(:patch, "orders/2", { state: "placed" }) && status
  end

  # Twenty at the same moment with four numbers: four orders, and each use once.
  def test_at_the_same_moment
    quote = quoted(coupon)["quote"]
    key = checkout.keys.key({ "HTTP_AUTHORIZATION" => "Bearer #{@key}" })
    made = Array.new(20) do |at|
      Thread.new do
        checkout.orders.place({ "order" => (at % 4).to_s, "quote" => quote, "method" => "NEXT-DAY" }, key) { checkout.ground }.made
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end
    end
    assert_equal({ true => 4, false => 16 }, made.map(&:value).tally)
    assert_equal [4, 4], [Server::Records::Order.count, uses["slack"]]
  end

  # What carriers said is kept with the order: the same price comes of it without asking again.
  def test_what_carriers_said
    heard = GateMile::Reply.new(status: :answered, age: 1, services: {})
    port = Object.new
    port.define_singleton_method(:answers) do |requests|
      requests.to_h do |request|
        prices = request.parcels.map { GateMile::Money.new(731, GateMile::Currency["GBP"]) }
        [request, heard.with(services: request.services.to_h { |code| [code, GateMile::ServiceAnswer.new(status: :ok, prices: prices)] })]
      end
    end
    quotes = Server::CheckoutQuotes.new(Server::QuoteSeal.new(Server::Keys.seal), carriers: ->(_) { port })
    key = checkout.keys.key({ "HTTP_AUTHORIZATION" => "Bearer #{@key}" })
    live = { "lines" => goods("ANC-06"), "destination" => { "country" => "IE", "postcode" => "D01 ZZ99", "lines" => ["4 Quay Street"] } }
    answer = quotes.one({ "cart" => live, "detail" => "methods" }, key, checkout.ground)
    book = releases.book(1)
    codes = book.rates_of(book.zone("ireland")).select(&:live).map { |rate| book.shipping_method(rate.method_id).code }
    offered = answer[:methods].find { |one| codes.include?(one[:code]) }
    refute_nil offered, "a live rate in Ireland takes it"
    order("L-1", answer[:quote], offered[:code])
    assert_equal 201, status
    told = api(:get, "/api/orders/L-1")
    assert_equal offered[:price], told["quote"]["methods"].find { |one| one["code"] == offered[:code] }["price"]
    refute_includes Server::Records::Order.find("L-1").recorded.to_json, "Quay Street"
  end
end
