# frozen_string_literal: true

require_relative "../support/browser"
require_relative "../support/carriers"

# What is typed not quite right, what is not known yet, and the whole setup as a file: as whole jobs.
class ExactTest < Minitest::Test
  include BrowserSupport
  include CarriersSupport

  # A list with slips in it: each is told while it is typed, and put right with one click.
  def test_clauses_that_match_nothing_are_put_right_with_a_click
    visit "/zones#zone=highlands"
    within(zone("Highlands & Islands")) do
      find("button[aria-expanded]", text: "United Kingdom").click
      fill_in "Only these postcodes", with: "IV, PA20-PA49, JE, KW"
      assert_text "2 good clauses, 2 that match nothing"
      assert_text "“PA20-PA49” matches nothing"
      assert_text "“JE” matches nothing: these are postcodes of Jersey"
      click_button "Use PA20 to PA49"
      assert_field "Only these postcodes", with: "IV, PA20 to PA49, JE, KW"
      assert_no_text "“PA20-PA49”"
      assert_accessible "doubts of clauses"
      click_button "Add Jersey to this zone instead"
      assert_field "Only these postcodes", with: "IV, PA20 to PA49, KW"
      assert_no_text "matches nothing"
      # Past "Discard", and away.
      2.times { press(:tab) }
      assert_button(text: "United Kingdom, only IV, KW and PA20 to PA49")
    end
    areas = find_setup("zones", "highlands")["areas"]
    assert_equal([["GB", ["IV", "PA20 to PA49", "KW"]], ["JE", []]], areas.map { |area| [area["country"], area["only"]["clauses"]] })
  end

  # Shoppers' slips: the parcel stays where it belongs, and the merchant is told.
  def test_slips_of_shoppers_on_the_bench
    visit "/"
    { "BT9 SAA" => "Northern Ireland", "BT9, 5AA" => "Northern Ireland", "IM1 OAA" => "Isle of Man & Channel Islands",
      "IV1 1A" => "Highlands & Islands" }.each do |postcode, name|
      fill_in "Postcode", with: postcode
      within(zone(name)) { assert_text "the bench cart goes here" }
    end
    within(bench) { assert_text "This is the beginning of a postcode (a whole one is like TR29 4ZZ)." }
    fill_in "Postcode", with: "BT9 SAA"
    within(bench) { assert_text "This is not the form of a postcode there (such as TR29 4ZZ). What can be read of it is matched all the same." }
    select "United States", from: "To"
    fill_in "Postcode", with: "2134"
    within(bench) { assert_text "This is one digit short" }
  end

  # A free method that a missing postcode may take away: both it and what would come back say so.
  def test_what_may_come_back_is_told
    api(:post, "/api/offers", { name: "Free by road", methods: ["tracked"], zones: ["mainland"], effect: { kind: "free" }, hides_paid: true })
    tree = { "all" => [{ "fact" => "po_box", "address" => "delivery" }] }
    api(:post, "/api/rules", { name: "No boxes by road", when: tree, then: [{ "kind" => "hide", "methods" => ["tracked"] }] })
    visit "/?item=1*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    within(bench) do
      assert_text "may change: the street line not known"
      assert_text "may be there after all: the street line not known", minimum: 1
    end
    open_buyer
    fill_in "Street", with: "1 Quay"
    within(bench) { assert_no_text "the street line not known" }
    fill_in "Street", with: "PO-Box 3"
    within(bench) do
      assert_text "Hidden by rule “No boxes by road”."
      assert_text "£9.80"
    end
  end

  # An offer's name is true of the price that is left, and where more is left the merchant's other name stands.
  def test_names_of_offers
    fresh(ServerSupport::WHOLE_DEMO)
    visit "/offers?item=60*SHK-GAL-10&to=GB&postcode=TR29+4ZZ#offer=free-75"
    within(bench) { assert_text "Tracked, free from £75" }
    apart = { kind: "apart", charge: { kind: "unit", amount: "1.75" } }
    api(:post, "/api/treatments", { name: "Lines apart", price: apart, on: { products: [product("ROP-BRD-08")] } })
    visit "/offers?item=60*SHK-GAL-10&item=1*ROP-BRD-08&to=GB&postcode=TR29+4ZZ#offer=free-75"
    within(bench) { assert_button "Why £1.75 for Tracked?" }
    within(bench) { assert_no_text "free from £75" }
    fill_in "Method name if something is left to pay", with: "Tracked, line only"
    find_field("Method name if something is left to pay").send_keys(:enter)
    within(bench) { assert_button "Why £1.75 for Tracked, line only?" }
    press_undo
    within(bench) { assert_button "Why £1.75 for Tracked?" }
  end

  # Whatever a live rate is asked for, the list of all rates describes it as one.
  def test_live_rates_are_described_as_live
    fresh(ServerSupport::WHOLE_DEMO)
    carriers
    visit "/rates"
    within("tr", text: "Fastest carrier to the islands") do
      assert_text "The cheapest of Petrel Post"
      assert_no_text "No price is set"
    end
    within("tr", text: "Carrier of the day") { assert_text "Your own price: £16.90" }
    rate = find_setup("rates", "ie-live")
    api(:patch, "/api/rates/ie-live", { lock_version: rate["lock_version"], live: rate["live"].merge("own" => "instead") })
    visit "/rates"
    within("tr", text: "Carrier of the day") { assert_text "£16.90. Where that gives no price: The cheapest of" }
  end

  # Goods that are gone from the catalogue while they stand on the bench: every section goes on.
  def test_goods_that_are_gone
    visit "/?item=2*SHK-GAL-10&item=3*ROP-BRD-08&to=GB&postcode=TR29+4ZZ"
    within(bench) { assert_text "£5.95" }
    gone = api(:get, "/api/products?q=SHK-GAL-10")["products"].find { |one| one["sku"] == "SHK-GAL-10" }
    api(:delete, "/api/products/#{gone["id"]}?lock_version=#{gone["lock_version"]}")
    visit "/?item=2*SHK-GAL-10&item=3*ROP-BRD-08&to=GB&postcode=TR29+4ZZ"
    within(bench) { assert_text "SHK-GAL-10 is not in the catalogue." }
    %w[weight quantity].each do |measure|
      choose_measure measure
      assert_selector "[aria-label^='Price line of Tracked']", minimum: 1
    end
    assert_no_text "The server made a mistake"
    assert_no_selector "[data-fault]"
  end

  # Out, changed by hand, in: what comes and goes is shown, it is one change, and undo brings all of it back.
  def test_the_setup_out_and_in
    fresh(ServerSupport::WHOLE_DEMO)
    before = api(:get, "/api/setup/export")
    file = changed(before) do |book|
      book["zones"].reject! { |one| one["id"] == "further-europe" }
      book["rates"].reject! { |one| one["zone"] == "further-europe" }
      book["store"]["name"] = "Tarrow Quay and Daughters"
      book["products"].first["price"] = "99.00"
    end
    visit "/shop"
    assert_link "Export the setup"
    attach_file "Import a setup …", file, make_visible: true
    within(book_file) do
      assert_text "Further Europe"
      assert_text "CHT-PASS-F"
      assert_selector "tr", text: /\Arates\s+–\s+2\s+–\z/
      assert_accessible "a setup about to be imported"
      click_button "Put it in the place of what is there"
    end
    assert_text "The setup is taken over from the file"
    assert_link "Tarrow Quay and Daughters"
    refute_includes(setup_now["zones"].map { |one| one["id"] }, "further-europe")
    click_button "Undo", match: :first
    assert_link "Tarrow Quay Chandlery"
    assert_equal before, api(:get, "/api/setup/export")
  end

  def test_a_file_with_faults_changes_nothing
    before = api(:get, "/api/setup/export")
    file = changed(before) do |book|
      book["zones"][0]["areas"][0]["country"] = "XX"
      book["rates"][0]["plan"]["schedule"]["amount"] = "£4"
    end
    visit "/shop"
    attach_file "Import a setup …", file, make_visible: true
    within(book_file) do
      assert_text "The file can’t be taken. Nothing was changed."
      assert_text "/zones/0/areas/0/country"
      assert_text "Write an amount like 4.50"
    end
    path = File.join(Dir.mktmpdir, "none.json")
    File.write(path, "{ not json")
    attach_file "Import a setup …", path, make_visible: true
    within(book_file) { assert_text "none.json is no JSON" }
    same = File.join(Dir.mktmpdir, "same.json")
    File.write(same, JSON.generate(before))
    attach_file "Import a setup …", same, make_visible: true
    assert_text "It says the same as what is there. Nothing would change."
    assert_equal before, api(:get, "/api/setup/export")
  end

  def test_a_shop_opened_with_a_file
    file = changed(DEMO) { |book| book["store"]["name"] = "From a file" }
    fresh(nil)
    visit "/"
    assert_text "Or take a setup from a file"
    attach_file "Import a setup …", file, make_visible: true
    assert_text "Mainland Britain"
    click_button "Open the shop with it"
    assert_link "From a file"
    assert_selector "section[aria-label='Zone Ireland']"
  end

  # Copies from their buttons say all that the original says.
  def test_copies
    fresh(ServerSupport::WHOLE_DEMO)
    visit "/offers#offer=boat-show"
    click_button "Duplicate"
    assert_text "Boat show weekend, Northern Ireland, copy"
    visit "/methods"
    click_button "Duplicate Tracked"
    assert_field "Name of Tracked, copy"
    visit "/"
    within(zone("Ireland")) { click_button "Open Ireland" } if page.has_button?("Open Ireland", wait: 0)
    offers = setup_now["offers"].select { |one| one["name"].start_with?("Boat show") }
    assert_equal 1, offers.map { |one| one.except("id", "name", "active", "lock_version") }.uniq.size
    methods = setup_now["methods"].select { |one| one["name"].start_with?("Tracked") }
    assert_equal 1, methods.map { |one| one.except("id", "code", "name", "active", "lock_version") }.uniq.size
    assert_equal({ "least" => 2, "most" => 3, "cutoff" => "15:00" }, methods.last["delivery"])
  end

  # Where there was no time for a strip it is asked for by itself; where a question is refused, it says why.
  def test_strips_for_which_there_was_no_time
    APPLICATION.set("GATE_MILE_PATIENCE", "0")
    visit "/"
    within(bench) { assert_text "£5.95" }
    assert_selector "[aria-label^='Price line of Tracked'][aria-label*='too much in the cart to draw']", minimum: 1
    assert_accessible "strips that are not drawn"
    APPLICATION.set("GATE_MILE_PATIENCE", "30")
    within(bench) { click_button "One more: Passage chart, folded" }
    assert_no_selector "[aria-label*='too much in the cart to draw']"
  ensure
    APPLICATION.set("GATE_MILE_PATIENCE", "30")
  end

  # While a file of goods is being stored, an edit of goods is refused in words, and what was typed stays.
  def test_an_edit_while_a_file_is_stored
    visit "/goods"
    assert_text "Galvanised shackle 10 mm"
    storing do
      answer = api(:post, "/api/products", { sku: "X-1", name: "X", price: "1.00" })
      assert_equal [503, "A file of goods is being stored. Try again in a moment."], [status, answer["detail"]]
      api(:post, "/api/quote", CART)
      assert_equal 200, status
    end
    assert_equal(201, api(:post, "/api/products", { sku: "X-1", name: "X", price: "1.00" }).then { status })
  end

  private

  def product(sku) = api(:get, "/api/products?q=#{sku}")["products"].find { |one| one["sku"] == sku }["id"]
  def choose_measure(name) = find("[aria-labelledby=along] button", text: name, exact_text: true).click
  def book_file = find("section[aria-labelledby]", text: "The setup as a file")

  # @return [String] path of a book file
  def changed(book)
    copy = JSON.parse(JSON.generate(book))
    yield copy
    File.join(Dir.mktmpdir, "setup.json").tap { |path| File.write(path, JSON.generate(copy)) }
  end
end
