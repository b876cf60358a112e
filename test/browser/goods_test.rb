# frozen_string_literal: true

require_relative "../support/browser"

class GoodsBrowserTest < Minitest::Test
  include BrowserSupport

  # The catalogue from the keyboard alone, with the bench following; a weight in ounces stays in ounces.
  def test_cells_by_keyboard
    visit "/goods"
    assert_text "66 rows"
    fill_in "Find goods by name or SKU", with: "shackle 1"
    assert_text "2 rows"
    cell("SHK-GAL-10 sku").click
    4.times { press(:right) }
    press("heavy", :enter)
    assert_text(/One cell is not stored yet:\s+Weight of Galvanised shackle 10 mm/)
    press(:up)
    within("[role=grid]") { assert_text "Write a number and a unit, like 0.25 kg." }
    assert_accessible "a cell with a fault"
    press(:enter)
    assert_field "Weight of Galvanised shackle 10 mm", with: "heavy"
    find_field("Weight of Galvanised shackle 10 mm").fill_in(with: "8 oz")
    press(:tab)
    within(bench) { assert_text "32 oz in all" }
    assert_no_text "not stored yet"
    assert_equal "8 oz", api(:get, "/api/products?q=SHK-GAL-10")["products"].first["weight"]
    cell("SHK-GAL-10 weight").click
    press("25000", :enter)
    press(:up)
    assert_text "Does one unit really weigh 25000 kg?"
    click_button "No, 25000 g"
    within(bench) { assert_text "100000 g in all" }
    cell("SHK-GAL-10 ships").click
    press(:space)
    within(bench) { assert_text "needs no shipping" }
    cell("SHK-GAL-10 price").click
    press("2.10")
    row = api(:get, "/api/products?q=SHK-GAL-10")["products"].first
    api(:patch, "/api/products/#{row["id"]}", { lock_version: row["lock_version"], price: "3.00" })
    press(:enter)
    press(:up)
    assert_text "There now: 3.00. You typed: 2.10."
    click_button "Use mine"
    within(bench) { assert_text "£8.40" }
  end

  def test_paste_choose_and_edit_together
    visit "/goods"
    fill_in "Find goods by name or SKU", with: "plough"
    assert_text "4 rows"
    cell("ANC-06 weight").click
    paste("6.1\t60\n10,5\t70\nx\t80\n25\t95\nleft over\t1")
    assert_text(/2 cells are not stored yet:\s+Weight of Plough anchor 10 kg\s+Weight of Plough anchor 16 kg/)
    assert_text "1 pasted row lies below the last row"
    assert_equal(["6.1 kg", "10 kg", "16 kg", "25 kg"], api(:get, "/api/products?q=plough")["products"].map { |item| item["weight"] })
    assert_equal(["60 cm", "70 cm", "80 cm", "95 cm"], api(:get, "/api/products?q=plough")["products"].map { |item| item["length"] })
    click_button "Leave them all"
    check "Choose everything that is found"
    within("section[aria-label='Edit the chosen goods together']") do
      fill_in "Weight", with: "9000"
      assert_text "Does one unit really weigh 9000 kg?"
      fill_in "Weight", with: "8 kg"
      fill_in "Add tags", with: "iron, sea"
      select "Flares from the quay only", from: "Put a treatment on"
      assert_text "Of 4 rows, 4 would change"
      assert_text(/weight 10 kg →\s+becomes\s+8 kg/)
      assert_accessible "edit together"
      click_button "Change 4 products"
    end
    assert_text "Changed 4 products"
    assert_equal [%w[anchors iron sea]], api(:get, "/api/products?tag=iron")["products"].map { |item| item["tags"] }.uniq
    visit "/goods?item=1*ANC-06&to=GB&postcode=TR29+4ZZ"
    within(bench) { assert_text "Plough anchor 6 kg may not go by it (treatment “Flares from the quay only”).", minimum: 2 }
    press_undo
    assert_text "Undone: weight, tags added, a treatment put on of 4 products"
    assert_empty api(:get, "/api/products?tag=iron")["products"]
  end

  # An exception followed from the reckoning to its setting, changed there, and seen in the reckoning again.
  def test_an_exception_from_the_reckoning_to_its_setting_and_back
    visit "/?item=2*ANC-10&item=1*SHK-GAL-10&item=6*CHT-PASS-F&to=GB&postcode=TR29+4ZZ"
    within(bench) { click_button "Why £33.95 for Tracked?" }
    within(bench) do
      assert_text "Priced apart, so not in the ordinary rate: Plough anchor 10 kg, by “Anchors by the piece” on its class"
      assert_text "“Anchors by the piece” for Plough anchor 10 kg: 2 × £14.00"
      assert_text "Plough anchor 10 kg may not go by it (treatment “Anchors by the piece”)."
      find("ol li", text: "“Anchors by the piece” for Plough anchor 10 kg").click_link("go to the setting")
    end
    assert_chosen "Apart from the cart, a price of its own: it then counts in no ordinary rate and no parcel"
    assert_text "1: Tracked £5.95, Next day by noon £9.80"
    assert_accessible "a treatment's editor"
    type_cell "Own price: steps", "1 amount", "15.0x"
    assert_text "Write an amount like 4.50"
    type_cell "Own price: steps", "1 amount", "15.50"
    within(bench) { assert_button "Why £36.95 for Tracked?" }
    assert_equal "14.00", treatment["price"]["charge"]["steps"].first["amount"], "nothing is stored while typing"
    press(:enter)
    within(bench) { assert_text "2 × £15.50" }
    assert_equal "15.50", treatment["price"]["charge"]["steps"].first["amount"]
    type_cell "Own price: steps", "2 from", "1", :enter
    assert_text "There is a step from 1 already."
    assert_cell "1", "Own price: steps", "2 from"
    type_cell "Own price: steps", "2 from", "2", :enter
    within(bench) { assert_text "1 × £15.50 + 1 × £9.00, each unit by its own step" }
    uncheck "Never by: Next day by noon"
    within(bench) { assert_no_text "may not go by it" }
    page.go_back
    assert_selector "h1", text: "Board"
    within(bench) { assert_text "1 × £15.50 + 1 × £9.00" }
  end

  def test_a_new_treatment_two_tabs_and_what_a_product_shows
    audited_soon
    visit "/goods/treatments?item=3*LMP-ANC&to=GB&postcode=TR29+4ZZ"
    fill_in("Name of a new treatment", with: "Lamps with care").send_keys(:enter)
    assert_text "“Lamps with care” says nothing."
    search = find_field("Put Lamps with care on goods, by name or SKU")
    search.fill_in(with: "anchor lamp")
    assert_selector "[role=option]", count: 1
    search.send_keys(:enter)
    assert_text "1 product or variant"
    choose "Apart from the cart, a price of its own: it then counts in no ordinary rate and no parcel"
    fill_in("Own price: for each", with: "2.25").send_keys(:enter)
    within(bench) { assert_button "Why £6.75 for Tracked?" }
    made = treatment("Lamps with care")
    made = api(:patch, "/api/treatments/#{made["id"]}", { lock_version: made["lock_version"], active: false })
    fill_in("Own price: for each", with: "3.00").send_keys(:enter)
    stored = -> { treatment("Lamps with care").then { |now| [now["active"], now["price"]["charge"]["amount"], now["lock_version"]] } }
    # Somebody else switched it off: that stays, and so does the price.
    assert(eventually { stored.call.first(2) == [false, "3.00"] })
    # What is being typed when somebody else changes the same is in conflict, whenever the news of it comes.
    price = fill_in("Own price: for each", with: "4.00")
    api(:patch, "/api/treatments/#{made["id"]}", { lock_version: stored.call.last, price: { kind: "apart", charge: { kind: "unit", amount: "9.99" } } })
    price.send_keys(:enter)
    assert_text "Changed elsewhere meanwhile."
    assert_field "Own price: for each", with: "4.00"
    click_button "Use mine"
    assert_no_text "Changed elsewhere meanwhile."
    assert(eventually { stored.call.first(2) == [false, "4.00"] })
    visit "/goods"
    fill_in "Find goods by name or SKU", with: "LMP-ANC"
    cell("LMP-ANC treatments").click
    press(:enter)
    within("section[aria-label='About Anchor lamp, oil, brass']") { assert_text "Lamps with care: goes apart from the cart: £4.00 each\noff" }
    fill_in "Find goods by name or SKU", with: "jacket, extra"
    cell("OIL-JKT-XL treatments").click
    press(:enter)
    within("section[aria-label^='About Oilskin jacket, extra']") { assert_text "on the variant" }
    assert_accessible "about a product"
  end

  def test_a_csv_with_faulty_rows
    visit "/goods/csv"
    fill_in "Products as CSV", with: "Code,Title,Price,Weight kg\nBUOY-40,Mooring buoy,48.00,3.1\nBUOY-41,Small buoy,4x,1\nBUOY-42,Large buoy,90,2500\n"
    assert_text "3 rows: 1 new, 0 changed, 0 unchanged, 1 with errors, 1 to confirm"
    assert_text "Line 3, BUOY-41, price: Write an amount like 4.50"
    assert_text "Line 4, BUOY-42: 2500 (perhaps 2500 g)"
    assert_selected "Code", from: "SKU"
    check "These weights are right"
    assert_text "3 rows: 2 new"
    select "Not in the file", from: "price"
    assert_text "Line 2, BUOY-40, price: Give it a price."
    select "Price", from: "price"
    assert_accessible "an import"
    click_button "Import 2 good rows"
    assert_text "The good rows were imported."
    assert_equal(%w[BUOY-40 BUOY-42], api(:get, "/api/products?q=BUOY-4")["products"].map { |item| item["sku"] })
    faulty = CGI.unescape(find_link("Download the rows with errors as CSV")[:href].split(",", 2).last)
    assert_includes faulty, "BUOY-41,Small buoy,4x,1,"
    find("button[data-tip^='Undo: 2 products read from CSV']").click
    assert_text "Undone: 2 products read from CSV"
    assert_empty api(:get, "/api/products?q=BUOY-4")["products"]
  end

  def test_classes_and_where_their_goods_go
    visit "/goods/classes"
    within("tr", text: "Anchors by the piece") { assert_text "5 products" }
    fill_in "Name of Heavy", with: "small"
    find_field("Name of Heavy").send_keys(:enter)
    assert_text "Another class has this name already."
    find_field("Name of Heavy").send_keys(:escape)
    click_button "Remove Heavy"
    assert_text "Removing Heavy takes “Anchors by the piece” off its goods, and leaves 5 products without a class."
    click_button "To Long"
    assert_text "11 products"
    assert_no_field "Name of Heavy"
    visit "/goods/classes?item=1*ANC-06&to=GB&postcode=TR29+4ZZ"
    within(bench) { assert_button "Why £9.45 for Tracked?" }
    find("button[data-tip^='Undo: removed class Heavy']").click
    within(bench) { assert_button "Why £14.00 for Tracked?" }
    select "Heavy", from: "Move the goods of Long to another class"
    assert_text "Moved 6 rows out of Long"
  end

  def test_the_bench_holds_any_goods
    visit "/"
    click_button "Goods not in the catalogue"
    within("form[aria-label='Goods not in the catalogue']") do
      fill_in "What it is", with: "Spare mast"
      fill_in "Price of one", with: "120,50"
      fill_in "Weight, kg", with: "9"
      { "L, cm" => "600", "W, cm" => "10", "H, cm" => "10" }.each { |field, text| fill_in field, with: text }
      select "Long", from: "Class"
      click_button "Put it on the bench"
    end
    within(bench) { assert_text "Write 120.50, with a point." }
    find("button", text: "Spare mast", match: :first).click
    fill_in "Price of one: Spare mast", with: "120.50"
    within(bench) do
      assert_text "longest 600 cm"
      assert_text(/value\s+£182\.90/)
      assert_button "Why £9.45 for Tracked?"
    end
    fill_in "Off the line, £: Spare mast", with: "20.50"
    open_buyer
    fill_in "Off the whole order, £", with: "10"
    within(bench) { assert_text(/value\s+£152\.40/) }
    assert_accessible "a line's details"
    shared = page.evaluate_script("location.href")
    click_button "The cart as JSON"
    json = find_field("The cart as JSON").value
    assert_equal "Spare mast", JSON.parse(json)["lines"].last["name"]
    fill_in "The cart as JSON", with: json.sub("\"quantity\": 4", "\"quantity\": 0").sub("9 kg", "9 stone")
    click_button "Put this cart on the bench"
    assert_text "/lines/0/quantity: Use a whole number from 1 to 1000000."
    assert_text "/lines/3/weight: Use one of these units"
    fill_in "The cart as JSON", with: json.sub("\"quantity\": 4", "\"quantity\": 5")
    click_button "Put this cart on the bench"
    within(bench) { assert_text(/quantity\s+28/) }
    visit shared
    within(bench) { assert_text(/value\s+£152\.40/) }
    click_button "Empty"
    find_field("Add goods by name or SKU").fill_in(with: "voucher")
    assert_selector("[role=option]", count: 1)
    find("[role=option]", text: "Gift voucher").click
    press(:escape)
    select "country not known", from: "To"
    within(bench) { assert_text "Nothing here needs shipping, so no address is asked for" }
  end

  private

  def cell(name) = find("[data-cell='#{name}']")
  def treatment(name = "Anchors by the piece") = setup_now["treatments"].find { |item| item["name"] == name }
end
