# frozen_string_literal: true

require_relative "../support/browser"

class RatesTest < Minitest::Test
  include BrowserSupport

  SHEET = "Prices by class"

  # A weight schedule built by typing: the strip and the bench follow each key, a doubled edge stays at its cell.
  def test_build_a_weight_schedule_by_typing
    visit "/"
    within(zone("Ireland")) { click_button "Edit Tracked" }
    click_button "Price it by weight, value, class …"
    within(zone("Ireland")) do
      select "in steps", from: "Price: kind of price"
      type "1 amount" => "4.95", "2 at" => "1", "2 amount" => "7.50"
      type "3 at" => "2", "3 amount" => "7.50", "3 each" => "1.10", "3 increment" => "1"
      assert_text "Read back: By weight: £4.95 up to 1 kg, £7.50 up to 2 kg, then £7.50 and £1.10 for each started kg"
    end
    within(zone("Ireland")) { assert_button "Why £8.60 for Tracked?" }
    press(:enter)
    assert(eventually { rate("ie-tracked")["plan"]["schedule"]["steps"]&.map { |step| step["at"] } == ["0 kg", "1 kg", "2 kg"] })
    within(zone("Ireland")) do
      type "4 at" => "2000 g", "4 amount" => "9"
      assert_text "This edge stands there already."
      assert_cell "2000 g", "Price: steps", "4 at"
      type "4 at" => "30"
      check "Price: step 4 not available"
      assert_text "above 30 kg not available"
    end
    assert(eventually { rate("ie-tracked")["plan"]["schedule"]["steps"].last["none"] })
    choose_measure "weight"
    within(zone("Ireland")) { assert_selector "[role=group][aria-label^='Price line of Tracked: from 0 kg £4.95, from 1 kg £7.50, from 2 kg £8.60']" }
    within(zone("Ireland")) { click_button "Why £8.60 for Tracked?" }
    within(zone("Ireland")) { assert_text "Weight 2.08 kg, in the step above 2 kg up to 30 kg: £7.50 and 1 × £1.10 for each started kg" }
    assert_accessible "a schedule and its reckoning"
    find("h1").click
    press_undo
    assert_nil(eventually { rate("ie-tracked")["plan"]["schedule"]["steps"].find { |step| step["none"] }.nil? || nil }.then { |found| found ? nil : :still })
  end

  def test_paste_cells_and_a_stale_edit
    visit "/"
    within(zone("Ireland")) { click_button "Edit Tracked" }
    click_button "Price it by weight, value, class …"
    select "in steps", from: "Price: kind of price"
    sheet_cell("Price: steps", "1 at").click
    paste("0 kg\t£3.10\n2\tfour\n5\t1,250.00")
    assert_text "Write an amount like 4.50"
    assert_cell "1250.00", "Price: steps", "3 amount"
    type "2 amount" => "4"
    within(zone("Ireland")) { assert_button "Why £4.00 for Tracked?" }
    api(:patch, "/api/rates/ie-tracked", { lock_version: rate("ie-tracked")["lock_version"], plan: { schedule: { kind: "flat", amount: "6" } } })
    press(:enter)
    assert_text "Changed elsewhere meanwhile. There now: £6.00"
    click_button "Use mine"
    assert(eventually { rate("ie-tracked")["plan"]["schedule"]["kind"] == "steps" })
  end

  # A tariff of from–to pairs with a hole, an overlap and an end: each is told, closed by a click, and stored as steps.
  def test_paste_a_list_with_a_hole_and_close_it
    visit "/#rate=ie-tracked&field=plan"
    click_button "Price it by weight, value, class …"
    select "in steps", from: "Price: kind of price"
    open_fold "Take a list of from–to pairs"
    fill_in "Price: from–to list", with: "from\tto\tprice\n0\t1\t4.95\n1\t5\tseven\n8\t20\t£12.00"
    assert_text "Row 2, amount “seven”: Write an amount like 4.50"
    fill_in "Price: from–to list", with: "from\tto\tprice\n0\t1\t4.95\n1\t5\t7.50\n8\t20\t£12.00"
    assert_text "Between 5 kg and 8 kg the list says nothing."
    assert_text "The list ends at 20 kg."
    within(zone("Ireland")) { assert_button "Why £7.50 for Tracked?" }
    choose_measure "weight"
    3.times { click_button "Strips twice as far" }
    within(zone("Ireland")) do
      assert_selector "[aria-label^='Price line of Tracked: from 0 kg £4.95, from 1 kg £7.50, from 5 kg not available, from 8 kg £12.00']"
    end
    click_button "the row before goes on: Between 5 kg and 8 kg the list says nothing."
    assert_text "Read back: By weight: £4.95 up to 1 kg, £7.50 up to 8 kg, £12.00 up to 20 kg, above 20 kg not available"
    assert_accessible "a list of from–to pairs"
    click_button "Take these 4 steps"
    assert_equal([["0 kg", "4.95"], ["1 kg", "7.50"], ["8 kg", "12.00"], ["20 kg", nil]],
                 eventually { rate("ie-tracked")["plan"]["schedule"]["steps"]&.map { |step| step.values_at("at", "amount") } })
  end

  # Classes priced across zones in one sheet, the figures for 1, 2 and 5 units in each cell; a wrong one stays in its cell.
  def test_price_classes_across_zones
    visit "/rates/classes"
    assert_text "No rate prices by class yet."
    click_button "Show the others, to price one by class"
    ["Tracked in Ireland", "Tracked, by road in Near Europe"].each { |name| click_button "Price by class: #{name}" }
    assert(eventually { %w[ie-tracked near-tracked].all? { |id| rate(id)["plan"]["group"] == "class" } })
    type_cell(SHEET, "ie-tracked heavy", "dear each", :enter)
    click_button "Heavy, Tracked in Ireland"
    assert_text "Write an amount like 4.50"
    assert_accessible "a class's price that can't be stored"
    type_cell(SHEET, "ie-tracked heavy", "21.50 each", :tab)
    type_cell(SHEET, "near-tracked heavy", "£34.00 per unit", :tab)
    assert_no_text "not stored yet"
    assert_cell(/\A£21.50 each\s*1 unit:\s+21.50\s+1\s+2 units:\s+43.00\s+2\s+5 units:\s+107.50/, SHEET, "ie-tracked heavy")
    type_cell(SHEET, "ie-tracked hazardous", "no", :enter)
    assert_cell(/\Anot carried/, SHEET, "ie-tracked hazardous")
    stored = eventually do
      list = classes_of("ie-tracked")
      list if list.size == 2
    end
    assert_equal [["hazardous", false, nil], ["heavy", true, "unit"]], stored.sort
    assert_equal [["heavy", true, "unit"]], classes_of("near-tracked")
    assert_accessible "classes across zones"
    visit "/?item=2*ANC-10&to=IE"
    within(bench) { assert_button "Why £43.00 for Tracked?" }
  end

  # A range of prices goes from one rate to another and back to what everything else pays.
  def test_copy_prices_by_class_from_one_rate_to_another
    fresh(WHOLE_DEMO)
    visit "/rates/classes"
    to = "iom-tracked"
    sheet_cell(SHEET, "ni-tracked long").click
    press(%i[shift right], %i[shift right])
    assert_equal "14.50\t\tnot carried", copied
    sheet_cell(SHEET, "#{to} long").click
    paste "16.25\t18 each\tno"
    wanted = [["hazardous", false, nil], ["heavy", true, "unit"], ["long", true, "once"]]
    assert_equal(wanted, eventually { classes_of(to).select { |id,| %w[hazardous heavy long].include?(id) }.sort.then { |list| list if list == wanted } })
    press([:control, "z"])
    assert(eventually { classes_of(to).none? { |id,| id == "long" } })
    assert_cell(/\Aas the rest/, SHEET, "#{to} long")
  end

  # What is typed into a class's price moves the bench before it is stored, and taking it back moves it back.
  def test_a_class_price_is_on_the_bench_while_it_is_typed
    fresh(WHOLE_DEMO)
    visit "/rates/classes?item=1*STK-HULL&to=GB&postcode=BT1+1AA"
    within(bench) { assert_button "Why £3.40 for Tracked?" }
    cell = sheet_cell(SHEET, "ni-tracked letter").click
    press("19.25")
    within(bench) { assert_button "Why £19.25 for Tracked?" }
    assert_equal "3.40", amount_of("ni-tracked", "letter")
    press(:escape)
    within(bench) { assert_button "Why £3.40 for Tracked?" }
    assert_equal "3.40", amount_of("ni-tracked", "letter")
    assert_equal "ni-tracked letter", page.evaluate_script("document.activeElement.dataset.cell")
    assert_equal cell["data-cell"], "ni-tracked letter"
  end

  # A price in steps says why it can't be typed into here; Enter on the rate's own cell goes to where it can.
  def test_a_price_in_steps_is_opened_from_the_table_of_classes
    fresh(WHOLE_DEMO)
    visit "/rates/classes"
    assert_cell(/\Ain 2 steps/, SHEET, "ni-tracked heavy")
    sheet_cell(SHEET, "ni-tracked heavy").click
    press("9")
    assert_text "Its price is in steps or a grid. Open the rate to change it."
    assert_no_selector "[role=grid] input"
    press(:home, :enter)
    assert(eventually { page.current_url.end_with?("#rate=ni-tracked&field=plan") })
    within(zone("Northern Ireland")) { assert_text "Read back:" }
    page.go_back
    assert_selector "[role=grid][aria-label='#{SHEET}']"
  end

  # Two carts beside each other; a finding put to sleep and woken; what holds for one zone only is copied to others.
  def test_two_carts_and_a_sleeping_finding
    audited_soon
    fresh(WHOLE_DEMO)
    visit "/rates/findings?item=1*ANC-06&to=GB&postcode=TR29+4ZZ"
    within(bench) { click_button "Set a second cart beside it" }
    within("section[aria-label='Second cart']") do
      select "Ireland", from: "To"
      assert_text(/This cart gets\s+Ireland/)
      click_button "Swap the two carts"
      assert_text(/This cart gets\s+Mainland Britain/)
    end
    assert_equal %w[IE GB], [page.current_url[/[?&]to=(\w+)/, 1], page.current_url[/beside=.*to%3D(\w+)/, 1]]
    click_button "Snooze: 2 cells of Air, tracked are blank: carts that come there get no price."
    assert_no_button "Snooze: 2 cells"
    open_fold "Snoozed: 1"
    click_button "Wake: 2 cells of Air, tracked are blank: carts that come there get no price."
    assert_no_text "Snoozed: 1"
    press_undo
    assert_text "Snoozed: 1"
  end

  # A grid by weight and parts of the zone, filled by pasting a whole table; then the rate is narrowed to a part.
  def test_a_grid_by_parts_of_the_zone
    visit "/?item=2*SHK-GAL-10&to=FR#rate=near-tracked&field=plan"
    click_button "Price it by weight, value, class …"
    select "in a grid", from: "Price: kind of price"
    select "parts of the zone", from: "Price: Across"
    part = lambda { |at, country|
      click_button "Price: column #{at}: places"
      select country, from: "Price: column #{at}: add a country"
      press(:escape)
    }
    part.call(1, "France")
    click_button "Price: add a column"
    part.call(2, "Netherlands")
    fill_in "Price: column 2", with: "Low lands"
    sheet_cell("Price: grid", "1 edge").click
    paste("0 kg\t11.00\t£9.00\n2\t15.00\tdear\n5\tnone\tnone")
    assert_text "Write an amount like 4.50"
    type_cell "Price: grid", "2 1", "12.00"
    within(bench) { assert_button "Why £11.00 for Tracked, by road?" }
    press(:enter)
    stored = eventually { rate("near-tracked")["plan"]["schedule"].then { |schedule| schedule if schedule["cells"]&.size == 3 } }
    assert_equal [[%w[FR], %w[NL]], [["11.00", "9.00"], ["15.00", "12.00"], %w[none none]], ["0 kg", "2 kg", "5 kg"]],
                 [stored["columns"]["areas"].map { |set| set["areas"].map { |area| area["country"] } }, stored["cells"], stored["rows"]["at"]]
    assert_accessible "a grid by parts of the zone"
    open_fold "Only in a part of the zone"
    select "Netherlands", from: "Part of the zone: add a country"
    within(bench) { assert_no_button "Why £11.00 for Tracked, by road?" }
    fill_in "Part of the zone: only these postcodes of Netherlands", with: "1011, 10!1"
    find_field("Part of the zone: only these postcodes of Netherlands").send_keys(:enter)
    assert_text "“10!1”:"
    fill_in "Part of the zone: only these postcodes of Netherlands", with: "1011"
    find_field("Part of the zone: only these postcodes of Netherlands").send_keys(:enter)
    assert_equal([{ "kind" => "country", "country" => "NL", "only" => ["1011"] }],
                 eventually { rate("near-tracked")["areas"].then { |areas| areas if areas&.first&.key?("only") } })
  end

  # The demo's rates of every kind, read by the bench: classes, a grid by area, parcels, the dearest first.
  def test_rates_of_every_kind
    fresh(WHOLE_DEMO)
    visit "/?item=3*SHK-GAL-10&item=2*STK-HULL&item=1*LOG-A4&to=IM"
    within(bench) do
      click_button "Why £15.85 for Tracked?"
      assert_text "Added up"
    end
    visit "/?item=2*SHK-GAL-10&item=3*LOG-A4&to=FR"
    within(bench) { click_button "Why £21.00 for Tracked, by road?" }
    within(bench) { assert_text "Cell of the grid for weight 2 kg and France, Germany, Denmark" }
    visit "/?item=2*ANC-10&to=ES"
    within(bench) { assert_button "Why £23.90 for Tracked, by road?" }
    assert_accessible "the Board with strips of every kind"
    choose_measure "quantity"
    within(zone("Further Europe")) { assert_selector "[role=group][aria-label^='Price line of Tracked, by road: from 1 £21.50 to']" }
    check "only the bench’s zone"
    assert_no_selector "section[aria-label='Zone Ireland']"
    strip = find("[role=group][aria-label^='Price line of Tracked, by road']")
    strip.send_keys(:right)
    within(strip) { assert_text(/1 to \d+:/) }
  end

  private

  def type(fields) = fields.each { |cell, text| type_cell "Price: steps", cell, text }
  def classes_of(id) = rate(id)["plan"]["classes"].map { |item| item.values_at("class", "carried", "charge") }
  def amount_of(id, group) = rate(id)["plan"]["classes"].find { |one| one["class"] == group }.dig("schedule", "amount")
  def rate(id) = setup_now["rates"].find { |found| found["id"] == id }

  def choose_measure(name)
    find("[aria-labelledby=along] button", text: name, exact_text: true).click
  end
end
