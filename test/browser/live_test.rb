# frozen_string_literal: true

require_relative "../support/browser"
require_relative "../support/carriers"

class LiveBrowserTest < Minitest::Test
  include BrowserSupport
  include CarriersSupport

  def setup
    fresh(WHOLE_DEMO)
    @carriers = carriers
  end

  # Live prices fill in beside own ones; the plug is pulled, and the fallback comes with its reason.
  def test_a_carrier_fails_and_the_fallback_tells_why
    visit "/?item=8*SHK-GAL-10&to=IE"
    within(bench) do
      click_button "Why £11.33 for Carrier of the day?"
      assert_text "Gannet Express By air asks this for 1 parcel, 1–2 business days"
      assert_text "Petrel Post Parcel, two days is used: the cheapest of 3"
      assert_text "· live"
    end
    within(zone("Ireland")) { assert_text "sampled" }
    Tariffs::CARRIERS.each_key { |carrier| @carriers.modes[carrier] = "down" }
    APPLICATION.forget_answers
    within(bench) { click_button "One more: Galvanised shackle 10 mm" }
    within(bench) do
      assert_button "Why £16.90 for Carrier of the day?"
      assert_text "Petrel Post Flat letter is silent: It"
      assert_text "The carrier is silent or down: your own price instead"
    end
    assert_accessible "a live rate in trouble"
    visit "/carriers?item=8*SHK-GAL-10&to=IE"
    assert_text(/silent or down: It (answers with 503|has failed)/)
    within("ul[aria-label=Carriers] > li:first-child") do
      click_button "Test the connection"
      assert_text "It answers with 503"
      @carriers.modes.clear
      click_button "Test the connection"
      assert_text "It answers, with 2 services."
      fill_in "Address", with: "nowhere"
      find_field("Address").send_keys(:enter)
      assert_text "Write it as https://carrier.example/api."
    end
    assert_accessible "carriers"
  end

  # A live rate made by hand, its ladder typed; the bench follows each step.
  def test_a_live_rate_by_hand
    visit "/?item=8*SHK-GAL-10&to=FR&postcode=75001"
    within(zone("Near Europe")) { click_button "Edit Air, tracked" }
    open_fold "Live prices from carriers"
    select "Gannet Express, By air", from: "Add a service"
    within(bench) { assert_button "Why £19.96 for Air, tracked?" }
    select "Fulmar Freight, By road", from: "Add a service"
    fill_in "Markup, %", with: "many"
    find_field("Markup, %").send_keys(:enter)
    assert_text "Write a percentage"
    fill_in "Markup, %", with: "10"
    find_field("Markup, %").send_keys(:enter)
    select "an amount", from: "If a carrier is silent or down"
    fill_in "If a carrier is silent or down: amount, £", with: "21"
    find_field("If a carrier is silent or down: amount, £").send_keys(:enter)
    assert_text "The cheapest of Gannet Express, By air and Fulmar Freight, By road, with 10 % on top. In trouble: silent: £21.00"
    20.times { break if setup_now["rates"].find { |rate| rate["id"] == "near-air" }.dig("live", "ladder", "silent", "amount") || sleep(0.1).nil? }
    assert_equal({ "kind" => "amount", "amount" => "21.00" }, setup_now["rates"].find { |rate| rate["id"] == "near-air" }["live"]["ladder"]["silent"])
    assert_accessible "the editor of a live rate"
  end

  # The picture of the parcels, stepped through layer by layer; a box made by hand, and what is wrong with it.
  def test_parcels_in_the_picture
    visit "/goods/boxes?item=12*SHK-GAL-10&item=2*PNT-AF-075&item=1*OAR-180&to=GB&postcode=TR29+4ZZ"
    within(bench) do
      click_button "How is it packed?"
      assert_text "Small carton"
      assert_text "Oar 1.8 m, spruce"
      assert_selector "svg[aria-label^='Small carton, layer']"
      find("[role=slider]").send_keys(:home)
      assert_selector "svg[aria-label^='Small carton, layer 1 of']"
    end
    type_cell("Boxes", "small padding", "7", :tab)
    click_button "Padding of Small carton"
    assert_text "The padding leaves no room"
    click_button "Leave it as it was"
    assert_cell "0.5", "Boxes", "small padding"
    sheet_cell("Boxes", "small active").click
    press(:space)
    assert_cell "no", "Boxes", "small active"
    fill_in "Name of a new box", with: "Shoe box"
    fill_in "Its length, cm", with: "33"
    fill_in "Its width, cm", with: "20"
    fill_in "Its height, cm", with: "0"
    click_button "Add box"
    assert_text "This must be more than zero."
    fill_in "Its height, cm", with: "12"
    click_button "Add box"
    shoe = eventually { setup_now["boxes"].find { |box| box["name"] == "Shoe box" } }
    assert_cell "Shoe box", "Boxes", "#{shoe["id"]} name"
    open_fold "Boxes as CSV"
    fill_in "Boxes as CSV", with: "box,length,width,height,up_to\nCrate,60,40,40,25\nFlat one,30,20,0,\nShoe box,33,20,13,"
    assert_text "1 new, 1 changed, 0 unchanged, 1 with errors"
    assert_text "Line 3: height: This must be more than zero."
    click_button "Import 2 good rows"
    assert_selector "[role=rowheader]", text: "Crate"
    assert_cell "13", "Boxes", "#{shoe["id"]} size height"
    assert_accessible "boxes and parcels"
    visit "/shop?item=2*CHN-08&to=GB&postcode=TR29+4ZZ"
    within(bench) do
      click_button "How is it packed?"
      assert_text "The size of Anchor chain 8 mm, per metre is not known"
    end
    fill_in "Size of goods without one: length", with: "10 cm"
    fill_in "Size of goods without one: width", with: "10 cm"
    assert_text "Length, width and height belong together."
    fill_in "Size of goods without one: height", with: "none"
    find_field("Size of goods without one: height").send_keys(:enter)
    assert_selector "[aria-label='Size of goods without one: height'][aria-invalid=true]"
    fill_in("Size of goods without one: height", with: "10 cm").send_keys(:enter)
    within(bench) { assert_text "2 × Anchor chain 8 mm, per metre" }
  end

  # Another tab changes the same rate and the same carrier; what was typed here is kept, and can be stored all the same.
  def test_two_tabs_order_and_undo
    visit "/?item=8*SHK-GAL-10&to=IE#rate=ie-live&field=live"
    select "the first in this list that answers", from: "Which answer counts"
    within(bench) { assert_button "Why £11.33 for Carrier of the day?" }
    click_button "Move Fulmar Freight, By road up"
    2.times { press(:enter) }
    assert_button "Move Fulmar Freight, By road up", disabled: true
    within(bench) { assert_button "Why £16.14 for Carrier of the day?" }
    markup = fill_in("Markup, %", with: "50")
    rate = find_rate("ie-live")
    api(:patch, "/api/rates/ie-live", { lock_version: rate["lock_version"], live: rate["live"].merge("answer" => "fastest") })
    markup.send_keys(:enter)
    assert_text "Changed elsewhere meanwhile. There now: The fastest of"
    assert_field "Markup, %", with: "50"
    click_button "Use mine"
    within(bench) { assert_button "Why £23.81 for Carrier of the day?" }
    assert_equal %w[first 50], [find_rate("ie-live")["live"]["answer"], find_rate("ie-live")["live"]["handling"]["percent"]]
    visit "/carriers"
    assert_field with: "Petrel Post"
    carrier = setup_now["carriers"].first
    api(:patch, "/api/carriers/#{carrier["id"]}", { lock_version: carrier["lock_version"], account: "OTHER" })
    account = find("ul[aria-label=Carriers] > li:first-child").find_field("Account")
    account.set("MINE").send_keys(:enter)
    assert_text "There now: OTHER. You typed: MINE."
    click_button "Use mine"
    20.times { break if setup_now["carriers"].first["account"] == "MINE" || sleep(0.1).nil? }
    assert_equal "MINE", setup_now["carriers"].first["account"]
    click_button "Remove Fulmar Freight"
    assert_no_field with: "Fulmar Freight"
    refute_includes JSON.generate(setup_now["rates"]), "fulmar"
    press(:control, "z")
    assert_field with: "Fulmar Freight"
    assert_includes JSON.generate(find_rate("ie-live")["live"]["services"]), "fulmar"
  end

  def find_rate(id) = setup_now["rates"].find { |rate| rate["id"] == id }

  def test_carriers_are_asked_about_each_product
    audited_soon
    visit "/rates/findings"
    within("section[aria-label='What carriers take']") do
      # By a key: the list above it is still coming, and moves it away under a pointer.
      find_button("Ask about each product").execute_script("this.focus()")
      press(:enter)
      assert_text(/Asked all \d+ questions\./, wait: 20)
    end
    assert_text "the cheapest carrier took £21.33 for it"
    assert_text "Every service of By air, live price refuses "
    assert_accessible "findings about live rates"
  end

  def test_promises_and_duty
    visit "/methods?item=2*SHK-GAL-10&to=GB&postcode=TR29+4ZZ&at=2026-12-23T10:00"
    within(bench) { assert_text "Tue 29 Dec to Wed 30 Dec" }
    fill_in "Cutoff of Tracked", with: "half past"
    find_field("Cutoff of Tracked").send_keys(:enter)
    assert_text "Write a time of day, like 18:00."
    fill_in "Cutoff of Tracked", with: "09:00"
    find_field("Cutoff of Tracked").send_keys(:enter)
    within(bench) { assert_text "Wed 30 Dec to Thu 31 Dec" }
    check "Hide Tracked after the cutoff"
    within(bench) { assert_text "Its cutoff has passed (it is 10:00)." }
    assert_accessible "delivery times"
    visit "/?item=1*OIL-JKT-M&item=1*OIL-TRS-M&to=FR&postcode=75001"
    within(bench) { assert_text(/and about £[0-9.]+ duty and tax, an estimate/) }
  end
end
