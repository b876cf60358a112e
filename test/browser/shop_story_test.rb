# frozen_string_literal: true

require_relative "../support/shop"

# The whole story, as a shopper and then as the merchant: an estimate as a guest, a basket below and above the threshold, a trade
# customer, heavy goods, an address out of every zone and the way back, checkout and order; then the order's reckoning, and who was
# turned away. And a merchant's cart, tried in the shop.
class ShopStoryTest < Minitest::Test
  include ShopSupport

  def setup = open_shop

  def quote(lines, to = MAINLAND, **more) = ask(:post, "quotes", { cart: cart(lines, to, **more) }, key: @server_key)
  def shown(price) = price == "0.00" ? "free" : "£#{price}"
  def told(quote) = quote["methods"].to_h { |one| [one["code"], shown(one["price"])] }
  def milepost = find("gate-mile-milepost").shadow_root
  def on_screen(name) = part(name).all("[data-code]", minimum: 1).to_h { |one| [one["data-code"], one.find("[part^=price]").text] }

  def put_in_basket(sku, units)
    visit_shop "/products/#{sku}"
    fill_in "How many", with: units
    click_button "Put in the basket"
  end

  def fill_address(**typed)
    { "Name" => "R. Pascoe", "Street" => "12 Harbour Row", **typed.transform_keys(&:to_s) }.each { |label, text| type_into(find_field(label), text) }
  end

  def test_the_whole_story
    as_a_guest
    below_and_above_the_threshold
    as_a_trade_customer
    heavy_goods_to_where_nothing_takes_them
    out_of_every_zone_and_back
    number = the_order
    assert_nothing_reported
    the_merchant_looks(number)
  end

  # The door can't be asked: pages stand, the basket is kept, and it says so.
  def test_while_the_door_is_away
    put_in_basket "LOG-A4", 1
    api(:get, "/api/keys")["keys"].each { |one| api(:delete, "/api/keys/#{one["id"]}") }
    visit_shop "/products/LOG-A4"
    assert part("estimate").has_text?("You will see it at the checkout")
    visit_shop "/checkout"
    assert_text "Where is it to go?"
    visit_shop "/checkout/delivery"
    assert_text "Delivery can’t be worked out just now. Your basket and address are kept"
    assert_accessible "a checkout without delivery"
    visit_shop "/basket"
    assert_text "Ship's log, A4, hardback"
  end

  # From the bench: this cart, as that group, at that moment, by the draft.
  def test_a_cart_is_tried_in_the_shop
    store = setup_now["store"]
    api(:patch, "/api/store", { lock_version: store["lock_version"], storefront: { open: true, origins: [@origin], page: "#{@origin}/try" } })
    reprice("uk-tracked", "1.23")
    visit "/"
    shop = window_opened_by { within(bench) { click_button "See it in the shop" } }
    within_window(shop) do
      assert_text "You are trying the draft"
      bench_cart = CART["lines"].to_h { |line| [line["sku"], line["quantity"]] }
      assert_equal(bench_cart, all("input[name=quantity]", minimum: 1).to_h do |field|
        [field.find(:xpath, "../input[@name='sku']", visible: :all)["value"], field.value.to_i]
      end)
      click_link "To the checkout"
      fill_address
      click_button "Go on to delivery"
      assert part("choice").has_text?("£1.23")
      assert_text "This is a trial: nothing can be ordered."
      assert_no_button "Order and pay"
      assert_accessible "a trial"
      click_button "Leave the trial"
      assert_no_text "You are trying"
    end
    shop.close
  end

  private

  def as_a_guest
    visit_shop
    assert_accessible "the catalogue"
    fill_in "Search the shop", with: "ship's log"
    click_button "Search"
    click_link "Ship's log, A4, hardback"
    type_into(part("estimate").find("[name=postcode]"), "TR29 4ZZ")
    part("estimate").find("button").click
    assert part("estimate").has_selector?("[data-code=TRACKED]")
    assert_equal told(quote(goods("LOG-A4"))), on_screen("estimate")
    assert_accessible "a product"
  end

  # What the message says agrees with what the quote says, each time.
  def below_and_above_the_threshold
    click_button "Put in the basket"
    [1, 2, 3, 4].each do |units|
      find_field("Units of Ship's log, A4, hardback").set(units).send_keys(:enter)
      assert_selector "header", text: "Basket #{units}"
      said = quote(goods("LOG-A4", units), { "country" => "GB" })["mileposts"].find do |one|
        one["text"] && one["pages"].then do |kinds|
          kinds.empty? || kinds.include?("cart")
        end
      end
      text = said["text"].gsub(/\{(\w+)\}/) do
        said.dig("values", Regexp.last_match(1)).then do |value|
          value["kind"] == "money" ? "£#{value["value"]}" : value["value"]
        end
      end
      assert milepost.has_selector?("[data-moment=#{said["moment"]}]", text: text), "#{units}: #{text}"
    end
    assert milepost.has_selector?("[data-moment=reached]")
    assert_accessible "a basket"
  end

  def as_a_trade_customer
    find_field("Signed in as").find("option", text: "Trade").select_option
    click_button "Change"
    click_link "To the checkout"
    assert_accessible "an address"
    fill_address(Town: "Tarrow", Postcode: "TR29 4ZZ")
    click_button "Go on to delivery"
    assert part("choice").has_selector?("label")
    trade = told(quote(goods("LOG-A4", 4), group: "Trade"))
    refute_equal told(quote(goods("LOG-A4", 4))), trade
    assert_equal trade, on_screen("choice")
    find_field("Signed in as").find("option", text: "a guest").select_option
    click_button "Change"
    assert_equal told(quote(goods("LOG-A4", 4))), on_screen("choice")
  end

  def heavy_goods_to_where_nothing_takes_them
    put_in_basket "DNG-270", 1
    visit_shop "/checkout/delivery"
    assert_equal told(quote([*goods("LOG-A4", 4), *goods("DNG-270")])), on_screen("choice")
    click_link "Change the address", match: :first
    fill_address(Postcode: "BT9 5AA")
    click_button "Go on to delivery"
    assert_text quote([*goods("LOG-A4", 4), *goods("DNG-270")], { "country" => "GB", "postcode" => "BT9 5AA" })["text"]
    assert_accessible "nothing available"
  end

  # The postcode alone says that it is Hawaii, which is not served: told at the address, and in the merchant's words.
  def out_of_every_zone_and_back
    click_link "Change the address", match: :first
    find_field("Country").find("option", text: "United States").select_option
    fill_address(Town: "Honolulu", Postcode: "96801")
    assert_selector ".gate-mile-note", text: "There is no delivery to this address."
    click_button "Go on to delivery"
    assert_text "We have no way to send this to you yet. Write to the quay and we will find one."
    click_link "Change the address", match: :first
    find_field("Country").find("option", text: "United Kingdom").select_option
    fill_address(Town: "Tarrow", Postcode: "TR29 4ZZ")
    assert_no_selector ".gate-mile-note", text: "There is no delivery"
    click_link "Back to the basket"
    find_field("Units of #{catalogue_name("DNG-270")}").set("0")
    all("button", text: "Set").last.click
    assert_no_text catalogue_name("DNG-270")
  end

  def catalogue_name(sku) = Catalogue.new[sku].name

  def the_order
    click_link "To the checkout"
    find_field("Country").find("option", text: "United Kingdom").select_option
    fill_address(Town: "Tarrow", Postcode: "TR29 4ZZ")
    click_button "Go on to delivery"
    expected = quote(goods("LOG-A4", 4))["methods"].find { |one| one["code"] == "NEXT-DAY" }
    part("choice").find("label", text: expected["name"]).click
    assert_accessible "a checkout"
    click_button "Order and pay"
    assert_text "Thank you: it is ordered"
    [expected["name"], "(NEXT-DAY)", "£#{expected["price"]}", expected["promise"]].each { |text| assert_text text }
    assert_accessible "an order"
    page.current_path.split("/").last.tap { |number| assert_text number }
  end

  def the_merchant_looks(number)
    visit "/orders"
    row = find("tr", text: number)
    ["Mainland Britain", "Next day by noon", "placed"].each { |text| row.assert_text text }
    click_button number
    assert_selector "section[aria-label^='Why order #{number} paid']"
    APPLICATION.store_asked
    within("nav[aria-label=Sections]") { click_link "Turned away" }
    assert_selector "h1", text: "Turned away"
    away = find("[aria-label='Turned away'] li", text: "Northern Ireland")
    away.assert_text catalogue_name("DNG-270")
    assert_selector "[aria-label='Turned away'] li", text: "no zone covers the address"
    assert_accessible "who was turned away"
    away.click_button "The smallest of them on the bench"
    within(bench) { assert_field "Postcode", with: "BT9" }
    audited_soon
    visit "/findings"
    assert_text "What shoppers met"
  end
end
