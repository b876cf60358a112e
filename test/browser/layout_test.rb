# frozen_string_literal: true

require_relative "../support/browser"

# The answer is in sight, and every section can be used at every width, by pointer and by keyboard alone.
class LayoutTest < Minitest::Test
  include BrowserSupport

  SECTIONS = %w[/ /zones /goods /goods/classes /goods/treatments /goods/boxes /goods/csv /rates /rates/classes /methods /offers
                /offers/registers /rules /rules/order /carriers /shop].freeze
  CART = "item=2*SHK-GAL-10&item=4*CLT-150&item=1*OAR-180&item=2*PNT-AF-075&item=1*TIDE-27" \
         "&to=GB&postcode=TR29+4ZZ&group=Trade&coupon=slackwater"

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  def teardown
    page.driver.resize(1280, 800)
    super
  end

  # Five lines, an address, a group and a coupon: all methods with prices and the way to the offers, without scrolling.
  def test_the_answer_is_in_sight_on_every_screen
    audited_soon
    page.driver.resize(1280, 800)
    SECTIONS.each do |path|
      visit "#{path}?#{CART}"
      within(bench) { assert_button "Why £38.00 for Pallet freight?" }
      hidden = page.evaluate_script(<<~JS)
        [...document.querySelectorAll('#bench section[aria-label="This cart gets"] li')].filter((row) => {
          const box = row.getBoundingClientRect()
          const top = document.elementFromPoint(box.left + 4, box.bottom - 3)
          return box.bottom > innerHeight || !row.contains(top)
        }).map((row) => row.textContent)
      JS
      assert_empty hidden, path
    end
    assert_equal 5, all("#bench ul[aria-label='Goods on the bench'] > li").size
  end

  # Nothing runs out of the page; what is too wide for it scrolls in itself. The foot of the page tells what the cart gets.
  def test_every_section_at_every_width
    audited_soon
    SECTIONS.each do |path|
      visit "#{path}?#{CART}"
      assert_selector "#section h1, #section table, #section ol, #section form", match: :first
      [390, 820, 1024].each do |width|
        page.driver.resize(width, 844)
        over = page.evaluate_script("[document.documentElement, document.getElementById('section')].map((one) => one.scrollWidth - one.clientWidth)")
        assert_equal [0, 0], over, "#{path} at #{width}"
        next if width >= 1024

        within(bench) { assert_selector "button[aria-expanded=false]", text: /GB TR29 4ZZ: .*free/ }
      end
    end
  end

  # A merchant asks from a phone why shipping is what it is, and goes to the setting that made it.
  def test_a_question_from_a_phone
    page.driver.resize(390, 844)
    visit "/?#{CART}"
    click_button "Board: other sections"
    within("nav[aria-label=Sections]", match: :first) { click_link "Methods" }
    assert_field "Name of Tracked"
    within(bench) do
      find("button[aria-expanded=false]", text: "GB TR29 4ZZ").click
      click_button "Why £38.00 for Pallet freight?"
      assert_selector "section[aria-label^='Why £38.00']"
    end
    assert_accessible "the bench as a sheet"
    within(bench) { click_link "go to the setting", match: :first }
    assert_current_path(%r{\A/(#|\?)}, url: false)
  end

  # Without a pointer: to the bench, one more of a line, its reckoning and back, another section, its title.
  def test_by_keyboard_alone
    visit "/?item=2*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    within(bench) { assert_button "Why £5.95 for Tracked?" }
    press("b")
    assert_focus("id", "bench-search")
    # Quicker than the server answers: what is typed is meant, not what was found before.
    press("cleat 150", :enter)
    within(bench) { assert_selector "li", text: "Horn cleat 150 mm" }
    within(bench) { assert_button "Why £5.95 for Tracked?" }
    reach("Why £5.95 for Tracked?")
    press(:enter)
    within(bench) { assert_selector "[role=dialog] section[aria-label^='Why £5.95']" }
    press(:escape)
    within(bench) { assert_no_selector "[role=dialog]" }
    assert_focus("aria-label", "Why £5.95 for Tracked?")
    press("/")
    assert_selector "[cmdk-input]"
    press("rules", :enter)
    assert_text "Rules act last"
    assert_title "Rules · Tarrow Quay Chandlery · Gate Mile"
    assert_focus("id", "section")
  end

  # Single keys can be switched off, for those who dictate.
  def test_single_keys_can_be_switched_off
    visit "/?item=2*SHK-GAL-10&to=GB"
    assert_text "This cart gets"
    press("?")
    uncheck "Single keys (/, b and ?) do something"
    press(:escape)
    assert_no_selector "[role=dialog]"
    press("/", "?", "b")
    assert_no_selector "[role=dialog]"
    assert_no_selector "[cmdk-input]"
    press([:ctrl, "k"])
    assert_selector "[cmdk-input]"
    page.execute_script("localStorage.clear()")
  end

  # What cannot be found out is not nothing: it is said, can be tried again, and the bench stands.
  def test_findings_that_cannot_be_asked_for
    audited_soon
    TURNSTILE.refuse("GET", %r{\A/api/findings}, 500)
    visit "/rules/findings?item=2*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    assert_text "The server answered with 500."
    assert_no_text "Nothing found"
    TURNSTILE.open
    within("#section") { click_button "Try again" }
    assert_text(/Nothing found|Open the setting/)
    within(bench) { assert_button "Why £5.95 for Tracked?" }
  end

  private

  def focused(attribute) = page.evaluate_script("document.activeElement?.getAttribute('#{attribute}')")

  # The focus may come a moment after the key.
  def assert_focus(attribute, value) = assert(eventually { focused(attribute) == value }, "#{value} has not got the focus")

  # Presses Tab until what is called so has the focus.
  def reach(label)
    60.times do
      return if focused("aria-label") == label

      press(:tab)
    end
    flunk "#{label} is not reached by Tab"
  end
end
