# frozen_string_literal: true

require_relative "../support/browser"

class StoryTest < Minitest::Test
  include BrowserSupport

  # A merchant changes a flat rate, sees at once what the cart on the bench now pays, reads why, and takes it back.
  def test_change_a_flat_rate_see_what_it_does_and_undo_it
    visit "/"
    within(bench) { assert_text "£62.40" }
    within(zone("Mainland Britain")) do
      assert_text "the bench cart goes here"
      click_button "Edit Tracked"
      fill_in "Flat price", with: "4.5"
    end
    within(bench) { assert_button "Why £4.50 for Tracked?" }
    assert_equal "5.95", find_rate("uk-tracked"), "nothing is stored while typing"
    find_field("Flat price").send_keys(:enter)
    assert_text "price of Tracked in Mainland Britain, 5.95 to 4.50"
    within(bench) { assert_text(/£5\.95\s*→.*£4\.50/m) }
    assert_equal "4.50", find_rate("uk-tracked")
    within(zone("Mainland Britain")) { click_button "Why £4.50 for Tracked?" }
    assert_text "Priced apart, so not in the ordinary rate: Passage chart, folded, by “Charts post free” on the product"
    assert_text "2 lines left for the ordinary rate: 24 units, £31.60, 1.84 kg"
    assert_accessible "the Board with a reckoning"
    within(zone("Mainland Britain")) { find("ol li", text: "Flat price in Mainland Britain").click_link("go to the setting") }
    assert_selector "#rate-uk-tracked-plan:focus"
    find("h1").click
    press_undo
    assert_text "Undone: price of Tracked in Mainland Britain, 5.95 to 4.50"
    within(bench) { assert_button "Why £5.95 for Tracked?" }
    assert_equal "5.95", find_rate("uk-tracked")
    find("button[data-tip^='Redo: price of Tracked']").click
    within(bench) { assert_button "Why £4.50 for Tracked?" }
  end

  def test_bad_input_stays_in_its_field_and_a_stale_edit_shows_both
    visit "/"
    within(zone("Ireland")) { click_button "Edit Tracked" }
    price = find_field("Flat price")
    price.fill_in(with: "12.999")
    assert_text "This currency has at most 2 decimals."
    price.send_keys(:enter)
    assert_equal "12.999", price.value
    assert_equal "12.90", find_rate("ie-tracked")
    within(bench) { assert_text "£5.95" }
    price.fill_in(with: "13.50")
    api(:patch, "/api/rates/ie-tracked", { lock_version: 0, plan: { schedule: { kind: "flat", amount: "14.00" } } })
    price.send_keys(:enter)
    assert_text "There now: £14.00. You typed: £13.50."
    assert_accessible "a conflict"
    click_button "Use mine"
    assert_no_text "There now"
    assert_equal "13.50", find_rate("ie-tracked")
  end

  def test_the_bench_by_keyboard_remembered_and_shared
    visit "/"
    assert_text "This cart gets"
    press("b")
    assert_selector "#bench-search:focus"
    press("plough")
    assert_selector "[role=option]", count: 4
    press(:down, :enter)
    within(bench) { assert_text "Plough anchor 10 kg" }
    press(:escape)
    find_field("Quantity: Plough anchor 10 kg").send_keys(:up, :up)
    within(bench) { assert_text "£350.40" }
    select "Ireland", from: "To"
    within(zone("Ireland")) { assert_text "the bench cart goes here" }
    within(bench) { assert_button "Why £12.90 for Tracked?" }
    shared = page.evaluate_script("location.href")
    visit "/goods"
    within(bench) { assert_text "£350.40" }
    page.execute_script("localStorage.clear()")
    visit shared
    within(bench) { assert_text "£350.40" }
    select "Japan", from: "To"
    within(bench) { assert_text "No zone covers this address" }
    select "country not known", from: "To"
    within(bench) { assert_text "The country decides the zone" }
    find_field("Quantity: Plough anchor 10 kg").fill_in(with: "0")
    within(bench) { assert_text "1 to 1,000,000, whole" }
  end

  def test_zones_methods_and_rates_in_place
    visit "/"
    fill_in("Name of a new zone", with: "ireland").send_keys(:enter)
    assert_text "Another zone has this name already."
    fill_in("Name of a new zone", with: "Iceland and beyond").send_keys(:enter)
    within(zone("Iceland and beyond")) do
      find_field("Add a country to Iceland and beyond").fill_in(with: "icel")
      find("[cmdk-item]", text: "Iceland").click
      assert_button "Take Iceland out of Iceland and beyond"
      click_button "Move up"
      click_button "Add a method to Iceland and beyond"
      select "A new method …", from: "Method"
      fill_in "Its name", with: "Trawler"
      fill_in("Flat price in £", with: "44").send_keys(:enter)
      assert_button "Edit Trawler"
    end
    within(bench) { select "Iceland", from: "To" }
    within(bench) { assert_button "Why £44.00 for Trawler?" }
    assert_equal "Iceland and beyond", setup_now["zones"][-2]["name"]
    within(zone("Iceland and beyond")) { click_button "Remove with 1 rate" }
    assert_no_selector "section[aria-label='Zone Iceland and beyond']"
    within(bench) { assert_text "No zone covers this address" }
    find("button[data-tip^='Undo: removed zone']").click
    within(zone("Iceland and beyond")) { assert_text "the bench cart goes here" }
  end

  def test_open_a_shop_of_ones_own
    fresh(nil)
    visit "/"
    assert_text "Open your shop"
    fill_in "Shop name", with: " "
    select "Ireland", from: "Country"
    click_button "Open the shop"
    assert_text "Fill this in."
    assert_selected "EUR", from: "Currency"
    assert_accessible "the first page"
    fill_in "Shop name", with: "Knot & Sons"
    click_button "Open the shop"
    within(zone("All other countries")) { assert_text "off until it has a rate" }
    within(bench) { assert_text "The bench is empty" }
    click_link "Goods"
    assert_text "There are no goods yet."
    fill_in "SKU of a new product", with: "BUOY"
    fill_in "Name of a new product", with: "Buoy"
    fill_in "Price of a new product", with: "9,50"
    click_button "Add product"
    assert_text "Write 9.50, with a point."
    fill_in "Price of a new product", with: "9.50"
    click_button "Add product"
    click_button "Bench: add Buoy"
    within(bench) { assert_text "This zone has no method yet" }
  end

  def test_every_section_is_accessible
    audited_soon
    { "/" => "Board", "/goods" => "Tide tables 2027", "/goods/classes" => "30 products and 6 variants", "/goods/csv" => "Download the catalogue",
      "/goods/treatments" => "reaches 4 rows", "/goods/findings" => "go by any method", "/methods" => "what the shopper reads",
      "/shop" => "Tax classes" }.each do |path, text|
      visit path
      assert_text text
      within(bench) { assert_text "£62.40" }
      assert_accessible path
    end
    press("/")
    press("ireland")
    assert_selector "[cmdk-item]", text: "Zone Ireland"
    assert_accessible "the palette"
    find("[cmdk-item]", text: "Zone Ireland").click
    assert_selector "#zone-ireland-name:focus"
    assert_accessible "a zone's editor"
  end

  private

  def find_rate(id) = find_in_setup(id).dig("plan", "schedule", "amount")
  def find_in_setup(id) = setup_now["rates"].find { |rate| rate["id"] == id }
end
