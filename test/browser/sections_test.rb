# frozen_string_literal: true

require_relative "../support/browser"

class SectionsTest < Minitest::Test
  include BrowserSupport

  def test_methods_are_edited_for_every_zone
    visit "/methods"
    find_field("Code of Air, tracked").tap do |code|
      code.fill_in(with: "tracked")
      code.send_keys(:enter)
    end
    assert_text "Another method has this code already."
    find_field("Code of Air, tracked").send_keys(:escape)
    assert_field "Code of Air, tracked", with: "AIR"
    find_field("Name of Pallet freight").tap do |name|
      name.fill_in(with: "Pallet")
      name.send_keys(:enter)
    end
    within(bench) { assert_text "Pallet" }
    click_button "Tracked everywhere"
    within(bench) { assert_text "The method is switched off." }
    fill_in("Name of a new method", with: "Tracked").send_keys(:enter)
    assert_field "Code of Tracked", with: "TRACKED-2"
    click_button "Move Pallet up"
    assert_selector "tbody tr:nth-child(4) input[value='Pallet']"
    click_button "Remove Air, tracked with 3 rates"
    assert_no_field "Name of Air, tracked"
    find("button[data-tip='Changes so far']").click
    assert_selector "ol li", text: "Removed method Air, tracked"
    assert_selector "ol li", text: "Switched method Tracked off"
    assert_accessible "the list of changes"
  end

  # Copies of the whole shop: one now, and those of the nights, each by its date.
  def test_backups
    visit "/shop"
    assert_text "The first one is made tonight"
    FileUtils.mkdir_p(Server::Nightly.folder)
    Server::Backup.write(Server::Nightly.file(Date.new(2026, 1, 5)))
    page.refresh
    within("ul[aria-label='Backups of the nights']") { assert_text(/Monday,? 5 January 2026.* MB/m) }
    [find_link("Make a backup now"), find_link("Monday, 5 January 2026")].each do |link|
      assert_equal "SQLite format 3\0", api(:get, URI(link[:href]).path)[0, 16]
    end
  ensure
    FileUtils.rm_rf(Server::Nightly.folder)
  end

  # What is typed in one tab is not lost to, and does not hide, what another tab stored.
  def test_two_tabs_and_the_shop
    visit "/shop"
    fill_in "Shop name", with: "Tarrow Quay & Daughters"
    api(:patch, "/api/store", { lock_version: 0, name: "Tarrow Pier" })
    click_button "Save"
    assert_text "name: Tarrow Pier / Tarrow Quay & Daughters"
    click_button "Use mine"
    assert_selector "nav + span a", text: "Tarrow Quay & Daughters"
    select "JPY", from: "Currency"
    click_button "Save"
    assert_text "Prices are set in GBP already."
    assert_selected "JPY", from: "Currency"
    click_button "Discard"
    select "As on the Board", from: "Order of methods at checkout"
    click_button "Save"
    assert_text "Saved"
    assert_equal "merchant", setup_now["store"]["method_order"]
  end

  def test_the_map_by_pointer_and_the_zones_by_drag
    visit "/zones#zone=ireland"
    assert_selector "svg[role=application] path", minimum: 200, wait: 20
    click_button "Home"
    map = find("svg[role=application]")
    map.send_keys(:left)
    map.send_keys(:right)
    named = find("output").text
    map.send_keys(:enter)
    name = named.split(":").first
    within(zone("Ireland")) { assert_button "Take #{name} out of Ireland" }
    drag_row("Mainland Britain", to: setup_now["zones"][2]["name"])
    assert_selector "ol[aria-label='Zones in their order'] li:nth-child(3)", text: "Mainland Britain"
    assert_equal "mainland", setup_now["zones"][2]["id"]
  end

  def test_palette_help_and_bench_by_keyboard
    visit "/"
    assert_text "This cart gets"
    press("?")
    assert_text "Find or do something"
    assert_accessible "the help"
    press(:escape)
    press([:ctrl, "k"])
    find("[cmdk-input]").send_keys("oilskin large")
    assert_selector "[cmdk-item]", text: "Oilskin jacket, large"
    find("[cmdk-input]").send_keys(:enter)
    within(bench) { assert_text "Oilskin jacket, large" }
    press([:ctrl, "k"])
    find("[cmdk-input]").send_keys("price of air north")
    find("[cmdk-input]").send_keys(:enter)
    assert_selector "#rate-america-air-plan:focus"
    press(:escape)
    click_button "Hide the bench"
    assert_no_selector "#bench"
    click_button "Show the bench"
    within(bench) { click_button "Empty" }
    within(bench) { assert_text "The bench is empty." }
    within(zone("Mainland Britain")) { assert_text "Nothing on the bench needs shipping." }
  end
end
