# frozen_string_literal: true

require "csv"
require "support/checkout"

# What checkouts ask, counted without anybody in it, and what goes on today.
class AskedTest < Minitest::Test
  include CheckoutSupport

  HOME = { country: "GB", postcode: "TR29 4ZZ", lines: ["3 Quay Street"] }.freeze

  def setup
    fresh
    publish
    @key = key_for("Shop")
  end

  def shop(lines, to, **more) = ask(:post, "quotes", { cart: { lines: lines, destination: to, **more } })
  def log(quantity) = [{ sku: "LOG-A4", quantity: quantity }]
  def today = api(:get, "/api/today")

  def test_what_goes_on
    3.times { shop(log(1), HOME) }
    shop(log(2), { country: "BR", postcode: "01310-100", region: "BR-SP" })
    shop(log(1), { country: "BR", postcode: "01310-200", region: "BR-SP" }, group: "trade", coupons: ["AHOY"])
    now = today
    assert_equal({ "priced" => 3, "not_served" => 2 }, now["hours"].to_h { |one| one.values_at("outcome", "times") })
    assert_equal [2, 1, { "placed" => 0, "cancelled" => 0, "shipping" => "0.00" }],
                 [now["turned_away"], now["turned_away_most"].size, now["orders"]]
    away = now["turned_away_most"].first
    assert_equal ["not_served", "BR", "BR-SP", "013", 2, [{ "sku" => "LOG-A4", "name" => "Ship's log, A4, hardback" }]],
                 away.values_at("status", "country", "region", "postcode", "times", "goods")
    # The smallest of both, and nothing of who it was.
    assert_equal({ "lines" => [{ "sku" => "LOG-A4", "quantity" => 1 }], "destination" => { "country" => "BR", "region" => "BR-SP", "postcode" => "013" } },
                 away["cart"])
    assert_equal BigDecimal(away["worth"]), 3 * BigDecimal(find_price("LOG-A4"))
    ask(:post, "orders", { order: "7", quote: quoted["quote"], method: "TRACKED" })
    assert_equal [1, "5.95"], today["orders"].values_at("placed", "shipping")
    assert_equal(["Fulmar Freight", "Gannet Express", "Petrel Post"], today["carriers"].map { |one| one["name"] }.sort)
  end

  def find_price(sku) = api(:get, "/api/products?limit=1&q=#{sku}")["products"].first["price"]

  # Nothing that is a person"s stands in any of its rows, whatever was sent.
  def test_nothing_personal
    secret = "Zanzibar Quux"
    shop([{ name: secret, quantity: 1, unit_price: "9.00", weight: "1 kg" }], { country: "BR", postcode: "98765432", lines: [secret] },
         billing: { country: "GB", lines: [secret] })
    today
    rows = %w[quote_hours turned_away offered_methods].flat_map { |table| ActiveRecord::Base.connection.select_all("SELECT * FROM #{table}").to_a }
    refute_empty rows
    refute_match(/Zanzibar|98765/, rows.to_json)
  end

  # A shopper who is still typing was not turned away; one whose whole address decides nothing was.
  def test_what_counts_as_turned_away
    shop(log(1), { country: "GB" })
    shop(log(1), {})
    assert_equal 0, today["turned_away"]
    shop(log(1), { country: "GB", postcode: "PA" })
    assert_equal 0, today["turned_away"]
    # A region that the shop's form does not ask for: nothing that a shopper could type decides.
    api(:post, "/api/zones", { name: "São Paulo", active: true, areas: [{ kind: "regions", country: "BR", regions: ["SP"] }] })
    publish
    shop(log(1), { country: "BR", postcode: "01310-100" })
    assert_equal ["undetermined", 1, 4], [today["turned_away_most"].first&.fetch("status"), today["turned_away"], today["hours"].sum { |one| one["times"] }]
  end

  # Carts with one cause in one place are one group, with what they have in common, the most frequent first.
  def test_the_report
    fresh(WHOLE_DEMO)
    publish
    @key = key_for("Shop")
    dinghy = [{ sku: "DNG-270", quantity: 1 }]
    3.times { shop(dinghy, { country: "GB", postcode: "BT9 5AA" }) }
    2.times { shop(dinghy + log(2), { country: "GB", postcode: "BT23 1ZZ" }) }
    2.times { |at| shop(log(1 + at), { country: "BR", postcode: "01310-100" }) }
    report = api(:get, "/api/turned-away?days=7")
    first, second = report["groups"]
    assert_equal [7, 2, { "GB" => 5, "BR" => 2 }], [report["carts"], report["groups"].size, report["countries"]]
    assert_equal ["nothing_available", "northern-ireland", "GB", 5, ["DNG-270"], ["line_barred"]],
                 [*first.values_at("status", "zone", "country", "times"), first["goods"].map { |one| one["sku"] }, first["causes"]]
    assert_equal([["BT9", 3], ["BT23", 2]], first["postcodes"].map { |one| one.values_at("code", "times") })
    assert_equal([["DNG-270", 1]], first["cart"]["lines"].map { |line| line.values_at("sku", "quantity") })
    assert_equal ["not_served", nil, "BR", 2], second.values_at("status", "zone", "country", "times")
    assert_equal(BigDecimal(report["worth"]), report["groups"].sum { |group| BigDecimal(group["worth"]) })
    # The smallest cart shows it: on the bench it gets nothing either, for the same cause.
    quote = api(:post, "/api/quote", first["cart"])
    assert_equal ["nothing_available", true], [quote["status"], quote["methods"].any? { |one| one["causes"].any? { |cause| cause["code"] == "line_barred" } }]
    assert_equal [%w[/days], 422], [pointers(api(:get, "/api/turned-away?days=91")), status]
    later(8 * 86_400) { assert_equal 0, api(:get, "/api/turned-away?days=7")["carts"] }
  end

  # Methods that were there to choose, against orders: what nobody takes comes first.
  def test_offered_and_never_chosen
    6.times { quoted }
    ask(:post, "orders", { order: "1", quote: quoted["quote"], method: "TRACKED" })
    chosen = api(:get, "/api/turned-away")["chosen"]
    assert_equal([["Tracked", 7, 1]], chosen.select { |one| one["rate"] == "uk-tracked" }.map { |one| one.values_at("name", "offered", "chosen") })
    assert_equal(chosen.map { |one| one["chosen"] }.sort, chosen.map { |one| one["chosen"] })
    assert_operator chosen.count { |one| one["chosen"].zero? }, :>, 1
  end

  def test_orders_as_csv
    ask(:post, "orders", { order: "=1+1", quote: quoted["quote"], method: "TRACKED" })
    ask(:post, "orders", { order: "1002", quote: quoted["quote"], method: "TRACKED" })
    ask(:patch, "orders/1002", { state: "cancelled" })
    rows = CSV.parse(api(:get, "/api/orders.csv"), headers: true)
    assert_equal %w['=1+1 1002], rows.map { |row| row["order"] }.sort
    row = rows.find { |one| one["order"] == "1002" }
    assert_equal ["cancelled", "Mainland Britain", "Tracked", "TRACKED", "5.95", "GBP", "1"],
                 row.values_at("state", "zone", "method", "code", "price", "currency", "release")
    assert_equal({}, api(:get, "/api/orders")["uses"])
  end

  OUTER = { ["GB", "BT9 5AA"] => "BT9", %w[GB bt95aa] => "BT9", %w[GB TR29] => "TR29", %w[GB 123] => "123", ["IE", "D02 X285"] => "D02", %w[US 90210] => "902",
            ["NL", "1011 AB"] => "101", ["GB", nil] => nil, ["GB", " "] => nil, [nil, "12345"] => "123" }.freeze

  def test_the_beginning_of_a_postcode
    OUTER.each { |(country, postcode), wanted| wanted.nil? ? assert_nil(Server::Asked.outer(country, postcode)) : assert_equal(wanted, Server::Asked.outer(country, postcode)) }
  end

  # What several processes have gathered adds up, in whatever order it comes; what is old goes.
  def test_rows_add_up
    random = Random.new(3)
    sent = Array.new(60) { [random.rand(4), %w[BR CL].sample(random: random), random.rand(1..3)] }
    gathered = Array.new(4) { Server::Asked.new }
    book = Server::App.settings.releases.live.last
    sent.each do |at, country, quantity|
      cart = GateMile::Cart.parse({ "lines" => [{ "sku" => "LOG-A4", "quantity" => quantity }], "destination" => { "country" => country } }, book.currency)
      gathered[at].note(book.quote(cart, at: Time.now), cart, 0.01, Time.now.utc)
    end
    gathered.shuffle(random: random).each { |one| Server::AskedRows.store(JSON.parse(JSON.generate(one.take))) }
    assert_nil gathered.first.take
    assert_equal 60, Server::Records::QuoteHour.sum(:times)
    sent.group_by { |one| one[1] }.each do |country, all|
      row = Server::Records::TurnedAway.find_by(country: country)
      assert_equal [all.size, all.map(&:last).min], [row.times, row.cart["lines"].first["quantity"]]
    end
    Server::AskedRows.tidy(Time.now + (89 * 86_400))
    assert_equal 2, Server::Records::TurnedAway.count
    Server::AskedRows.tidy(Time.now + (92 * 86_400))
    assert_equal [0, 0], [Server::Records::TurnedAway.count, Server::Records::QuoteHour.count]
  end

  # The slowest of an hour is the slowest, in whichever order they come, and wherever they are added up.
  def test_the_slowest
    book = Server::App.settings.releases.live.last
    cart = GateMile::Cart.parse({ "lines" => [{ "sku" => "LOG-A4", "quantity" => 1 }], "destination" => { "country" => "BR" } }, book.currency)
    quote = book.quote(cart, at: Time.now)
    now = Time.utc(2026, 6, 1, 12)
    [[0.01, 0.25, 0.02], [0.2, 0.1]].each do |seconds|
      asked = Server::Asked.new
      seconds.each { |took| asked.note(quote, cart, took, now) }
      Server::AskedRows.store(JSON.parse(JSON.generate(asked.take)))
    end
    row = Server::Records::QuoteHour.find_by(hour: now)
    assert_equal [5, 580, 250], [row.times, row.milliseconds, row.slowest]
  end

  # Methods that there were to choose, of quotes that can be ordered; an estimate is none.
  def test_what_was_offered
    2.times { quoted }
    Server::App.settings.duties.round(Time.now)
    assert_equal [2], Server::Records::OfferedMethod.where(rate: "uk-tracked").pluck(:times)
  end

  # A shop that is asked for ever new goods does not fill the database: beyond so many a day they are not told apart.
  def test_ever_new_carts
    asked = Server::Asked.new
    book = Server::App.settings.releases.live.last
    cart = GateMile::Cart.parse({ "lines" => [{ "sku" => "LOG-A4", "quantity" => 1 }], "destination" => { "country" => "BR" } }, book.currency)
    quote = book.quote(cart, at: Time.now)
    5000.times do |at|
      to = cart.destination.with(postcode: format("%05d", at))
      asked.note(quote, cart.with(destination: to.with(region: "BR-#{at}")), 0.001, Time.now.utc)
    end
    assert_operator asked.take[:turned_away].size, :<=, 4000
  end
end
