# frozen_string_literal: true

require_relative "../support/browser"

# What is typed while the server is slow, refuses or is away: nothing of it is lost, and nothing reverts anything else.
class EditsTest < Minitest::Test
  include BrowserSupport

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  def teardown
    page.driver.browser.network.emulate_network_conditions(offline: false)
    super
  end

  # A person types on while the save of what they typed before is under way: that stays, and is stored next.
  def test_typing_on_while_a_save_is_under_way
    visit "/methods"
    name = find_field("Name of Tracked")
    TURNSTILE.hold("PATCH", %r{\A/api/methods/})
    name.set("Tracked post").send_keys(:enter)
    assert(eventually { TURNSTILE.came.size == 1 })
    find_field("Name of Tracked", with: "Tracked post").set("Tracked parcel")
    TURNSTILE.open
    assert_text "1 edit not stored yet"
    assert_field "Name of Tracked post", with: "Tracked parcel"
    find_field("Name of Tracked post").send_keys(:enter)
    assert(eventually { now("tracked")["name"] == "Tracked parcel" })
    assert_no_text "not stored yet"
    assert_equal 2, setup_now["methods"].find { |one| one["id"] == "tracked" }["lock_version"]
  end

  # Two quick edits of one thing, the second made before the first is answered: both are there in the end.
  def test_two_quick_edits_never_revert_each_other
    visit "/methods"
    TURNSTILE.hold("PATCH", %r{\A/api/methods/})
    %w[Saturday Sunday].each { |day| find("button[aria-label='Tracked leaves on #{day}']").click }
    find_field("Cutoff of Tracked").set("15:30").send_keys(:enter)
    assert(eventually { TURNSTILE.came.size == 1 })
    TURNSTILE.open
    eventually { now("tracked")["delivery"]["cutoff"] == "15:30" }
    assert_equal [[1, 2, 3, 4, 5, 6, 7], "15:30"], now("tracked")["delivery"].values_at("collection_days", "cutoff")

    visit "/goods/boxes"
    TURNSTILE.hold("PATCH", %r{\A/api/boxes/})
    { "length" => "31", "width" => "23", "height" => "13" }.each { |side, text| type_cell("Boxes", "small size #{side}", text, :tab) }
    assert(eventually { TURNSTILE.came.size == 1 })
    TURNSTILE.open
    wanted = { "length" => "31 cm", "width" => "23 cm", "height" => "13 cm" }
    assert(eventually { find_setup("boxes", "small")["size"] == wanted })

    visit "/rates/classes"
    TURNSTILE.hold("PATCH", %r{\A/api/rates/})
    cells = all("[role=grid] [data-cell]:not([aria-readonly])", minimum: 2).first(2).map { |cell| cell["data-cell"] }
    cells.each_with_index { |cell, at| type_cell("Prices by class", cell, "#{at + 7}.10", :tab) }
    assert(eventually { TURNSTILE.came.size == 1 })
    TURNSTILE.open
    assert(eventually { setup_now["rates"].any? { |rate| JSON.generate(rate["plan"]).then { |text| text.include?('"7.10"') && text.include?('"8.10"') } } })
  end

  # Settings that are stored in one field of the shop, changed while the first of them is under way.
  def test_settings_of_one_part_never_replace_each_other
    visit "/offers/pages"
    TURNSTILE.hold("PATCH", %r{\A/api/store})
    within("section[aria-label='Choice of delivery']") do
      choose "As a drop-down"
      check "Methods that don’t take the basket are listed, with the reason"
      uncheck "Where some goods keep a basket from being sent, it says which, and what there is without them"
    end
    assert(eventually { TURNSTILE.came.size == 1 })
    TURNSTILE.open
    choice = -> { setup_now.dig("store", "storefront", "parts", "choice") }
    assert(eventually { choice.call&.values_at("shown", "unavailable", "apart") == ["menu", true, false] })
  end

  # What a broken server refuses stays at its field, is listed wherever one goes, and can be sent again or taken back.
  def test_a_refused_edit_is_kept_listed_and_tried_again
    visit "/methods"
    TURNSTILE.refuse("PATCH", %r{\A/api/methods/}, 500)
    find_field("Name of Tracked").set("Tracked post").send_keys(:enter)
    assert_text "The server answered with 500. Nothing is lost: try again."
    find_field("Promise of Tracked").set("soon").send_keys(:enter)
    click_button "2 edits not stored yet"
    assert_selector "[role=dialog]", text: "Name of Tracked: “Tracked post”"
    assert_accessible "edits that are not stored"
    press(:escape)
    click_link "Rates"
    assert_text "Rates", wait: 5
    click_button "2 edits not stored yet"
    within("[role=dialog]") { click_link "Name of Tracked" }
    assert_field "Name of Tracked", with: "Tracked post"
    assert_text "The server answered with 500."
    TURNSTILE.open
    click_button "2 edits not stored yet"
    within("[role=dialog] li", text: "Name of Tracked") { click_button "Try again" }
    within("[role=dialog]") do
      assert_no_text "Name of Tracked: "
      click_button "Discard"
    end
    assert_no_text "not stored yet"
    assert(eventually { now("tracked")["name"] == "Tracked post" })
    refute_equal "soon", now("tracked")["promise"]
  end

  # A price that can't be one survives the closing of its editor.
  def test_a_refused_price_survives_its_editor
    visit "/#rate=ie-tracked&field=plan"
    type_cell "Price: steps", "1 amount", "abc", :enter
    assert_text "Write an amount like 4.50"
    assert_text "1 edit not stored yet"
    click_link "Zones"
    assert_button "Home"
    visit_within "/#rate=ie-tracked&field=plan"
    assert_cell "abc", "Price: steps", "1 amount"
    type_cell "Price: steps", "1 amount", "9.10", :enter
    assert_no_text "not stored yet"
    assert(eventually { find_setup("rates", "ie-tracked")["plan"]["schedule"]["steps"].first["amount"] == "9.10" })
  end

  # Many rates at once, with every price before and after; the notice undoes just that.
  def test_many_rates_are_changed_together
    visit "/rates"
    price = -> { find_setup("rates", "iom-pallet").dig("plan", "schedule", "amount") }
    fill_in "Percent", with: "10"
    click_button(text: /\AChange \d+ rates\z/)
    within("[data-sonner-toast]", text: /Changed \d+ rates/) do
      assert_equal "105.60", price.call
      click_button "Undo"
    end
    assert(eventually { price.call == "96.00" })
    fill_in "Percent", with: "ten"
    assert_no_button(text: /\AChange \d+ rates\z/)
    assert_selector "[data-fault]"
  end

  # A notice of an import undoes the import, and says so where something else came after it.
  def test_the_notice_of_an_import
    visit "/goods/csv"
    fill_in "Products as CSV", with: "SKU,Name,Price\nBUOY-40,Mooring buoy,48.00\nBUOY-41,Small buoy,4x\n"
    click_button "Import 1 good row"
    within("[data-sonner-toast]", text: "Imported 1 row") do
      reprice = find_setup("rates", "iom-pallet")
      api(:patch, "/api/rates/iom-pallet", { name: "By sea", lock_version: reprice["lock_version"] })
      click_button "Undo"
    end
    assert_text(/It cannot be undone alone: .* came after it/)
    refute_nil product_called("BUOY-40")
  end

  # Rows that are pasted while others are being stored stay; what was refused goes when it is cleared.
  def test_rows_that_are_pasted_while_others_are_stored
    head = "zone,active,kind,country,regions,only,except\n"
    visit "/zones"
    find("button[role=tab]", text: "CSV").click
    fill_in "Zones as CSV", with: "#{head}Faroes,no,country,FO,,,"
    assert_button "Import 1 zone"
    TURNSTILE.hold("POST", %r{\A/api/zones/import\z})
    click_button "Import 1 zone"
    assert(eventually { TURNSTILE.came.any? })
    fill_in "Zones as CSV", with: "#{head}Greenland,no,country,GL,,,"
    TURNSTILE.open
    assert_text "Imported zones"
    assert_field "Zones as CSV", with: "#{head}Greenland,no,country,GL,,,"
    assert_button "Import 1 zone"
    TURNSTILE.refuse("POST", %r{\A/api/zones/import\z}, 503)
    click_button "Import 1 zone"
    within("#section") { assert_text "The server answered with 503" }
    TURNSTILE.open
    click_button "Clear"
    assert_field "Zones as CSV", with: ""
    within("#section") { assert_no_text "The server answered with 503" }
    assert_includes setup_now["zones"].map { |zone| zone["name"] }, "Faroes"
  end

  # A flat price that was refused is no part of the steps that were put in its place: they are there when one comes back.
  def test_steps_over_a_flat_price_that_was_refused
    visit "/#rate=iom-pallet&field=plan"
    find_field("Flat price").set("5;20").send_keys(:tab)
    assert_text "Write an amount like 4.50"
    click_button "Price it by weight, value, class …"
    select "in steps", from: "Price: kind of price"
    type_cell "Price: steps", "1 amount", "9.10", :enter
    assert(eventually { find_setup("rates", "iom-pallet")["plan"]["schedule"]["kind"] == "steps" })
    assert_no_text "not stored yet"
    click_link "Zones"
    assert_button "Home"
    visit_within "/#rate=iom-pallet&field=plan"
    assert_cell "9.10", "Price: steps", "1 amount"
    assert_no_field "Flat price"
  end

  # The line is cut: the page says so, keeps what is typed, and goes on by itself when it is back.
  def test_the_server_goes_away_and_comes_back
    visit "/methods"
    assert_field "Name of Tracked"
    page.driver.browser.network.emulate_network_conditions(offline: true)
    find_field("Name of Tracked").set("Tracked post").send_keys(:enter)
    assert_text "The server does not answer. What you see stays"
    assert_text "1 edit not stored yet"
    assert_accessible "a server that is away"
    page.driver.browser.network.emulate_network_conditions(offline: false)
    assert_no_text "The server does not answer"
    assert(eventually { now("tracked")["name"] == "Tracked post" })
    assert_no_text "not stored yet"
  end

  # What is being added stays typed when it is refused, also while one is elsewhere, and is added once.
  def test_adding_and_removing_go_through_the_same_queue
    visit "/methods"
    TURNSTILE.refuse("POST", %r{\A/api/methods\z}, 502)
    fill_in("Name of a new method", with: "By barge").send_keys(:enter)
    assert_text "The server answered with 502."
    click_link "Offers"
    assert_text "1 edit not stored yet"
    click_link "Methods"
    assert_field "Name of a new method", with: "By barge"
    TURNSTILE.open
    click_button "Add method"
    assert_field "Name of By barge", with: "By barge"
    assert_field "Name of a new method", with: ""
    assert_equal(1, setup_now["methods"].count { |one| one["name"] == "By barge" })

    TURNSTILE.refuse("DELETE", %r{\A/api/methods/}, 500)
    click_button "Remove By barge"
    click_button "1 edit not stored yet"
    TURNSTILE.open
    within("[role=dialog] li", text: "Remove By barge") { click_button "Try again" }
    assert_no_field "Name of By barge"
    assert_no_text "not stored yet"
  end

  # Ctrl+Z in a field is the field's; a notice's Undo undoes what it names, or says why it cannot.
  def test_undo_means_what_it_says
    visit "/offers/registers"
    first, second = setup_now["groups"].map { |group| group["name"] }.first(2)
    click_button "Remove #{first}"
    assert_no_field "Name of #{first}"
    click_button "Remove #{second}"
    assert_no_field "Name of #{second}"
    # While one points at them, what they say stays.
    find("[data-sonner-toast]", text: "Removed #{second}").hover
    within("[data-sonner-toast]", text: "Removed #{first}") { click_button "Undo" }
    assert_text "It cannot be undone alone: removed customer group #{second} came after it."
    assert_no_field "Name of #{first}"
    within("[data-sonner-toast]", text: "Removed #{second}") { click_button "Undo" }
    assert_field "Name of #{second}"
    field = find_field("Name of #{setup_now["groups"].first["name"]}")
    field.set("Somebody")
    press([:ctrl, "z"])
    sleep 0.5
    assert_equal "delete", setup_now["history"]["undo"]["action"], "the keys belong to the field"
    assert_no_field "Name of #{first}"
  end

  # In a list that is sorted by price a row moves when its price is stored: what is being typed stays its product's.
  def test_a_cell_belongs_to_its_product
    visit "/goods"
    within("[role=grid]") { click_button "Price" }
    assert_selector "[aria-sort=ascending]"
    first, second = all("[data-cell$=' price']").first(2).map { |cell| cell["data-cell"] }
    find("[data-cell='#{first}']").click
    TURNSTILE.hold("POST", %r{\A/api/products/cells})
    press("99", :enter)
    press("0")
    TURNSTILE.open
    assert(eventually { all("[data-cell$=' price']").first["data-cell"] == second })
    press(".55", :enter)
    prices = [first, second].map { |cell| cell.split.first }
    assert(eventually { prices.map { |sku| product_called(sku)["price"] } == %w[99.00 0.55] })
  end

  # What a cell cannot take survives a search and another section, and is put right where it stands.
  def test_a_refused_cell_survives_a_search
    visit "/goods"
    find("[data-cell='TIDE-27 weight']").click
    press("abc", :enter)
    assert_text "1 edit not stored yet"
    fill_in "Find goods by name or SKU", with: "anchor"
    assert_no_selector "[data-cell='TIDE-27 weight']"
    assert_text "One cell is not stored yet"
    click_link "Methods"
    assert_selector "h1", text: "Methods"
    click_button "1 edit not stored yet"
    assert_selector "[role=dialog]", text: "Weight of Tide tables 2027, western approaches: “abc”"
    press(:escape)
    click_link "Goods"
    assert_selector "[data-cell='TIDE-27 weight']", text: "abc"
    find("[data-cell='TIDE-27 weight']").click
    press("0.15", :enter)
    assert_no_text "not stored yet"
    assert(eventually { product_called("TIDE-27")["weight"] == "0.15 kg" })
  end

  # A product opens from its name, with its treatments in it, and is given a price of its own from there.
  def test_a_product_opens_from_its_name
    audited_soon
    visit "/goods?item=1*TIDE-27&to=GB&postcode=TR29+4ZZ"
    click_button "Open Tide tables 2027, western approaches"
    assert_selector "section[aria-label^='About Tide tables']"
    within("section[aria-label^='About Tide tables']") { click_button "Give it a price of its own" }
    assert_text "“Tide tables 2027, western approaches” says nothing."
    choose "Apart from the cart, a price of its own: it then counts in no ordinary rate and no parcel"
    fill_in("Own price: for each", with: "0.80").send_keys(:enter)
    within(bench) { assert_button "Why £0.80 for Tracked?" }
  end

  private

  def product_called(sku) = api(:get, "/api/products?q=#{sku}")["products"].find { |one| one["sku"] == sku }
  def now(id) = find_setup("methods", id)
end
