# frozen_string_literal: true

require "tmpdir"
require_relative "../support/browser"

# Files and lists in trouble: another tab's edit, a server that is busy, a narrow screen. Nothing is lost.
class TroubleTest < Minitest::Test
  include BrowserSupport

  def setup
    super
    fresh(ServerSupport::WHOLE_DEMO)
  end

  def teardown
    page.driver.resize(1280, 800)
    super
  end

  # An edit from another tab, between looking and taking over: it is shown among what would change, and only then done.
  def test_an_edit_of_another_tab_before_an_import
    visit "/shop"
    choose_file { |book| book["methods"].first["name"] = "By the pier" }
    within(book_file) do
      assert_button "Put it in the place of what is there"
      assert_no_selector "tr", text: /\Arates/
    end
    api(:patch, "/api/rates/uk-tracked", { lock_version: 0, name: "Another tab" })
    within(book_file) do
      click_button "Put it in the place of what is there"
      assert_text "Something was changed in the meantime. Look at what would come and go now."
      assert_selector "tr", text: /\Arates\s+–\s+–\s+1\z/
      assert_accessible "an import that has to be looked at again"
    end
    assert_equal "Another tab", find_setup("rates", "uk-tracked")["name"]
    within(book_file) { click_button "Put it in the place of what is there" }
    assert_text "The setup is taken over from the file"
    assert_equal "By the pier", setup_now["methods"].first["name"]
    assert_nil find_setup("rates", "uk-tracked")["name"]
    click_button "Undo", match: :first
    assert_text "Undone", wait: 5
    assert_equal "Another tab", find_setup("rates", "uk-tracked")["name"]
  end

  # While goods are being stored an import is refused in words, and the file is still chosen.
  def test_a_busy_server_keeps_what_was_chosen
    visit "/shop"
    choose_file { |book| book["store"]["name"] = "Elsewhere" }
    within(book_file) { assert_selector "tr", text: /\Athe shop itself/ }
    storing do
      within(book_file) do
        click_button "Put it in the place of what is there"
        assert_text "A file of goods is being stored. Try again in a moment."
        assert_button "Put it in the place of what is there"
      end
    end
    within(book_file) { click_button "Put it in the place of what is there" }
    assert_link "Elsewhere"
  end

  # Cancelling leaves nothing behind, and the same file can be chosen again.
  def test_cancelling_and_choosing_again
    visit "/shop"
    path = choose_file { |book| book["store"]["name"] = "Elsewhere" }
    within(book_file) { click_button "Cancel" }
    within(book_file) { assert_no_text "the shop itself" }
    attach_file "Import a setup …", path, make_visible: true
    within(book_file) { assert_text "the shop itself" }
    assert_nil setup_now["history"]["undo"]
  end

  # On a phone nothing runs out of the screen: a file about to be imported, its faults, and a list with doubts.
  def test_on_a_phone
    page.driver.resize(390, 844)
    visit "/shop"
    choose_file { |book| book["offers"].each { |offer| offer["name"] = "An offer with a name that is rather long, #{offer["id"]}" } }
    within(book_file) { assert_selector "tr", text: /\Aoffers/ }
    assert_fits "a file about to be imported"
    choose_file { |book| book["zones"].each { |zone| zone["areas"].each { |area| area["country"] = "XX" } } }
    within(book_file) { assert_text "/zones/0/areas/0/country" }
    assert_fits "faults of a file"
    visit "/zones#zone=highlands"
    within(zone("Highlands & Islands")) do
      find("button[aria-expanded]", text: "United Kingdom").click
      fill_in "Only these postcodes", with: "IV, PA20-PA49, JE, KW"
      assert_text "“PA20-PA49” matches nothing"
    end
    assert_fits "doubts of a list"
  end

  # A section falls over: the bench beside it goes on, and so does everything else.
  def test_a_section_that_falls_over
    visit "/"
    TURNSTILE.confuse("GET", %r{\A/api/class-prices}, '{"rows": null}')
    visit_within "/rates/classes"
    assert_text "This section cannot be shown"
    within(bench) { assert_button "Why £4.50 for Tracked?" }
    assert_accessible "a section that fell over"
    find_field("Add goods by name or SKU").fill_in(with: "shackle 1")
    assert_selector "[role=option]", minimum: 2
    press(:escape)
    click_link "Methods"
    assert_field "Name of Tracked"
    TURNSTILE.open
    click_link "Rates"
    click_link "By class"
    assert_no_text "This section cannot be shown"
  end

  # The list of changes says what each of them did to the cart on the bench.
  def test_what_each_change_did_to_the_bench_cart
    fresh
    visit "/?item=4*SHK-GAL-10&to=IE#rate=ie-tracked&field=plan"
    within(bench) { assert_button "Why £12.90 for Tracked?" }
    fill_in("Flat price", with: "11.20").send_keys(:enter)
    assert(eventually { find_setup("rates", "ie-tracked")["plan"]["schedule"]["amount"] == "11.20" })
    click_button "Changes so far"
    within("[role=dialog]") do
      assert_selector "li", text: /Tracked: £12.90 → £11.20/
      assert_accessible "the list of changes"
    end
    press(:escape)
    within(bench) { select "Japan", from: "To" }
    click_button "Changes so far"
    within("[role=dialog]") { assert_text "No price of the bench cart changed." }
  end

  private

  def book_file = find("section[aria-labelledby]", text: "The setup as a file")

  def choose_file
    book = api(:get, "/api/setup/export")
    yield book
    path = File.join(Dir.mktmpdir, "setup.json").tap { |name| File.write(name, JSON.generate(book)) }
    attach_file "Import a setup …", path, make_visible: true
    path
  end

  def assert_fits(what)
    wide = page.evaluate_script("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    assert_equal 0, wide, "#{what} runs out of the screen"
  end
end
