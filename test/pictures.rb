# frozen_string_literal: true

# Makes the pictures of docs/screenshots/ anew from the demo shop:  bundle exec ruby -Itest test/pictures.rb
require_relative "support/browser"

class Pictures < Minitest::Test
  include BrowserSupport

  FILE = <<~CSV
    Article number;Title;Unit price;Weight (kg);Parent;Shipping class
    CHT-PASS-F;Passage chart, folded;16.00;0.13;;Letter
    BUOY-40;Mooring buoy, large;48.00;25000;;Bulky
    BUOY-41;Mooring buoy, small;4x;1;;
    OIL-JKT-XXL;Oilskin jacket, giant;;1.8;OIL-JKT;
    NO-P;Orphan;;;NOPE;
  CSV

  def test_main_views
    visit "/"
    within(bench) { assert_text "£62.40" }
    keep "board"
    edit_a_rate
    geography
    goods
    visit "/methods"
    assert_field "Name of Tracked"
    keep "methods"
    fresh(nil)
    visit "/"
    select "Ireland", from: "Country"
    keep "first-run"
  end

  private

  def edit_a_rate
    within(zone("Mainland Britain")) { click_button "Edit Tracked" }
    fill_in "Flat price", with: "4.505"
    assert_text "This currency has at most 2 decimals."
    keep "error"
    fill_in("Flat price", with: "4.50").send_keys(:enter)
    assert_text "5.95 to 4.50"
    within(zone("Mainland Britain")) do
      click_button "Edit Tracked"
      click_button "Why £4.50 for Tracked?"
    end
    keep "reckoning"
    within(zone("Near Europe")) { click_button "Near Europe" }
    find_field("Add a country to Near Europe").fill_in(with: "sw")
    keep "zone"
  end

  def goods
    visit "/goods?item=2*ANC-10&item=1*SHK-GAL-10&item=6*CHT-PASS-F&to=GB&postcode=TR29+4ZZ"
    find("[data-cell='TIDE-27 weight']").click
    press("25000", :enter)
    press(:up)
    assert_text "Does one unit really weigh 25000 kg?"
    keep "goods"
    click_button "Leave them all"
    fill_in "Find goods by name or SKU", with: "oilskin"
    check "Choose everything that is found"
    fill_in "Weight", with: "3 lb"
    fill_in "Add tags", with: "winter"
    assert_text "would change"
    keep "bulk"
    visit "/goods"
    fill_in "Find goods by name or SKU", with: "anchor"
    find("[data-cell='ANC-10 treatments']").click
    press(:enter)
    assert_text "in force"
    keep "product"
    visit "/goods/treatments"
    click_button "Anchors by the piece"
    assert_text "alone, in the ordinary rates"
    page.execute_script("document.querySelector('h3').scrollIntoView()")
    keep "treatments"
    visit "/goods/classes"
    assert_text "5 products"
    click_button "Remove Heavy"
    keep "classes"
    visit "/goods/csv"
    fill_in "Products as CSV", with: FILE
    assert_text "1 in doubt"
    keep "import"
  end

  def geography
    visit "/zones?to=GB&postcode=PA20+9ZZ&item=4*SHK-GAL-10&item=20*ROP-BRD-08#zone=highlands"
    assert_selector "svg[role=application] path", minimum: 200
    find("svg[role=application]").hover
    keep "zones"
    within(zone("Highlands & Islands")) do
      find("button[aria-expanded]", text: "United Kingdom").click
      fill_in "Only these postcodes", with: "IV, HS, KW, ZE, KA27 to KA28, 1999 to 1000, PA20 to PA80, P!, IV"
      assert_text "2 bad ones"
    end
    page.execute_script("document.querySelector('textarea').scrollIntoView({ block: 'center' })")
    keep "clauses"
    visit "/zones"
    assert_text "It lands in Highlands & Islands."
    page.execute_script("document.querySelector('#section').scrollTo(0, 9999)")
    keep "landing"
  end

  def keep(name)
    page.execute_script("document.fonts.ready")
    sleep 0.4
    page.driver.save_screenshot(File.join(Server::ROOT, "docs/screenshots/#{name}.png"))
  end
end
