# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../../stand_ins/storefront/storefront"

# The stand-in shop by itself: its catalogue, baskets, pages without scripts, and a door that is away in every way there is.
class StorefrontTest < Minitest::Test
  include CheckoutSupport

  # A door in the place of the real one: it notes what it is asked, and answers as it is told to.
  Door = Struct.new(:asked, :answers) do
    def get(call) = told(call, nil)
    def post(call, body) = told(call, body)

    def told(call, body)
      asked << [call, body]
      found = answers[call]
      found.is_a?(Exception) ? raise(found) : found
    end
  end

  QUOTE = { "status" => "priced", "needs" => [], "quote" => "gmq_1", "zero" => "on the house", "currency" => "GBP", "methods" => [
    { "code" => "T", "name" => "Tracked <b>", "price" => "4.50", "promise" => "soon", "arrives" => { "first" => "2026-12-01", "last" => "2026-12-02" } },
    { "code" => "C", "name" => "Collect", "price" => "0.00", "collection" => { "place" => "The quay", "hours" => "8 to 17" } }
  ] }.freeze
  SERVED = { "countries" => [{ "country" => "GB", "served" => "wholly" }, { "country" => "BR", "served" => "none" }] }.freeze

  def setup
    @door = Door.new([], { "quotes" => QUOTE, "served" => SERVED })
    door = @door
    shop = Storefront.open(gate_mile: "http://gate.example")
    shop.set(:delivery, -> { door })
    @shop = Rack::Test::Session.new(Rack::MockSession.new(shop))
  end

  def page = @shop.last_response.body.gsub(/\s+/, " ")
  def code = @shop.last_response.status
  def put(sku, units = 1) = @shop.post("/basket", { sku: sku, quantity: units, add: 1 })

  def follow(verb, path, fields = {})
    @shop.public_send(verb, path, fields)
    @shop.follow_redirect! while @shop.last_response.redirect?
    page
  end

  # Every word that is searched for is in what is found; variants stand with their product.
  def test_the_catalogue
    catalogue = Catalogue.new
    rows = CSV.read(Catalogue::FILE, headers: true, encoding: "UTF-8")
    assert_equal rows.count { |row| row["variant_of"].to_s.empty? }, catalogue.find("").size
    catalogue.find("").each do |item|
      assert_equal(rows.select { |row| row["variant_of"] == item.sku }.map { |row| row["sku"] }, catalogue.variants(item).map(&:sku))
      assert_includes catalogue.find(item.name.upcase), item
      catalogue.variants(item).each { |one| assert one.name && one.price, one.sku }
    end
    assert_empty catalogue.find("a word that is nowhere")
    assert_match(/Nothing by that name/, follow(:get, "/", q: "<script>"))
    refute_match(/<script>”/, page)
  end

  def test_each_product_has_a_page
    CSV.read(Catalogue::FILE, headers: true, encoding: "UTF-8").each do |row|
      @shop.get("/products/#{Rack::Utils.escape_path(row["sku"])}")
      assert_equal 200, code, row["sku"]
      assert_match(/gate-mile-estimate/, page)
      assert_match(%r{<noscript><p><a href="/delivery\?sku=}, page)
    end
    @shop.get("/products/none")
    assert_equal 404, code
  end

  # A basket against a plain reading of the same steps.
  def test_baskets
    random = Random.new(5)
    skus = %w[LOG-A4 CHT-PASS-F ROP-BRD-08 none]
    expected = Hash.new(0)
    60.times do
      sku = skus.sample(random: random)
      units = random.rand(-1..4)
      case random.rand(3)
      when 0
        put(sku, units)
        expected[sku] += [units, 1].max
      when 1
        @shop.post("/basket", { sku: sku, quantity: units, set: 1 })
        expected[sku] = units if expected[sku].positive?
      else
        @shop.post("/basket", { sku: sku, by: units })
        expected[sku] += units if expected[sku].positive?
      end
      expected.select! { |one, count| count.positive? && one != "none" }
      assert_match(%r{Basket <b>#{expected.values.sum}</b>}, follow(:get, "/basket"))
    end
    put("LOG-A4", 10**9)
    assert_match(/value="10000"/, follow(:get, "/basket"))
    @shop.post("/basket", { sku: "LOG-A4", quantity: "many", set: 1 })
    refute_match(/Ship/, follow(:get, "/basket"))
  end

  # From the basket to the order: what is asked for is what was typed, and what was promised stands on the order.
  def test_to_the_order
    put("LOG-A4", 2)
    @shop.post("/group", { group: "Trade" })
    @shop.post("/coupon", { coupon: " SLACKWATER " })
    assert_match(/Still missing: your name, the street/, follow(:post, "/checkout", country: "GB", postcode: "TR29 4ZZ"))
    assert_equal 422, code
    assert_match(/value="TR29 4ZZ"/, page, "what was typed is kept")
    typed = { name: "R. Pascoe", line1: "12 Harbour Row", line2: " ", city: "Tarrow", postcode: "TR29 4ZZ", country: "GB" }
    assert_match(/Tracked &lt;b&gt;, £4.50 <small>soon · arrives 1 December to 2 December/, follow(:post, "/checkout", typed))
    assert_match(/Collect, on the house <small>The quay · 8 to 17/, page)
    assert_equal({ "lines" => [{ "sku" => "LOG-A4", "quantity" => 2 }], "group" => "Trade", "coupons" => ["SLACKWATER"],
                   "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ", "lines" => ["12 Harbour Row"] } }, @door.asked.last.last["cart"])
    @door.answers["quotes"] = QUOTE.merge("refused" => [{ "field" => "coupon", "code" => "<X>", "reason" => "unknown" }])
    assert_match(/The coupon “&lt;X&gt;” can’t be used: the prices are without it/, follow(:get, "/checkout/delivery"))
    @door.answers["orders"] = { "order" => "TQ-1", "price" => "4.50", "method" => { "code" => "T", "name" => "Tracked" } }
    assert_match(%r{<dd>TQ-1</dd>.*Tracked <small>\(T\)</small>.*£4.50.*soon}, follow(:post, "/checkout/order", "delivery" => "T", "delivery-quote" => "gmq_1"))
    assert_equal %w[gmq_1 T], @door.asked.last.last.values_at("quote", "method")
    assert_match(%r{Basket <b>0</b>}, page)
    @shop.get("/orders/TQ-2")
    assert_equal 404, code
  end

  # Away, refused, ran out: each page says so, and nothing of the basket or the address is lost.
  def test_a_door_that_is_away
    put("LOG-A4")
    @door.answers.transform_values! { Delivery::Away.new }
    @door.answers["orders"] = Delivery::Away.new
    assert_match(/Choose/, follow(:get, "/checkout"))
    assert_match(/Delivery can’t be worked out just now/, follow(:post, "/checkout", name: "R", line1: "Row", country: "GB"))
    assert_match(/Your basket is kept/, follow(:get, "/delivery", sku: "LOG-A4", country: "GB"))
    assert_match(/try again/, follow(:post, "/checkout/order", "delivery" => "T"))
    assert_match(%r{Basket <b>1</b>}, page)
    @shop.post("/gate-mile/quotes", JSON.generate(cart: { lines: [] }), "CONTENT_TYPE" => "application/json")
    assert_equal 503, code
    @door.answers.update("quotes" => QUOTE, "served" => SERVED, "orders" => Delivery::Refused.new(409, { "promised" => "4.50", "now" => "5.25" }))
    assert_match(/it is £5.25 now.*Tracked/, follow(:post, "/checkout/order", "delivery" => "T"))
    @door.answers["orders"] = Delivery::Refused.new(409, { "promised" => "4.50", "now" => "4.50" })
    assert_match(/Prices are kept only for a while\. Choose once more\./, follow(:post, "/checkout/order", "delivery" => "T"))
    @door.answers["orders"] = Delivery::Refused.new(422, { "detail" => "No such quote." })
    assert_match(/No such quote\./, follow(:post, "/checkout/order", "delivery" => "T"))
    @door.answers["quotes"] = Delivery::Refused.new(422, { "detail" => "Too many lines." })
    assert_match(/Too many lines\./, follow(:get, "/checkout/delivery"))
  end

  # What parts ask through the shop: who is signed in is added, and nothing else goes through.
  def test_what_is_asked_through_the_shop
    @shop.post("/group", { group: "Harbour crew" })
    @shop.post("/group", { group: "Nobody’s" })
    @shop.post("/group", { group: "Trade" })
    send = ->(call, body) { @shop.post("/gate-mile/#{call}", body.is_a?(String) ? body : JSON.generate(body), "CONTENT_TYPE" => "application/json") && code }
    mine = { "lines" => [{ "sku" => "LOG-A4", "quantity" => 1 }], "destination" => { "country" => "GB" } }
    assert_equal 200, send.call("quotes", { cart: mine.merge("group" => "Harbour crew", "order_discount" => "5.00") })
    assert_equal mine.merge("group" => "Trade", "coupons" => []), @door.asked.last.last["cart"]
    @door.answers["quotes/batch"] = { "quotes" => [] }
    assert_equal 200, send.call("quotes/batch", { carts: [mine, mine] })
    assert_equal(%w[Trade Trade], @door.asked.last.last["carts"].map { |cart| cart["group"] })
    [["quotes", "nonsense"], ["quotes", "[]"], ["quotes", { cart: 7 }], ["quotes/batch", { carts: [1] }]].each do |call, body|
      assert_equal 422, send.call(call, body), body.inspect
    end
    assert_equal 404, send.call("orders", { order: "1" })
    assert_equal 404, send.call("quotes", " " * 100_001)
    @shop.get("/gate-mile/served")
    assert_equal SERVED, JSON.parse(@shop.last_response.body)
  end

  # Without a script: a table of prices, for one product or the basket, and what is missing in words.
  def test_what_delivery_costs_without_a_script
    assert_match(/Put something in the basket first/, follow(:get, "/delivery"))
    assert_match(/Tracked &lt;b&gt;.*£4.50.*Collect.*on the house/, follow(:get, "/delivery", sku: "LOG-A4", country: "GB", postcode: "TR29 4ZZ"))
    refute_match(/Brazil/, page)
    @door.answers["quotes"] = QUOTE.merge("methods" => [], "status" => "undetermined", "needs" => ["postcode"])
    assert_match(/More of the address is needed: postcode/, follow(:get, "/delivery", sku: "LOG-A4", country: "GB"))
    @door.answers["quotes"] = QUOTE.merge("methods" => [], "status" => "nothing_available", "text" => "Write to <the> quay")
    assert_match(/Write to &lt;the&gt; quay/, follow(:get, "/delivery", sku: "LOG-A4", country: "GB"))
  end

  # A merchant's cart, with goods of no catalogue, until one leaves it; one that is over ends by itself.
  def test_a_trial
    lines = [{ "name" => "A <mast>", "quantity" => 2, "unit_price" => "120.00", "weight" => "9 kg" }, { "sku" => "LOG-A4", "quantity" => 1 }]
    cart = { "lines" => lines, "group" => "Trade", "coupons" => ["SLACKWATER"], "order_discount" => "1.00",
             "destination" => { "country" => "GB", "lines" => ["12 Row"] } }
    @door.answers["trials/abc"] = { "cart" => cart, "release" => nil, "at" => "2026-12-24T16:30" }
    assert_match(/You are trying the draft, as it would be on 2026-12-24 16:30\./, follow(:get, "/try", "gate-mile-trial" => "abc"))
    assert_match(/A &lt;mast&gt;.*£240.00/, page)
    assert_match(/This is a trial: nothing can be ordered/, follow(:get, "/checkout/delivery"))
    assert_equal [cart, "abc"], @door.asked.last.last.values_at("cart", "trial")
    # Where it goes, and how many more make it free, are asked by what is tried too.
    @door.answers.update("served?trial=abc" => { "countries" => [{ "country" => "BR", "served" => "wholly" }] }, "quotes/batch" => {})
    assert_match(/Brazil/, follow(:get, "/checkout"))
    @shop.get("/gate-mile/served")
    @shop.post("/gate-mile/quotes/batch", JSON.generate(carts: [{ lines: [] }]), "CONTENT_TYPE" => "application/json")
    assert_equal ["served?trial=abc", "abc"], [@door.asked[-2].first, @door.asked.last.last["trial"]]
    @door.answers["quotes"] = Delivery::Refused.new(404, { "detail" => "It is over." })
    assert_match(/It is over\./, follow(:get, "/checkout/delivery"))
    assert_match(%r{Basket <b>0</b>}, follow(:get, "/"))
    @door.answers["trials/none"] = Delivery::Refused.new(404, { "detail" => "There is no such trial." })
    assert_match(/There is no such trial\./, follow(:get, "/try", "gate-mile-trial" => "none"))
    assert_equal 404, code
  end

  # Each way in which a server can fail to answer counts as away; only what it says of the question is refused.
  def test_servers_that_misbehave
    { nil => Delivery::Away, "nonsense\r\n\r\n" => Delivery::Away, "HTTP/1.1 200 OK\r\nContent-Length: 3\r\n\r\n{\"a" => Delivery::Away,
      "HTTP/1.1 500 No\r\nContent-Length: 2\r\n\r\n{}" => Delivery::Away, "HTTP/1.1 401 No\r\nContent-Length: 2\r\n\r\n{}" => Delivery::Away,
      "HTTP/1.1 429 No\r\nContent-Length: 2\r\n\r\n{}" => Delivery::Away,
      "HTTP/1.1 422 No\r\nContent-Length: 2\r\n\r\n{}" => Delivery::Refused }.each do |answer, trouble|
      server = TCPServer.new("127.0.0.1", 0)
      thread = Thread.new do
        socket = server.accept
        answer ? socket.write(answer) : sleep(2)
        socket.close
      rescue IOError, SystemCallError
        nil
      end
      assert_raises(trouble, answer.inspect) { Delivery.new("http://127.0.0.1:#{server.addr[1]}", "gmk_x", patience: 0.3).get("served") }
    ensure
      thread&.kill
      server&.close
    end
    assert_raises(Delivery::Away) { Delivery.new("http://127.0.0.1:1", "gmk_x").get("served") }
    assert_raises(Delivery::Away) { Delivery.new("http://127.0.0.1:1", nil).get("served") }
  end

  def test_where_one_comes_back_to
    @shop.post("/group", { group: "Trade" }, "HTTP_REFERER" => "http://evil.example//x")
    assert_equal "http://example.org/", @shop.last_response["location"]
    @shop.post("/group", { group: "Trade" }, "HTTP_REFERER" => "http://example.org/basket?x=1")
    assert_equal "http://example.org/basket", @shop.last_response["location"]
    @shop.get("/")
    assert_match(%r{script-src 'self' http://gate.example}, @shop.last_response["content-security-policy"])
  end
end
