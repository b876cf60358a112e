# frozen_string_literal: true

require_relative "../support/browser"

# What is done less often: tables of treatments and rates, ending a session, dragging with a finger, widths of columns, the
# map, printing, tabbing through fields without changing them, and what a screen reader is told.
class RareTest < Minitest::Test
  include BrowserSupport

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  # Nobody changes anything by walking through a form: nothing is sent, and nothing stands in the history.
  FORMS = ["/shop", "/release/door", "/release/webhooks", "/methods", "/offers/registers", "/goods/classes", "/goods/boxes", "/carriers",
           "/#rate=uk-tracked", "/rates", "/offers#offer=0", "/rules#rule=0", "/zones#zone=mainland", "/goods/treatments"].freeze

  FORMS.each do |address|
    define_method("test_passing_through_#{address.delete("^a-z")}") do
      path, part = address.split("#")
      name, value = part.to_s.split("=")
      id = value == "0" ? setup_now["#{name}s"].first["id"] : value
      api(:post, "/api/webhooks", { url: "http://127.0.0.1:9/hooks", events: Server::Records::Webhook::EVENTS }) if path.end_with?("webhooks")
      before = setup_now
      visit part ? "#{path}##{name}=#{id}" : path
      assert_selector "#section input, #section [role=combobox], #section button", minimum: 3
      page.execute_script("document.getElementById('section').focus()")
      places = Array.new(70) do
        press(:tab)
        page.evaluate_script("[document.activeElement.tagName, document.activeElement.getAttribute('aria-label'), document.activeElement.id].join(' ')")
      end
      assert_operator places.uniq.size, :>, 8, places.first(20).inspect
      sleep 0.5
      assert_equal before, setup_now
      sent = page.driver.network_traffic.map { |one| "#{one.request.method} #{URI(one.url).path}" }.grep(/\A(PATCH|PUT|DELETE) /)
      assert_empty sent
      assert_no_text(/\d+ not stored/)
    end
  end

  def test_a_table_of_rates
    csv = api(:get, "/api/rates.csv").lines
    row = csv.find { |line| line.include?("steps") && line.match?(/\d+\.\d\d/) }
    changed = [csv.first, *csv.drop(1).select { |line| line.split(",").first(2) == row.split(",").first(2) }].join.sub(/(\d+)\.(\d\d)/, '77.\2')
    visit "/rates/csv"
    fill_in "Rates as CSV", with: "#{changed}Nowhere,TRACKED,,flat,,,,,,1.00,,,\n"
    assert_text "1 changed"
    assert_text "1 with errors"
    before = setup_now["rates"]
    click_button "Import 1 good row"
    assert_text "Imported rates"
    refute_equal before, setup_now["rates"]
    click_button "Undo"
    drop = ->(rates) { rates.map { |rate| rate.except("lock_version") } }
    assert(eventually { drop.call(setup_now["rates"]) == drop.call(before) })
  end

  def test_a_table_of_treatments
    csv = api(:get, "/api/treatments.csv")
    visit "/goods/csv"
    fill_in "Treatments as CSV", with: csv
    assert_text "0 new, 0 changed"
    assert_button "Import 0 treatments", disabled: true
    name = setup_now["treatments"].first["name"]
    fill_in "Treatments as CSV", with: csv.sub(name, "#{name} again")
    assert_text "1 new"
    click_button "Import 1 treatment"
    assert_text "Imported treatments"
    assert(eventually { setup_now["treatments"].any? { |one| one["name"] == "#{name} again" } })
  end

  # One of several sessions is ended from another one: there it is asked to sign in, here nothing else changes.
  def test_ending_a_session
    said = { email: "ann@tarrow.example", password: "lantern gravel whistle" }
    api(:post, "/api/joining/first", { name: "Ann Quay", **said })
    Capybara.using_session(:elsewhere) { sign_in(**said) }
    sign_in(**said)
    visit "/shop/me"
    within("section[aria-label='Where you are signed in']") do
      assert_selector "li", count: 3
      click_button "End this session", match: :first
      assert_selector "li", count: 2
      click_button "End this session"
      assert_selector "li", count: 1
    end
    Capybara.using_session(:elsewhere) do
      visit "/"
      assert_field "Email"
      Capybara.reset_session!
    end
    visit "/"
    assert_selector "#bench"
  ensure
    Capybara.using_session(:elsewhere) { Capybara.current_session.quit }
  end

  # A finger rests on the handle, then drags (WCAG 2.2, 2.5.7 asks for a way without: the buttons and keys are in sections_test).
  def test_dragging_with_a_finger
    visit "/zones"
    names = setup_now["zones"].map { |zone| zone["name"] }
    assert_selector "button[aria-label='Drag #{names[2]}']"
    from, to = [names[0], names[2]].map { |name| middle("button[aria-label='Drag #{name}']") }
    touch("touchStart", from)
    sleep 0.3
    8.times { |at| touch("touchMove", [from[0], from[1] + ((to[1] - from[1]) * (at + 1) / 8)]) }
    sleep 0.2
    touch("touchEnd")
    assert(eventually { setup_now["zones"].map { |zone| zone["name"] }.first(3) == [names[1], names[2], names[0]] })
  end

  def test_widths_of_columns
    visit "/goods"
    width = -> { page.evaluate_script("document.querySelector(\"[data-cell='SHK-GAL-10 weight']\").getBoundingClientRect().width").round }
    sheet_cell("Catalogue", "SHK-GAL-10 weight").click
    before = width.call
    press(%i[alt shift right])
    press(%i[alt shift right])
    assert_equal before + 32, width.call
    press(%i[alt shift left])
    assert_equal before + 16, width.call
    # A truncated cell shows its text on keyboard focus too.
    sheet_cell("Catalogue", "SHK-GAL-10 sku").click
    press(:right)
    assert_no_selector "[data-tip-shown]"
    12.times { press(%i[alt shift left]) }
    press(:left)
    press(:right)
    assert_selector "[data-tip-shown]", text: "Galvanised shackle 10 mm"
    sheet_cell("Catalogue", "SHK-GAL-10 weight").click
    # With the mouse, at the edge of its head; twice pressed it is as it was.
    edge = page.evaluate_script("(({ right, top, height }) => [right - 2, top + height / 2])([...document.querySelectorAll('[role=columnheader]')]" \
                                ".find((one) => one.textContent.startsWith('Weight')).getBoundingClientRect())")
    mouse = page.driver.browser.mouse
    mouse.move(x: edge[0], y: edge[1]).down
    4.times { |at| mouse.move(x: edge[0] + (10 * (at + 1)), y: edge[1]) }
    mouse.up
    assert_in_delta before + 56, width.call, 3
    mouse.click(x: edge[0] + 40, y: edge[1], count: 2)
    assert(eventually { width.call == before })
  end

  def test_the_map
    visit "/zones"
    assert_selector "svg[role=application] path", minimum: 150
    moved = -> { page.evaluate_script("document.querySelector('svg[role=application] > g').getAttribute('transform')").scan(/-?[\d.]+/).map(&:to_f) }
    assert_equal [0, 0, 1], moved.call
    page.execute_script("document.querySelector('svg[role=application]').focus()")
    2.times { press("+") }
    across, down, scale = moved.call
    assert_in_delta 2.25, scale
    press(%i[shift right])
    assert_operator moved.call[0], :<, across - 50
    press(%i[shift up])
    assert_operator moved.call[1], :>, down
    # By hand: what was under the pointer stays under it, and the country is not taken for pressed.
    at = middle("svg[role=application]")
    before = moved.call
    mouse = page.driver.browser.mouse
    mouse.move(x: at[0], y: at[1]).down
    4.times { |step| mouse.move(x: at[0] - (20 * (step + 1)), y: at[1]) }
    mouse.up
    assert_operator moved.call[0], :<, before[0] - 40
    # The wheel scrolls the page, and zooms the map alone with Ctrl.
    wheel(at, 0)
    assert_in_delta 2.25, moved.call[2]
    wheel(at, 2)
    assert_operator moved.call[2], :>, 2.5
    assert_equal 1, page.evaluate_script("visualViewport.scale")
    click_button "World"
    assert_equal [0, 0, 1], moved.call
  end

  def test_printing
    visit "/rates"
    assert_selector "table"
    page.driver.browser.page.command("Emulation.setEmulatedMedia", media: "print")
    %w[header nav].each { |one| assert_no_selector one, text: "Board" }
    assert_selector "#section table"
    assert page.evaluate_script("document.querySelector('#section').scrollHeight <= document.querySelector('#section').clientHeight + 1")
    page.driver.browser.page.command("Emulation.setEmulatedMedia", media: "")
    assert_selector "header", text: "Board"
  end

  # Two regions are there before anything is said; faults that come together are said in one go, and once.
  def test_what_is_said_aloud
    visit "/rates/csv"
    assert_selector "p[role=alert]", visible: :all, count: 1
    page.execute_script(<<~JS)
      window.heard = []
      new MutationObserver(() => { const text = document.querySelector('p[role=alert]').textContent; if (text) window.heard.push(text) })
        .observe(document.querySelector('p[role=alert]'), { childList: true, characterData: true, subtree: true })
    JS
    fill_in "Rates as CSV", with: "#{api(:get, "/api/rates.csv").lines.first}Nowhere,TRACKED,,flat,,,,,,1.00,,,\nNoplace,TRACKED,,flat,,,,,,1.00,,,\n"
    assert_text "2 with errors"
    heard = eventually { page.evaluate_script("window.heard").then { |list| list if list.any? } }
    assert_equal 1, heard.size, heard.inspect
    assert_match(/\A2 faults\. Line 2: .* Line 3: /, heard.first)
  end

  private

  def sign_in(email:, password:)
    visit "/"
    fill_in "Email", with: email
    fill_in "Password", with: password
    click_button "Sign in"
    assert_selector "#bench"
  end

  def middle(selector)
    page.evaluate_script("(({ x, y, width, height }) => [x + width / 2, y + height / 2])(document.querySelector(#{selector.to_json}).getBoundingClientRect())")
  end

  def touch(type, at = nil)
    page.driver.browser.page.command("Input.dispatchTouchEvent", type: type, touchPoints: at ? [{ x: at[0], y: at[1] }] : [])
  end

  def wheel(at, modifiers)
    page.driver.browser.page.command("Input.dispatchMouseEvent", type: "mouseWheel", x: at[0], y: at[1], deltaX: 0, deltaY: -300, modifiers: modifiers)
    sleep 0.3
  end
end
