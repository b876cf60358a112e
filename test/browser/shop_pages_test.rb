# frozen_string_literal: true

require_relative "../support/browser"

# On the shop's pages: settings of the parts, each with a preview that follows the bench, and its tag.
class ShopPagesTest < Minitest::Test
  include BrowserSupport

  def setup
    fresh(WHOLE_DEMO)
    visit "/offers/pages"
  end

  def section(title) = find("section[aria-label='#{title}']")
  # There once the part's script is.
  def preview(title, name) = eventually { section(title).find("gate-mile-#{name}").shadow_root }
  def tag(title) = section(title).find("pre").text
  def stored = setup_now.dig("store", "storefront", "parts")
  def bench_prices = within(bench) { all("li", text: /£|free/).map(&:text) }

  def test_an_estimate_follows_its_settings_and_the_bench
    estimate = -> { preview("Estimate", "estimate") }
    assert(eventually { estimate.call.has_selector?("[data-code=TRACKED] [part=price]", text: "£") })
    assert_includes tag("Estimate"), '<gate-mile-estimate key="gmp_…" sku="LOG-A4"></gate-mile-estimate>'
    within(section("Estimate")) do
      choose "As soon as the country is known"
      choose "In a tab"
      uncheck "It says how many more make delivery free"
    end
    assert(eventually { estimate.call.has_selector?("[role=tab]", text: "Delivery") })
    assert_includes tag("Estimate"), 'ask="open" place="tab" more="off"'
    eventually { stored && stored["estimate"] == { "ask" => "open", "place" => "tab", "more" => false } }
    assert_equal({ "ask" => "open", "place" => "tab", "more" => false }, stored["estimate"])
    ['ask="open" place="tab">', 'sku="LOG-A4" ask="open">', 'sku="LOG-A4"></gate-mile-estimate>'].each do |left|
      press_undo
      section("Estimate").assert_text left
    end
    assert(eventually { estimate.call.has_no_selector?("[role=tab]") })
    assert_accessible "on the shop's pages"
  end

  def test_a_choice_with_methods_that_are_one
    choice = -> { preview("Choice of delivery", "choice") }
    assert(eventually { choice.call.has_selector?("label", text: "Tracked") })
    within(section("Choice of delivery")) do
      choose "As a drop-down"
      check "Methods that don’t take the basket are listed, with the reason"
      click_button "Make several methods one choice"
      fill_in "One choice, which shoppers read as", with: "Standard"
      find_field("One choice, which shoppers read as").send_keys(:enter)
    end
    assert(eventually { choice.call.has_selector?("option", text: "Standard") })
    assert_includes tag("Choice of delivery"), %q(groups='[{"name":"Standard","methods":[)
    within(section("Choice of delivery")) do
      fill_in "One choice, which shoppers read as", with: ""
      find_field("One choice, which shoppers read as").send_keys(:enter)
      assert_selector "[id$=-error]"
      fill_in "One choice, which shoppers read as", with: "Parcel"
      find_field("One choice, which shoppers read as").send_keys(:enter)
      assert_no_selector "[id$=-error]"
    end
    assert(eventually { choice.call.has_selector?("option", text: "Parcel") })
    # The cheapest that is there is what one chooses.
    group = stored.dig("choice", "groups", 0)
    assert_equal ["Parcel", 2], [group["name"], group["methods"].size]
    section("Choice of delivery").click_button "Remove Parcel"
    assert(eventually { choice.call.has_no_selector?("option", text: "Parcel") })
  end

  # The bench's cart, its address, and an edit elsewhere.
  def test_mileposts_and_addresses_follow_the_bench
    assert(eventually { preview("Milepost", "milepost").has_text?("£12.60 more") })
    within(bench) { click_button "One more: Passage chart, folded" }
    assert(eventually { preview("Milepost", "milepost").has_text?("Delivery is free") })
    within(section("Milepost")) { uncheck "With a bar" }
    assert(eventually { preview("Milepost", "milepost").has_no_selector?("progress") })
    form = section("Address form")
    assert_equal "TR29 4ZZ", form.find("[autocomplete=postal-code]").value
    within(bench) { fill_in("Postcode", with: "TR29 4").send_keys(:enter) }
    form.assert_selector ".gate-mile-note", text: "not whole yet"
    within(bench) { fill_in("Postcode", with: "BT9 5AA").send_keys(:enter) }
    rate = find_setup("rates", "ni-tracked")
    api(:patch, "/api/rates/ni-tracked", { plan: { schedule: { kind: "flat", amount: "7.77" } }, lock_version: rate["lock_version"] })
    visit page.current_path
    assert(eventually { preview("Choice of delivery", "choice").has_text?("£7.77") })
  end

  # Whose pages may ask, and where carts are tried: what is wrong is told at its field, and stays there.
  def test_bad_input
    field = -> { find_field("Page on which carts are tried") }
    field.call.set("shop.example").send_keys(:enter)
    assert_text "Write the whole address of a page, such as https://shop.example/basket."
    assert_equal "shop.example", field.call.value
    field.call.set("https://shop.example/try").send_keys(:enter)
    assert_no_text "Write the whole address"
    assert_equal("https://shop.example/try", eventually { setup_now.dig("store", "storefront", "page").then { |page| page if page&.include?("shop.example") } })
    within(bench) { click_button "See it in the shop" }
    assert_equal 2, page.windows.size
    page.windows.last.close
    section("Estimate").click_button "Copy the tag"
    assert_text(/Copied: the tag|The browser does not let this page copy/)
  end
end
