# frozen_string_literal: true

require_relative "../support/shop"
require "zlib"

# What delivery will cost, on a shop's product page, for a guest: another origin, a strict content security policy, a public key.
class EstimateTest < Minitest::Test
  include ShopSupport

  SIZE = 12_000

  def setup = open_shop

  def visit_product(sku, lang: "en-GB", within: "", **said)
    attributes = { key: @key, sku: sku, **said }.map { |name, value| "#{name}='#{value}'" }.join(" ")
    visit_page("<gate-mile-estimate #{attributes}>#{within}</gate-mile-estimate>", lang: lang)
  end

  def part = super("estimate")
  def field(name) = part.find("[name=#{name}]")
  def answer = part.find("[role=status]")
  def choose_country(name) = field("country").find("option", text: /\A#{name}\z/).select_option

  def type_postcode(text) = type_into(field("postcode"), text)

  def prices = answer.all("li", minimum: 1).to_h { |one| [one.find("[part=name]").text, one.find("[part^=price]").text] }

  def test_an_estimate_for_a_guest
    visit_product("LOG-A4")
    assert_equal "Choose a country", field("country").find("option", match: :first).text
    %w[region goods].each { |name| assert part.has_no_selector?("[name=#{name}]"), "#{name}: nothing to choose" }
    choose_country("United Kingdom")
    type_postcode("TR29 4ZZ")
    assert answer.has_no_selector?("li"), "nothing is asked before the button is pressed"
    part.find("button").click
    quote = api(:post, "/checkout/v1/quotes", { cart: { lines: [{ sku: "LOG-A4", quantity: 1 }], destination: { country: "GB", postcode: "TR29 4ZZ" } } },
                "HTTP_AUTHORIZATION" => "Bearer #{@key}", "HTTP_ORIGIN" => @origin)
    assert_equal(quote["methods"].to_h { |one| [one["name"], one["price"] == "0.00" ? "free" : "£#{one["price"]}"] }, prices)
    assert answer.has_selector?("[part=milepost]", text: "£"), "what would change it"
    assert_accessible "an estimate"
    # From here on it follows what is typed; nothing of it stays in the browser.
    choose_country("Ireland")
    assert answer.has_selector?("[part=name]", text: "Pallet freight")
    assert_nil page.evaluate_script("localStorage.getItem('gate-mile:address')")
    assert_empty page.driver.cookies
    page.refresh
    assert_equal "", field("country").value
  end

  def test_what_is_remembered_where_the_shopper_lets_it
    visit_product("LOG-A4", ask: "open")
    choose_country("United Kingdom")
    type_postcode("BT9 5AA")
    part.find("[name=kept]").click
    assert answer.has_selector?("li")
    visit_product("CHT-PASS-F", ask: "open")
    assert answer.has_selector?("li"), "asked as soon as the page opens"
    assert_equal ["GB", "BT9 5AA"], [field("country").value, field("postcode").value]
    part.find("[name=kept]").click
    visit_product("CHT-PASS-F")
    assert_equal "", field("country").value
  end

  # In a dialog, in another language, with what is in the basket.
  def test_in_a_dialog_with_the_basket
    visit_product("CHT-PASS-F", place: "dialog", lang: "de", basket: '[{"sku":"LOG-A4","quantity":4}]')
    part.find("button", text: "Versandkosten").click
    choose_country("Vereinigtes Königreich")
    type_postcode("TR29 4ZZ")
    part.find("button", text: "Was kostet der Versand?").click
    alone = prices["Tracked"]
    field("goods").find("option", text: "Mit dem Warenkorb").select_option
    assert answer.has_selector?("li", text: "free"), "nothing in the merchant’s word"
    refute_equal alone, prices["Tracked"]
    part.find("button", text: "Schließen").click
    assert part.has_no_selector?("dialog[open]")
  end

  # Nothing served, nothing offered, a revoked key, the door away: always words, never an empty place.
  def test_trouble
    visit_product("DNG-270", ask: "open")
    assert field("country").has_no_selector?("option", text: "Brazil"), "only what is served can be chosen"
    choose_country("United Kingdom")
    assert answer.has_text?("Type a postcode")
    type_postcode("BT9 5AA")
    assert answer.has_selector?("[part=nothing]")
    id = api(:get, "/api/keys")["keys"].find { |one| one["public"] }["id"]
    api(:delete, "/api/keys/#{id}")
    type_postcode("TR29 4ZZ")
    assert answer.has_text?("You will see it at the checkout")
    page.refresh
    assert answer.has_text?("You will see it at the checkout")
  end

  # A key for pages of another origin, and a door that is slow: what is late never stands in the place of what was asked after it.
  def test_a_foreign_key_and_a_slow_door
    foreign = api(:post, "/api/keys", { name: "Other", public: true, origins: ["https://other.example"], calls: %w[quotes served] })["key"]
    visit_page("<gate-mile-estimate key='#{foreign}' sku='LOG-A4' ask='open' country='GB'></gate-mile-estimate>")
    assert answer.has_text?("You will see it at the checkout")
    visit_product("LOG-A4", ask: "open", country: "GB")
    assert answer.has_text?("Type a postcode")
    TURNSTILE.hold("POST", %r{/checkout/v1/quotes\z})
    type_postcode("BT9 5AA")
    assert(eventually { TURNSTILE.came.any? })
    before = TURNSTILE.came.size
    assert find("gate-mile-estimate").shadow_root.find("[role=status]")["aria-busy"]
    type_postcode("TR29 4ZZ")
    assert(eventually { TURNSTILE.came.size > before })
    TURNSTILE.open
    assert answer.has_selector?("[data-code=TRACKED]", text: "£5.95")
    assert_equal({ "Tracked" => "£5.95" }, prices.slice("Tracked"))
  end

  # HTML's autofill tokens, so that browsers fill in what they know (HTML Standard, 4.10.18.7).
  def test_what_browsers_fill_in
    visit_product("LOG-A4")
    assert_equal(%w[country postal-code address-level1], %w[country postcode region].map { |name| part.find("[name=#{name}]", visible: :all)["autocomplete"] })
    assert_equal 4, Dir[File.join(Server::ROOT, "web/dist/embed/*.js")].size
    Dir[File.join(Server::ROOT, "web/dist/embed/*.js")].each do |file|
      assert_operator Zlib.gzip(File.read(file), level: 9).bytesize, :<, SIZE, File.basename(file)
    end
  end

  # Beside the product's description; which variant, from when, and how many more make delivery free.
  def test_in_a_tab
    visit_product("LOG-A4", place: "tab", details: "About it", name: "Log, A4", country: "GB", postcode: "TR29 4ZZ", ask: "open",
                            within: "<p>Bound in cloth.</p>")
    assert_text "Bound in cloth."
    part.find("[role=tab]", text: "About it").click
    press(:right)
    assert_equal "Delivery", page.evaluate_script("document.activeElement.shadowRoot.activeElement.textContent")
    assert_no_text "Bound in cloth."
    assert answer.has_text?("Log, A4. If you order now, ")
    more = answer.find("[part=more]").text[/\A\d+/].to_i
    price = lambda { |units|
      ask(:post, "quotes", { cart: cart(goods("LOG-A4", units)) }, key: @server_key)["methods"].reject do |one|
        one["collection"]
      end.map { |one| one["price"] }
    }
    assert_includes price.call(1 + more), "0.00"
    refute_includes price.call(more), "0.00"
    find("gate-mile-estimate").execute_script("this.setAttribute('quantity', arguments[0])", more + 1)
    assert answer.has_no_selector?("[part=more]")
    assert answer.has_text?("free")
    assert_accessible "an estimate in a tab"
    assert_nothing_reported
  end
end
