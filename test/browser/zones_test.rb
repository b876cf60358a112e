# frozen_string_literal: true

require_relative "../support/browser"

class ZonesTest < Minitest::Test
  include BrowserSupport

  LIST = "IV, HS\nKW; ZE, AB31 to AB38, FK17 to FK21, KA27 to KA28, PA20 to PA80, PH17 to PH50, TR21 to TR25"

  # Highlands & Islands built by hand, by pasting the courier's list, and the bench moved over its border and back.
  def test_build_a_zone_by_paste_and_cross_its_border
    without = DEMO["zones"].reject { |zone| zone["id"] == "highlands" }
    fresh(DEMO.merge("treatments" => [], "classes" => [], "products" => DEMO["products"].map { |item| item.except("class", "treatments", "variants") },
                     "zones" => without, "rates" => DEMO["rates"].reject { |rate| rate["zone"] == "highlands" }))
    visit "/zones"
    fill_in("Name of a new zone", with: "Far north").send_keys(:enter)
    within(zone("Far north")) do
      find_field("Add a country to Far north").fill_in(with: "united k")
      find("[cmdk-item]", text: /\AUnited Kingdom\z/).click
      find("button[aria-expanded]", text: "United Kingdom").click
      fill_in "Only these postcodes", with: "#{LIST}, 1999 to 1000, IV"
      assert_text "10 good clauses, 1 duplicate merged, 1 bad one"
      assert_text "Number 11, line 2, “1999 to 1000”: the range runs backwards"
      click_button "Save the 10 good ones, leave the rest here"
      assert_button(text: "United Kingdom, only IV, HS, KW, ZE and 6 ranges")
      assert_field "Only these postcodes", with: "1999 to 1000"
    end
    assert_accessible "the zone's editor with clauses"
    visit "/"
    within(zone("Far north")) { assert_text "United Kingdom, only IV, HS, KW, ZE and 6 ranges" }
    { "PA20 9ZZ" => "Far north", "PA2 0ZZ" => "Mainland Britain", "PA80 1AA" => "Far north",
      "PA81 1AA" => "Mainland Britain" }.each do |postcode, name|
      fill_in "Postcode", with: postcode
      within(zone(name)) { assert_text "the bench cart goes here" }
    end
    fill_in "Postcode", with: "12345"
    within(bench) { assert_text "This is not the form of a postcode there (such as TR29 4ZZ)." }
    fill_in "Postcode", with: ""
    within(bench) do
      assert_text "The postcode decides the zone. Still possible: Northern Ireland, Far north or Mainland Britain"
    end
    press_undo
    assert_text "Undone: countries of zone Far north"
  end

  def test_the_ladder_the_findings_and_the_map
    audited_soon
    visit "/zones?to=GB&postcode=PA20+9ZZ&item=1*ANC-06"
    assert_text "This address is in Highlands & Islands."
    assert_text "also covers it, but is less specific"
    fill_in "Street", with: "PO Box 7"
    assert_text "The street names a post office box."
    within("#section") { fill_in "Postcode", with: "PA2 0AB" }
    assert_text "“PA20 to PA80” is close, but does not match"
    open_fold "Many addresses at once"
    fill_in "Addresses as CSV", with: "country,postcode\nGB,IV29 9ZZ\nJP,100-0001\nQQ,1"
    assert_text "1 address is in no zone: JP 100-0001 (line 3)"
    assert_text "Line 4: country: This is no country code"
    map = find("svg[role=application]")
    map.send_keys(:right)
    assert_selector "output", text: /:/
    assert_accessible "the map and the ladder"
    find("button[role=tab]", text: "Findings").click
    open_fold " note"
    assert_text "Of the United States, Alaska, Hawaii"
    find("button[role=tab]", text: "All countries").click
    assert_selector "tr", text: /Ireland\s*wholly\s*Ireland/
    assert_accessible "the table of countries"
  end

  def test_order_by_keyboard_regions_and_csv
    visit "/zones"
    find("button[data-tip^=Alt]", text: /\ANorth America/).send_keys(%i[alt up])
    assert_selector "ol[aria-label='Zones in their order'] li:nth-child(7)", text: "North America"
    within(zone("North America")) do
      find("button[aria-expanded]", text: "United States, in Alabama").click
      click_button "The 50 states and D.C."
      click_button "Save 51 of 60 regions"
      assert_text "United States, in Alabama, Alaska, Arizona and 48 more regions"
    end
    assert_equal 51, setup_now["zones"].find { |zone| zone["id"] == "north-america" }["areas"].first["regions"].size
    find("button[role=tab]", text: "CSV").click
    fill_in "Zones as CSV", with: "zone,active\nA,yes"
    assert_text "The first row must name the columns"
    fill_in "Zones as CSV",
            with: "zone,active,kind,country,regions,only,except\nBaltic,yes,country,EE,,,\nBaltic,yes,country,XX,,,"
    assert_text "Line 3: country: This is no country code"
    click_button "Import 1 good row"
    assert_selector "ol[aria-label='Zones in their order'] li", text: "Baltic"
    assert_accessible "CSV"
  end
end
