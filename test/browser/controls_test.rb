# frozen_string_literal: true

require_relative "../support/browser"

# What everything on the screens is made of: the sheet, lists that open, lists in order. By keyboard and by pointer.
class ControlsTest < Minitest::Test
  include BrowserSupport

  STEPS = "Price: steps"

  # Ranges, copying, filling down, emptying, and taking back what was typed, cell by cell.
  def test_a_sheet_as_in_a_spreadsheet
    steps = (0...6).map { |at| { at: "#{at} kg", amount: "#{at + 1}.00" } }
    rate = find_setup("rates", "ie-tracked")
    api(:patch, "/api/rates/ie-tracked", { lock_version: rate["lock_version"], plan: { schedule: { kind: "steps", measure: "weight", steps: steps } } })
    visit "/#rate=ie-tracked&field=plan"
    sheet_cell(STEPS, "2 at").click
    press(%i[shift right], %i[shift down])
    assert_selector "[role=grid][aria-label='#{STEPS}'] [aria-selected=true][role=gridcell]", count: 4
    assert_equal "1 kg\t2.00\n2 kg\t3.00", copied
    sheet_cell(STEPS, "1 amount").click
    press(%i[shift down], %i[shift down], [:ctrl, "d"])
    assert(eventually { amounts == %w[1.00 1.00 1.00 4.00 5.00 6.00] })
    press([:ctrl, "z"])
    assert(eventually { amounts == %w[1.00 2.00 3.00 4.00 5.00 6.00] })
    press([:ctrl, "y"])
    assert(eventually { amounts == %w[1.00 1.00 1.00 4.00 5.00 6.00] })
    paste("7.50")
    assert(eventually { amounts == %w[7.50 7.50 7.50 4.00 5.00 6.00] })
    sheet_cell(STEPS, "6 amount").click
    paste("£1,050.00\t2\n1\t3")
    assert_cell "1050.00", STEPS, "6 amount"
    assert_cell "1", STEPS, "7 amount"
    assert_text "Step 7: Fill this in."
    2.times { press([:ctrl, "z"]) }
    sheet_cell(STEPS, "4 amount").click
    press("9.99", :escape)
    assert_cell "4.00", STEPS, "4 amount"
    press(:enter)
    assert_equal "4.00", page.evaluate_script("document.activeElement.value")
    press(:escape, :home)
    assert_equal "4 at", page.evaluate_script("document.activeElement.dataset.cell")
    # A step is taken out: what was typed before stands elsewhere now, and undoing brings the step back.
    type_cell STEPS, "4 amount", "9.00", :enter
    assert(eventually { amounts[3] == "9.00" })
    left = amounts
    click_button "Price: take step 2 out"
    assert(eventually { amounts == [left[0], *left[2..]] })
    sheet_cell(STEPS, "1 at").click
    press([:ctrl, "z"])
    assert(eventually { amounts == left })
    press(%i[ctrl end])
    assert_equal "remove", page.evaluate_script("document.activeElement.dataset.cell").split.last
    assert_selector "[role=grid][aria-label='#{STEPS}'] [tabindex='0'][data-cell]", count: 1
    assert_accessible "a sheet"
  end

  # All price lines of the Board are one stop of the Tab key: up and down from one to the next, left and right along it.
  def test_price_lines_by_keyboard
    visit "/?item=2*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    assert_selector "[data-strip]", minimum: 8
    assert_selector "[data-strip][tabindex='0']", count: 1
    strips = page.evaluate_script("[...document.querySelectorAll('[data-strip]')].map((one) => one.getAttribute('aria-label'))")
    page.execute_script("document.querySelector('[data-strip]').focus()")
    press(:down, :down)
    assert_equal strips[2], active("aria-label")
    press(:up)
    assert_equal strips[1], active("aria-label")
    assert_selector "[data-strip][tabindex='0']", count: 1
    press(:right)
    assert_selector "[data-strip]:focus b"
    # It is said once: by its label, and each step as one comes to it.
    assert_selector "p[role=status]", text: / to .*: £/, visible: :all
    spoken = "[...document.activeElement.children].filter((one) => !one.hasAttribute('aria-hidden')).map((one) => one.textContent).join('')"
    assert_equal "", page.evaluate_script(spoken)
    press(:tab)
    refute_includes strips, active("aria-label")
    press(%i[shift tab])
    assert_equal strips[1], active("aria-label")
    press(:end)
    assert_equal page.evaluate_script("[...document.querySelectorAll('[data-strip]')].at(-1).getAttribute('aria-label')"), active("aria-label")
    assert_accessible "price lines by keyboard"
  end

  # What a drawing on a button means is told to whoever points at it or comes to it by keyboard, and Escape puts it away.
  def test_tips
    visit "/"
    find("button[aria-label='Keys and help']").hover
    assert_selector "[data-tip-shown]", text: "Keys and help (?)"
    assert_accessible "a tip"
    press(:escape)
    assert_no_selector "[data-tip-shown]"
    find("h1").hover
    40.times do
      press(:tab)
      break if active("aria-label") == "Changes so far"
    end
    assert_selector "[data-tip-shown]", text: "Changes so far"
    press(:tab)
    assert_no_selector "[data-tip-shown]", text: "Changes so far"
  end

  # Cells belong to their row, wherever it goes: sorted while somebody types, what is typed stays with its product, also
  # while the server has not answered yet.
  def test_what_is_typed_stays_with_its_row
    visit "/goods"
    fill_in "Find goods by name or SKU", with: "shackle"
    assert_text "rows"
    sheet_cell("Catalogue", "SHK-GAL-12 price").click
    press("2")
    TURNSTILE.hold("GET", %r{\A/api/products\z})
    page.execute_script("[...document.querySelectorAll('[role=columnheader] button')].find((one) => one.textContent === 'Price').click()")
    assert_selector "[aria-sort=ascending]"
    assert(eventually { TURNSTILE.came.any? })
    press(".9")
    TURNSTILE.open
    assert_selector "[role=grid] [aria-rowindex='2'] [data-cell='SHK-GAL-08 price']"
    press("9", :enter)
    assert(eventually { price("SHK-GAL-12") == "2.99" })
    assert_equal %w[1.35 1.90], [price("SHK-GAL-08"), price("SHK-GAL-10")]
    fill_in "Find goods by name or SKU", with: "tide tables"
    assert_selector "[role=grid] [tabindex='0'][data-cell]", count: 1
  end

  # A short list and a long one, from the keyboard: what is typed narrows it, without regard to accents.
  def test_lists_that_open
    visit "/"
    country = control("combobox", "To")
    country.send_keys(:down)
    assert_selector "[role=option]", minimum: 200
    assert_accessible "a long list"
    press("cote", " d")
    assert_selector "[role=option]", text: "Côte d'Ivoire", count: 1
    press(:enter)
    assert_selected "Côte d'Ivoire", from: "To"
    assert_equal "To", page.evaluate_script("document.activeElement.getAttribute('aria-label')"), "the focus comes back"
    country.send_keys(:down)
    press("zzz")
    page.document.assert_text "Nothing like “zzz”."
    press(:escape)
    assert_selected "Côte d'Ivoire", from: "To"
    visit "/methods"
    reaches = control("combobox", "How Tracked reaches the shopper")
    reaches.send_keys(:down)
    assert_selector "[role=option]", count: 2
    press(:escape)
    assert_no_selector "[role=option]"
    select "collected", from: "How Tracked reaches the shopper"
    assert(eventually { find_setup("methods", "tracked")["kind"] == "collection" })
  end

  # Put in order by the keyboard and by dragging; each is one change that can be undone by its name.
  def test_a_list_in_order
    visit "/zones"
    names = -> { setup_now["zones"].map { |zone| zone["name"] } }
    before = names.call
    grip = find("button[aria-label='Drag #{before[0]}']")
    grip.send_keys(:space)
    assert_selector "[aria-live]", text: "#{before[0]} goes to place 1 of #{before.size}.", visible: :all
    2.times do
      press(:down)
      sleep 0.3
    end
    press(:space)
    moved = [before[1], before[2], before[0], *before[3..]]
    assert(eventually { names.call == moved })
    assert_selector "ol[aria-label='Zones in their order'] li:nth-child(3)", text: before[0]
    press_undo
    assert(eventually { names.call == before })
    assert_selector "ol[aria-label='Zones in their order'] li:nth-child(1)", text: before[0]
    drag_row(before[1], to: before[0])
    assert(eventually { names.call == [before[1], before[0], *before[2..]] })
    assert_accessible "a list in order"
  end

  # Many things to choose from are chips and a list to add from.
  def test_many_to_choose_from
    9.times { |at| api(:post, "/api/methods", { name: "Post #{at}" }) }
    visit "/rules"
    fill_in("Name of a new rule", with: "Never by post").send_keys(:enter)
    assert_no_selector "[role=checkbox]", text: "Post 4"
    select "Post 4", from: "Add: Method"
    assert_button "Remove Post 4: Method"
    assert_accessible "chips"
    select "Post 7", from: "Add: Method"
    click_button "Remove Post 4: Method"
    assert_no_button "Remove Post 4: Method"
    assert_text "Post 7"
  end

  private

  def amounts = find_setup("rates", "ie-tracked")["plan"]["schedule"]["steps"].map { |step| step["amount"] }
  def price(sku) = api(:get, "/api/products?q=#{sku}")["products"].first["price"]

  def active(attribute) = page.evaluate_script("document.activeElement.getAttribute(#{attribute.to_json})")
end
