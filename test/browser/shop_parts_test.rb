# frozen_string_literal: true

require_relative "../support/shop"

# The choice of delivery, the milepost and the address helper on a shop's pages, by pointer and keyboard, and in trouble.
class ShopPartsTest < Minitest::Test
  include ShopSupport

  def setup = open_shop

  def quote(lines = goods("LOG-A4"), to = MAINLAND, **more) = ask(:post, "quotes", { cart: cart(lines, to, **more) }, key: @server_key)
  def choice = part("choice")

  def visit_choice(quote, attributes = "", **page)
    visit_page("<form action='/' method='get'><gate-mile-choice name='delivery' required #{attributes} quote='#{ERB::Util.h(JSON.generate(quote))}'>" \
               "<label><input type='radio' name='delivery' value='OLD'> Without scripts</label></gate-mile-choice><button>Order</button></form>", **page)
  end

  def give(quote) = find("gate-mile-choice").execute_script("this.quote = arguments[0]", quote)

  def prices
    choice.all("label", minimum: 1).to_h { |one| [one.find("[part=name]").text.split(/cheapest|fastest/).first.strip, one.find("[part^=price]").text] }
  end

  def test_a_choice_is_a_field_of_the_form
    told = quote
    visit_choice(told)
    assert_no_text "Without scripts"
    assert_equal(told["methods"].to_h { |one| [one["name"], one["price"] == "0.00" ? "free" : "£#{one["price"]}"] }, prices)
    assert choice.has_text?("The Rope Store, Tarrow Quay · Monday to Saturday, 08:00 to 17:00")
    assert_equal %w[cheapest fastest], choice.all("[part=mark]").map(&:text).uniq.sort
    listen "choice"
    click_button "Order"
    refute page.evaluate_script("document.querySelector('form').checkValidity()"), "nothing is chosen yet"
    choice.find("label", text: "Tracked").click
    press(:down)
    assert_equal "NEXT-DAY", find("gate-mile-choice").evaluate_script("this.value")
    assert_equal(%w[TRACKED NEXT-DAY], heard.map { |_, method| method["code"] })
    assert_accessible "a choice of delivery"
    sent = page.evaluate_script("Object.fromEntries(new FormData(document.querySelector('form')))")
    assert_equal({ "delivery" => "NEXT-DAY", "delivery-quote" => told["quote"] }, sent)
    assert_nothing_reported
  end

  # What was chosen stays chosen, and what has changed for the shopper is said: another price, other prices, gone.
  def test_prices_change
    visit_choice(quote)
    listen "changed"
    choice.find("label", text: "Tracked").click
    give(quote(goods("LOG-A4", 5)))
    assert choice.has_selector?("[role=status]", text: /is now free instead of £5.95\./)
    assert_equal "TRACKED", find("gate-mile-choice").evaluate_script("this.value")
    assert_equal([["5.95", "0.00"]], heard.map { |_, detail| [detail["before"]["price"], detail["now"]["price"]] })
    choice.find("label", text: "Next day").click
    give(quote)
    assert choice.has_selector?("[role=status]", text: "Prices of delivery have changed.")
    give(quote(goods("DNG-270")))
    assert choice.has_selector?("[role=status]", text: "Next day by noon is no longer possible. Choose again.")
    assert_nil find("gate-mile-choice").evaluate_script("this.value")
  end

  # Several methods as one, in a menu, with the reasons of those that are not there; in another language.
  def test_in_a_menu_with_groups_and_reasons
    told = quote(goods("DNG-270"))
    refute_empty told["unavailable"]
    groups = '[{"name":"Nach Hause","methods":["TRACKED","NEXT-DAY"]}]'
    visit_choice(quote, "shown='menu' unavailable groups='#{groups}'", lang: "de")
    assert choice.has_selector?("option", text: "Nach Hause: 5,95")
    assert choice.has_no_selector?("option", text: "Next day")
    choice.find("option", text: "Nach Hause").select_option
    assert_equal "TRACKED", find("gate-mile-choice").evaluate_script("this.value")
    give(told)
    assert_equal told["unavailable"].size, choice.all("[part=unavailable] li").size
    assert choice.has_selector?("[role=status]", text: "Nach Hause ist nicht mehr möglich")
    assert_accessible "a menu of deliveries"
  end

  # Prices that the shop's server gave stand until the page has another basket.
  def test_another_basket_than_the_one_of_the_given_quote
    visit_choice(quote, "key='#{@key}'")
    assert choice.has_selector?("[data-code=TRACKED]", text: "£5.95")
    asked = JSON.generate({ lines: goods("LOG-A4", 5), destination: { country: "GB", postcode: "TR29 4ZZ" } })
    find("gate-mile-choice").execute_script("this.setAttribute('cart', arguments[0])", asked)
    assert choice.has_selector?("[data-code=TRACKED]", text: "free")
  end

  # It asks by itself where it may; while the door is away what there was stays, and it says so.
  def test_it_asks_by_itself
    asked = ERB::Util.h(JSON.generate({ lines: goods, destination: { country: "GB", postcode: "TR29 4ZZ" } }))
    visit_page("<gate-mile-choice key='#{@key}' cart='#{asked}'></gate-mile-choice>")
    choice.find("label", text: "Tracked").click
    change = lambda { |lines, to|
      page.execute_script("document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: arguments[0] }))", { lines: lines, destination: to })
    }
    change.call(goods("LOG-A4", 5), { country: "GB", postcode: "TR29 4ZZ" })
    assert choice.has_selector?("[role=status]", text: "instead of £5.95")
    change.call(goods, { country: "BR" })
    assert choice.has_selector?("[part=nothing]", text: "We have no way to send this to you yet.")
    change.call(goods, { country: "GB", postcode: "TR29 4ZZ" })
    assert choice.has_selector?("label", text: "Tracked")
    api(:get, "/api/keys")["keys"].each { |one| api(:delete, "/api/keys/#{one["id"]}") }
    change.call(goods("LOG-A4", 2), { country: "GB", postcode: "TR29 4ZZ" })
    assert choice.has_selector?("[role=status]", text: "Your basket is kept")
    assert choice.has_selector?("label", text: "Tracked")
  end

  # Scripts in names are texts wherever a part shows them.
  def test_scripts_in_names
    evil = "<img src=x onerror='document.title=1'>"
    told = quote
    told["methods"].each { |one| one.merge!("name" => evil, "promise" => evil, "messages" => [evil]) }
    told["unavailable"] = [{ "code" => "X", "name" => evil, "causes" => ["constructor"] }]
    visit_choice(told, "unavailable")
    assert choice.has_text?(evil)
    assert choice.has_no_selector?("img")
    visit_page("<gate-mile-estimate key='#{@key}' sku='LOG-A4' ask='open' country='GB' postcode='TR29 4ZZ' name=\"#{ERB::Util.h(evil)}\"></gate-mile-estimate>")
    assert part("estimate").has_text?(evil)
    assert part("estimate").has_no_selector?("img")
    assert_equal "A shop", page.title
    assert_nothing_reported
  end

  def test_five_hundred_lines
    lines = setup_now.then { api(:get, "/api/products?limit=60")["products"] }.map { |one| { sku: one["sku"], quantity: 1 } }.cycle.first(500)
    asked = ERB::Util.h(JSON.generate({ lines: lines, destination: { country: "GB", postcode: "TR29 4ZZ" } }))
    visit_page("<gate-mile-milepost key='#{@key}' page='cart' cart='#{asked}'></gate-mile-milepost>" \
               "<gate-mile-choice key='#{@key}' cart='#{asked}'></gate-mile-choice>")
    assert choice.has_selector?("label,[part=nothing]:not(:empty)")
    assert_equal 200, (ask(:post, "quotes", { cart: cart(lines) }, key: @server_key) && status)
    assert_equal 422, (ask(:post, "quotes", { cart: cart([*lines, *goods]) }, key: @server_key) && status)
  end

  # A form that the shop wrote: its own fields by their autofill tokens (HTML Standard, 4.10.18.7).
  FORM = <<~HTML
    <gate-mile-address %s>
      <label>Street <input autocomplete="shipping street-address"></label>
      <label>Region <select autocomplete="shipping address-level1"></select></label>
      <label>Postcode <input autocomplete="shipping postal-code"></label>
      <label>Country <select autocomplete="shipping country"><option value="">Choose</option><option value="BR">Brazil</option>
      <option value="GB">Britain</option><option value="US">America</option></select></label>
    </gate-mile-address>
  HTML

  def test_an_address_form
    visit_page(format(FORM, "key='#{@key}'"))
    assert_no_selector "option", text: "Brazil"
    note = ->(field) { find_field(field)["aria-describedby"].then { |id| find("##{id}", visible: :all).text } }
    find_field("Country").find("option", text: "Britain").select_option
    assert_equal "TR29 4ZZ", find_field("Postcode")["placeholder"]
    assert_no_selector "label", text: "Region"
    type_into(find_field("Street"), "P.O. Box 12")
    assert_selector ".gate-mile-note", text: "This looks like a PO box"
    listen "address"
    type_into(find_field("Postcode"), "TR29 4")
    assert_no_selector ".gate-mile-note", text: "not whole yet"
    press(:tab)
    type_into(find_field("Street"), "12 Harbour Row")
    assert_selector ".gate-mile-note", text: "This postcode is not whole yet."
    type_into(find_field("Postcode"), "12345")
    press(:tab)
    assert_selector ".gate-mile-note", text: "Such as TR29 4ZZ."
    assert_equal note.call("Postcode"), find(".gate-mile-note", text: "Such as").text
    find_field("Country").find("option", text: "America").select_option
    find_field("Region").find("option", text: "Texas").select_option
    type_into(find_field("Postcode"), "90210")
    assert_selector ".gate-mile-note", text: "This postcode lies in another region."
    assert_accessible "an address form"
    assert_includes heard.last.last["remarks"], "region_against_postcode"
    find_field("Region").find("option", text: "California").select_option
    assert_no_selector ".gate-mile-note", text: "another region"
    assert_nothing_reported
  end

  # Custom elements (HTML Standard, 4.13): made before their script is there, moved, copied, taken away and put back, twice on a
  # page, and a script that comes twice.
  def test_elements_as_the_standard_has_them
    asked = ERB::Util.h(JSON.generate({ lines: goods, destination: { country: "GB", postcode: "TR29 4ZZ" } }))
    visit_page("<form><gate-mile-choice key='#{@key}' cart='#{asked}'></gate-mile-choice></form><section></section>")
    assert choice.has_selector?("label", text: "Tracked")
    page.execute_script(<<~JS)
      const one = document.querySelector('gate-mile-choice')
      document.querySelector('section').append(one.cloneNode(true), one)
      const script = document.createElement('script')
      script.src = document.querySelector('script[src*=choice]').src
      document.head.append(script)
      const early = document.createElement('gate-mile-milepost')
      early.setAttribute('cart', one.getAttribute('cart'))
      early.setAttribute('key', one.getAttribute('key'))
      early.setAttribute('page', 'cart')
      document.querySelector('section').append(early)
    JS
    assert_selector "gate-mile-choice", count: 2
    all("gate-mile-choice").each { |one| assert one.shadow_root.has_selector?("label", text: "Tracked") }
    all("gate-mile-choice").last.shadow_root.find("label", text: "Tracked").click
    assert_equal([nil, "TRACKED"], all("gate-mile-choice").map { |one| one.evaluate_script("this.value") })
    assert part("milepost").has_text?("£")
    page.execute_script("document.querySelector('gate-mile-milepost').remove()")
    tell = lambda { |lines|
      page.execute_script("document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: arguments[0] }))", { lines: lines, destination: MAINLAND })
    }
    tell.call(goods("LOG-A4", 5))
    all("gate-mile-choice").each { |one| assert one.shadow_root.has_selector?("[data-code=TRACKED]", text: "free") }
    # What this page itself did to load the script again is the one thing that the policy reports.
    reported = @reports.map { |text| JSON.parse(text).dig("csp-report", "blocked-uri") }
    assert_equal ["trusted-types-sink"], reported
  end

  # A form for the delivery's address and one for the bill's: each has notes of its own.
  def test_two_address_forms
    visit_page(2.times.map { format(FORM, "key='#{@key}'") }.join)
    first, second = all("gate-mile-address").to_a
    [first, second].each { |form| form.find_field("Country").find("option", text: "Britain").select_option }
    type_into(first.find_field("Street"), "P.O. Box 12")
    first.assert_selector ".gate-mile-note", text: "PO box"
    type_into(second.find_field("Street"), "12 Harbour Row")
    type_into(second.find_field("Postcode"), "12345")
    second.assert_selector ".gate-mile-note", text: "Such as TR29 4ZZ."
    first.assert_selector ".gate-mile-note", text: "PO box"
    second.assert_no_selector ".gate-mile-note", text: "PO box"
    ids = all(".gate-mile-note", visible: :all).map { |note| note["id"] }
    assert_equal ids.uniq, ids
  end

  # With a foreign key nothing of the form is taken away.
  def test_an_address_form_while_the_door_is_away
    visit_page(format(FORM, "key='gmp_none'"))
    assert_selector "option", text: "Brazil"
    type_into(find_field("Street"), "P.O. Box 12")
    assert_no_selector ".gate-mile-note", text: "box"
  end

  # Progress in words and as a bar, along the top, in the shopper's country, closed for the visit.
  def test_a_milepost
    asked = ERB::Util.h(JSON.generate({ lines: goods("LOG-A4", 2) }))
    offer = setup_now["offers"].find { |one| one["name"].start_with?("Free from") }
    api(:patch, "/api/offers/#{offer["id"]}",
        { milepost: offer["milepost"].merge("closable" => true, "link" => "/delivery"), lock_version: offer["lock_version"] })
    publish
    visit_page("<gate-mile-milepost key='#{@key}' page='cart' place='top' country='GB' cart='#{asked}'></gate-mile-milepost>")
    bar = part("milepost").find("progress")
    assert_equal ["£37.80 of £75.00", 37.8, 75], [bar["aria-label"], bar["value"], bar["max"]]
    assert_equal "#{@origin}/delivery", part("milepost").find("a")["href"]
    assert_equal "sticky", page.evaluate_script("getComputedStyle(document.querySelector('gate-mile-milepost')).position")
    assert_accessible "a milepost"
    part("milepost").find("button").click
    assert find("gate-mile-milepost[silent]", visible: :all)
    page.refresh
    assert find("gate-mile-milepost[silent]", visible: :all)
  end
end
