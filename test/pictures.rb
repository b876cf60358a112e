# frozen_string_literal: true

# Makes the pictures of docs/screenshots/ anew from the demo shop:  bundle exec ruby -Itest test/pictures.rb
require_relative "support/browser"

class Pictures < Minitest::Test
  include BrowserSupport

  def test_main_views
    visit "/"
    within(bench) { assert_text "£62.40" }
    keep "board"
    edit_a_rate
    geography
    visit "/goods"
    assert_field "SKU of Passage chart, folded"
    keep "goods"
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
