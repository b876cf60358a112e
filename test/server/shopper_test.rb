# frozen_string_literal: true

require_relative "../support/checkout"

# What the parts of shops' pages ask besides prices: an address while it is typed, and carts that a merchant tries in the shop.
class ShopperTest < Minitest::Test
  include CheckoutSupport

  def setup
    fresh(WHOLE_DEMO)
    publish
    @key = key_for
  end

  def looked(**address) = ask(:post, "served", address)

  # Each remark comes from an address of its own; what is served agrees with where quotes land.
  def test_an_address_while_it_is_typed
    { { country: "GB", postcode: "TR29 4ZZ" } => [true, []], { country: "GB", postcode: "TR29 4" } => [true, %w[unfinished_postcode]],
      { country: "GB", postcode: "TR2X" } => [true, %w[malformed_postcode]], { country: "BR", postcode: "01000-000" } => [false, []],
      { country: "US", postcode: "1001" } => [nil, %w[malformed_postcode lost_zero]],
      { country: "US", region: "TX", postcode: "90210" } => [nil, %w[region_against_postcode]],
      { country: "IE", lines: ["P.O. Box 12"] } => [true, %w[po_box]],
      { country: "GB", lines: ["The Post Box Cottage"] } => [nil, []] }.each do |address, (served, remarks)|
      told = looked(**address)
      assert_empty told["remarks"] - remarks, address.inspect
      status = quoted(cart(goods, address.transform_keys(&:to_s)))["status"]
      assert_equal status == "not_served", told["served"] == false, address.inspect
      served.nil? ? assert_includes([nil, true], told["served"]) : assert_equal(served, told["served"], address.inspect)
    end
    assert_equal "CA", looked(country: "US", postcode: "90210")["region"]
    assert_equal [422, ["/country"]], [(answer = looked(country: "XX")) && status, pointers(answer)]
    assert_equal 422, (ask(:post, "served", [1]) && status)
    assert_equal 405, (ask(:patch, "served", {}) && status)
  end

  # Regions by name where they divide a country, and how its postcodes look.
  def test_what_a_form_is_built_from
    countries = ask(:get, "served")["countries"].to_h { |one| [one["country"], one] }
    assert_equal "TR29 4ZZ", countries["GB"]["postcode"]
    assert_nil countries["IE"]["regions"]
    named = countries.values.select { |one| one["regions"] }
    named.each { |one| assert_equal one["regions"].keys.sort, one["names"].keys.sort, one["country"] }
    assert_includes named.map { |one| one["country"] }, "US"
    assert_equal "Hawaii", countries["US"]["names"]["HI"]
  end

  def test_what_is_said_beside_a_price
    quote = quoted(cart(goods("LOG-A4", 5)))
    assert_equal "free", quote["zero"]
    collected = quote["methods"].find { |one| one["code"] == "COLLECT" }
    assert_equal({ "place" => "The Rope Store, Tarrow Quay", "hours" => "Monday to Saturday, 08:00 to 17:00" }, collected["collection"])
    refute(quote["methods"].any? { |one| one["code"] != "COLLECT" && one["collection"] })
  end

  # The draft as the door would tell it: the same as the release while nothing has been edited since.
  def test_the_draft_as_shoppers_would_see_it
    said = ->(quote) { quote.slice("status", "methods", "mileposts", "text", "zero") }
    [cart, cart(goods("DNG-270"), "country" => "GB", "postcode" => "BT9 5AA"), cart(goods, "country" => "BR")].each do |one|
      told = api(:post, "/api/shopper/quotes", { cart: one })
      assert_equal said.call(quoted(one)), said.call(told)
      assert_equal [nil, nil], told.values_at("quote", "release")
    end
    reprice("uk-tracked", "1.23")
    assert_equal "1.23", price(api(:post, "/api/shopper/quotes", { cart: cart }))
    refute_equal "1.23", price(quoted)
    many = api(:post, "/api/shopper/quotes/batch", { carts: [cart, { lines: 1 }] })["quotes"]
    assert_equal "1.23", price(many.first)
    assert_equal "/carts/1/lines", many.last.dig("problem", "errors", 0, "pointer")
    assert_equal ask(:get, "served")["countries"], api(:get, "/api/shopper/served")["countries"]
    assert_equal true, api(:post, "/api/shopper/served", { country: "GB" })["served"].nil?
    assert_nil checkout.asked.take.fetch(:turned_away, []).find { |one| one[:country] == "BR" && one[:times] > 1 }, "what merchants look at is not counted"
  end

  # The shop gets the cart as it stood on the bench, asks by the draft or a release at its moment, and can't order.
  def test_a_cart_is_tried_in_the_shop
    reprice("uk-tracked", "1.23")
    given = cart(goods("LOG-A4", 2), "group" => "Trade", "offer_uses" => {})
    opened = api(:post, "/api/trials", { cart: given, at: "2026-12-24T16:30", release: nil })
    assert_equal 201, status
    told = ask(:get, "trials/#{opened["trial"]}")
    assert_equal [nil, "2026-12-24T16:30", given["lines"]], [told["release"], told["at"], told["cart"]["lines"]]
    tried = ask(:post, "quotes", { cart: cart, trial: opened["trial"] })
    assert_equal [nil, nil, "2026-12-24T16:30:00Z", "1.23"], [*tried.values_at("quote", "release", "at"), price(tried)]
    many = ask(:post, "quotes/batch", { carts: [cart], trial: opened["trial"] })["quotes"]
    assert_equal [nil, "1.23"], [many.first["quote"], price(many.first)]
    zone = setup_now["zones"].find { |one| one["id"] == "north-america" }
    api(:patch, "/api/zones/north-america", { active: false, lock_version: zone["lock_version"] })
    by = ->(query) { ask(:get, "served#{query}")["countries"].find { |one| one["country"] == "CA" }["served"] }
    assert_equal %w[wholly none], ["", "?trial=#{opened["trial"]}"].map(&by)
    assert_equal([true, false], ["", "?trial=#{opened["trial"]}"].map { |query| ask(:post, "served#{query}", { country: "CA" })["served"] })
    old = api(:post, "/api/trials", { cart: given, release: 1 })["trial"]
    refute_equal "1.23", price(ask(:post, "quotes", { cart: cart, trial: old }))
    refute_empty checkout.trials.find(old).told
  end

  # No such trial, one that is over, a page's key, a release or a moment that is none, and a page to look at.
  def test_trials_that_are_none
    trial = api(:post, "/api/trials", { cart: cart })["trial"]
    refused = ->(*args, **more) { ask(*args, **more) && status }
    assert_equal 404, refused.call(:get, "trials/none")
    assert_equal 404, refused.call(:post, "quotes", { cart: cart, trial: "none" })
    assert_equal 404, refused.call(:post, "quotes", { cart: cart, trial: 7 })
    page = key_for("Page", public: true, origins: ["https://shop.example"], calls: %w[quotes])
    assert_equal 403, refused.call(:get, "trials/#{trial}", key: page, "HTTP_ORIGIN" => "https://shop.example")
    assert_equal 403, refused.call(:get, "trials/#{trial}", key: key_for("Other", calls: %w[methods]))
    later(7201) { assert_equal 404, refused.call(:get, "trials/#{trial}") }
    wrong = ->(**said) { api(:post, "/api/trials", { cart: cart, **said }) && status }
    assert_equal [404, 422, 422], [wrong.call(release: 99), wrong.call(at: "soon"), wrong.call(cart: { "lines" => 1 })]
    201.times { checkout.trials.open(cart, nil, nil) }
    assert_nil checkout.trials.find(trial), "the oldest goes first"
  end

  def test_the_page_on_which_carts_are_tried
    set = lambda do |page|
      api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], storefront: { open: false, origins: [], page: page }.compact })
    end
    { "https://shop.example/try" => "?", "https://shop.example/try?lang=en" => "&", "http://127.0.0.1:4181/" => "?" }.each do |page, joint|
      set.call(page)
      opened = api(:post, "/api/trials", { cart: cart })
      assert_equal "#{page}#{joint}gate-mile-trial=#{opened["trial"]}", opened["page"]
    end
    set.call(nil)
    assert_nil api(:post, "/api/trials", { cart: cart })["page"]
    ["shop.example", "javascript:alert(1)", "https://shop.example/#here", "https://shop.example/a b"].each do |page|
      assert_equal ["/storefront/page"], pointers(set.call(page)), page
    end
  end

  # How parts behave comes back as it was said; each mistake is told at its place.
  def test_settings_of_the_parts
    set = lambda do |parts|
      api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], storefront: { open: false, origins: [], parts: parts } })
    end
    parts = { "estimate" => { "ask" => "open", "place" => "tab", "more" => false },
              "choice" => { "shown" => "menu", "unavailable" => true, "apart" => false,
                            "groups" => [{ "name" => "Standard", "methods" => %w[tracked next-day] }] },
              "milepost" => { "place" => "top", "page" => "checkout", "bar" => false }, "address" => { "boxes" => false } }
    assert_equal parts, set.call(parts).dig("storefront", "parts")
    assert_equal parts, setup_now.dig("store", "storefront", "parts")
    usual = set.call({ "estimate" => { "ask" => "press" } })
    assert_nil usual.dig("storefront", "parts"), "what is usual is not written down"
    { { "estimate" => { "ask" => "soon" } } => "/storefront/parts/estimate/ask", { "choice" => { "groups" => [{ "name" => "A", "methods" => [] }] } } =>
      "/storefront/parts/choice/groups/0/methods", { "choice" => { "groups" => [{ "methods" => ["x"] }] } } => "/storefront/parts/choice/groups/0/name",
      { "milepost" => { "page" => "x" * 41 } } => "/storefront/parts/milepost/page", { "more" => {} } => "/storefront/parts/more" }.each do |wrong, pointer|
      assert_includes pointers(set.call(wrong)), pointer, wrong.inspect
    end
  end

  # Without a key, mileposts are told by what counts for shoppers.
  def test_mileposts_by_the_release
    api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], storefront: { open: true, origins: ["https://shop.example"] } })
    said = -> { api(:post, "/public/mileposts", cart, "HTTP_ORIGIN" => "https://shop.example")["mileposts"].map { |one| one["text"] } }
    before = said.call
    refute_empty before
    setup_now["offers"].each { |one| api(:patch, "/api/offers/#{one["id"]}", { active: false, lock_version: one["lock_version"] }) }
    assert_equal before, said.call
    publish(overrule: "Tried")
    assert_empty said.call
  end
end
