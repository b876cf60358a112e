# frozen_string_literal: true

require_relative "../support/browser"

# Dates, lists and money as the shop's country writes English (CLDR, as the browser has it); boxes on their sheet.
class LocaleTest < Minitest::Test
  include BrowserSupport

  # The country; how a moment, a list of three and a price of its currency are written there.
  PLACES = {
    "GB" => ["Fri, 1 May 2026, 09:30", "Ireland, Highlands and Mainland", "£1,250.00"],
    "US" => ["Fri, May 1, 2026, 09:30 AM", "Ireland, Highlands, and Mainland", "$1,250.00"],
    "AU" => ["Fri, 1 May 2026, 09:30 am", "Ireland, Highlands and Mainland", "$1,250.00"],
    # Germany writes a comma, which nobody may type here: figures are written as in the United Kingdom.
    "DE" => ["Fri, 1 May 2026, 09:30", "Ireland, Highlands and Mainland", "€1,250.00"]
  }.freeze
  CURRENCIES = { "GB" => "GBP", "US" => "USD", "AU" => "AUD", "DE" => "EUR" }.freeze

  PLACES.each do |country, (moment, list, money)|
    define_method("test_a_shop_in_#{country}") do
      fresh(WHOLE_DEMO.merge("store" => WHOLE_DEMO["store"].except("holiday_region").merge("country" => country, "currency" => CURRENCIES.fetch(country))))
      finding = lambda { |code, numbers|
        { key: code, code: code, numbers: numbers, harm: "warning", zone: nil, other: nil, example: nil, cart: nil,
          at: nil, setting: nil, part: "goods", asleep: false }
      }
      found = [finding.call("offer_over", { offer: "Spring", ends: "2026-05-01T09:30" }),
               finding.call("all_hidden", { rule: "None", names: ["None"], zones: %w[Ireland Highlands Mainland] }),
               finding.call("loss", { rate: "Tracked", count: 1200, name: "Anchor", price: "1250.00", cost: "1300.00" })]
      TURNSTILE.confuse("GET", %r{\A/api/findings}, JSON.generate({ findings: found }))
      visit "/goods/findings"
      assert_selector "#section li", count: 3
      # Spaces that do not break stand before am and pm.
      text = find("#section").text.tr("\u00a0\u202f", "  ")
      assert_includes text, "“Spring” ended #{moment}."
      assert_includes text, "In #{list} a cart can get no method"
      assert_includes text, "for 1,200 products: Anchor pays #{money} and costs"
    end
  end

  # Sizes pasted as a table, a row moved and one removed without a pointer; bare figures are in the shop's units.
  def test_boxes_on_their_sheet
    fresh(WHOLE_DEMO)
    visit "/goods/boxes"
    sheet_cell("Boxes", "small size length").click
    paste "31\t23\t13\n46\t36\t26"
    wanted = { "small" => %w[31 23 13], "medium" => %w[46 36 26] }.transform_values do |sides|
      %w[length width height].zip(sides.map do |one|
        "#{one} cm"
      end).to_h
    end
    assert(eventually { wanted.all? { |id, size| find_setup("boxes", id)["size"] == size } })
    sheet_cell("Boxes", "medium name").click
    press(%i[alt up])
    assert_equal("medium", eventually { setup_now["boxes"][1]["id"].then { |id| id if id == "medium" } })
    type_cell("Boxes", "small cost", "1.05", :tab)
    type_cell("Boxes", "small up_to", "9500 g", :tab)
    assert(eventually { find_setup("boxes", "small").values_at("cost", "up_to") == ["1.05", "9500 g"] })
    # What can't be read waits in its cell, with the ways out of it.
    type_cell("Boxes", "small outer length", "wide", :tab)
    assert_text "One cell is not stored yet:"
    click_button "Outer length of Small carton"
    click_button "Leave it as it was"
    assert_no_text "not stored yet"
    last = setup_now["boxes"].last
    sheet_cell("Boxes", "#{last["id"]} name").click
    press(:end, :enter)
    assert(eventually { setup_now["boxes"].none? { |box| box["id"] == last["id"] } })
    assert_text "Removed #{last["name"]}"
    assert_accessible "boxes on their sheet"
  end
end
