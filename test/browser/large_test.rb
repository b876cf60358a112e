# frozen_string_literal: true

require_relative "../support/browser"
require_relative "../support/large_shop"

# A shop of 200 zones, 640 rates, 40 methods, 30 classes, 20 groups, 30 offers and 60 rules is as usable as the demo.
class LargeTest < Minitest::Test
  include BrowserSupport

  SECTIONS = %w[/ /zones /goods /goods/classes /rates /rates/classes /methods /offers /offers/registers /rules /rules/order].freeze
  # What a page may hold of elements: one that draws all it has, seen or not, holds several times as many.
  MOST = 9_000
  BENCH = "item=2*ITEM-001&item=5*ITEM-077&to=FR&postcode=75001"

  # Written once: what one test changes of it is nothing to the others.
  def setup = self.class.written { fresh(LargeShop.book) }

  def self.written
    return if @written

    yield
    @written = true
  end

  def test_every_section_fits_and_draws_what_is_in_sight
    visit "/?#{BENCH}"
    within(bench) { assert_text(/This cart gets\s+France/) }
    SECTIONS.each do |section|
      visit_within "#{section}?#{BENCH}"
      assert_no_selector "[aria-busy=true]"
      wide = page.evaluate_script("document.documentElement.scrollWidth - innerWidth")
      assert_operator wide, :<=, 0, section
      assert_operator page.evaluate_script("document.querySelectorAll('*').length"), :<, MOST, section
      assert_accessible section
    end
  end

  # Looking for a zone by its name or a country in it, and moving it where it stands, past those that are not shown.
  def test_a_zone_is_found_and_moved
    visit "/zones?#{BENCH}"
    assert_selector "ol[aria-label='Zones in their order'] li", count: 200
    fill_in "Find a zone", with: "aland"
    assert_selector "ol[aria-label='Zones in their order'] li", text: /Åland Islands/, count: 1
    find("button[data-tip^=Alt]", text: /Åland/).send_keys(%i[alt up])
    assert_equal("Åland Islands", eventually { setup_now["zones"][13]["name"][/\AÅland Islands/] })
    fill_in "Find a zone", with: "nowhere at all"
    assert_text "No zone is called that."
    fill_in "Find a zone", with: ""
    find("button[data-tip^=Alt]", text: /\AAngola/).click
    assert_selector "section[aria-label^='Zone Angola']"
    visit "/?#{BENCH}"
    fill_in "Filter zones by name", with: "angola"
    assert_selector "#section section[aria-label^='Zone ']", count: 1
    assert_no_selector "button[role=checkbox]:disabled"
    check "only the bench’s zone"
    assert_text "No zone is like this."
  end

  # Places and methods out of hundreds: found by typing, kept as chips, without a list of two hundred ticks.
  def test_an_offer_for_some_zones_of_hundreds
    visit "/offers?#{BENCH}"
    fill_in "Find in the offers", with: "offer 17"
    assert_selector "ol[aria-label=Offers] > li", maximum: 12
    click_button "Offer 17"
    assert_operator all("#section [role=checkbox]").size, :<, 40
    zones = stored_offer("offer-16")["zones"]
    control("combobox", "Add: Zones").click
    page.document.find("[cmdk-input]").send_keys("islands cook")
    assert_selector "[role=option]", count: 1
    press(:enter)
    cook = setup_now["zones"].find { |zone| zone["name"].start_with?("Cook Islands") }
    assert(eventually { stored_offer("offer-16")["zones"] == [*zones, cook["id"]] })
    within("ol[aria-label=Offers]") do
      find("button[aria-label^='Remove Cook Islands']").click
      assert(eventually { stored_offer("offer-16")["zones"] == zones })
      assert_text "Read back:"
      assert_text(/and 4 more|or 4 more/)
    end
    assert_accessible "an offer for some of hundreds of zones"
  end

  # Rates narrowed to one method and one zone out of many, and a class's price far down the sheet.
  def test_rates_of_hundreds_of_zones
    visit "/rates?#{BENCH}"
    select "Method 12", from: "Only of a method"
    shown = setup_now["rates"].count { |rate| rate["method"] == "method-11" }
    assert_selector "#section tbody tr", count: shown
    visit_within "/rates/classes?#{BENCH}"
    sheet = find("[role=grid][aria-label='Prices by class']")
    assert_operator sheet.all("[role=row]").size, :<, 40
    sheet_cell("Prices by class", "zone-0-method-2 class-0").click
    press(%i[control end])
    place = eventually { page.evaluate_script("document.activeElement?.dataset.cell")&.then { |cell| cell unless cell.start_with?("zone-0-") } }
    rate, column = place.split
    assert_equal "others", column
    press("88.10", :tab)
    assert_equal("88.10", eventually { find_setup("rates", rate)["plan"]["others"]["schedule"]["amount"].then { |amount| amount if amount == "88.10" } })
    assert_equal({ "charge" => "once", "carried" => true, "unclassed" => true }, find_setup("rates", rate)["plan"]["others"].except("schedule"))
  end

  # A class that hundreds of rates price says a few of them, and the rest when asked.
  def test_a_class_that_many_rates_price
    visit "/goods/classes"
    fill_in "Find a class", with: "class 5"
    assert_selector "#section tbody tr", count: 3
    row = find("#section tbody tr", match: :first)
    assert_operator row.all("a").size, :<, 8
    row.find("button", text: /\Aand \d+ more\z/).click
    assert_operator row.all("a").size, :>, 150
    fill_in "Find a class", with: "class 5: none such"
    assert_no_selector "#section tbody tr"
  end

  private

  def stored_offer(id) = find_setup("offers", id)
end
