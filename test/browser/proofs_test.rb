# frozen_string_literal: true

require_relative "../support/browser"

# Proofs, walks and findings as a merchant uses them, and what goes wrong with them.
class ProofsTest < Minitest::Test
  include BrowserSupport

  CHARTS = "item=4*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"

  def setup = fresh(WHOLE_DEMO)

  def proof(name) = find("ul[aria-label=Proofs] > li", text: name)
  def bar = find("nav[aria-label=Sections]", match: :first)

  # The whole job: kept beside the bench, narrowed, changed by an edit, followed to its setting, accepted.
  def test_kept_changed_followed_and_accepted
    visit "/?#{CHARTS}"
    within(bench) { click_button "Keep this cart" }
    assert_text "Kept the cart"
    within(bar) { assert_text "12 hold" }
    fill_in "Name", with: "Shackles stay at 5.95"
    find_field("Name").send_keys(:enter)
    eventually { setup_proof["name"] == "Shackles stay at 5.95" }
    assert_text "Shackles stay at 5.95"
    # Narrowed by hand: at most, and nothing of the others.
    select "costs at most", from: "Tracked: expected"
    fill_in "Tracked: amount, £", with: "six"
    find_field("Tracked: amount, £").send_keys(:enter)
    assert_text "Write an amount like 4.50"
    fill_in "Tracked: amount, £", with: "6.00"
    find_field("Tracked: amount, £").send_keys(:enter)
    click_button "Remove Pallet freight from the expected methods"
    uncheck "and no other method"
    assert(eventually do
      setup_proof["expects"].slice("only", "methods").then do |one|
        !one["only"] && one["methods"].map { |method| method["is"] } == %w[free at_most exact]
      end
    end)
    assert_accessible "a proof in its editor"
    # An edit elsewhere changes it: the bar tells, and the page says where the two reckonings part.
    visit "/#rate=uk-next-day&field=plan"
    cell = find("[role=grid] [role=gridcell]", text: /\A9.80\z/)
    cell.click
    cell.send_keys("11", :enter)
    eventually { find_setup("rates", "uk-next-day").dig("plan", "schedule", "steps", 0, "amount").start_with?("11") }
    within(bar) { assert_text "changed" }
    within(bar) { click_link "Proofs" }
    click_button "changed:", match: :first
    within(proof("Shackles stay at 5.95")) do
      assert_text "Next day by noon should cost £9.80; costs £11.00"
      assert_text "It was: Weight 0.84 kg, in the step up to 5 kg: £9.80."
      assert_text "It is: Weight 0.84 kg, in the step up to 5 kg: £11.00."
      click_link "go to the setting"
    end
    assert_current_path(/#rate=uk-next-day/, url: true)
    page.go_back
    within(proof("Shackles stay at 5.95")) { click_button "Accept" }
    assert_text "What 1 cart gets now is right from now on"
    eventually { setup_proof["expects"]["methods"].last["amount"] == "11.00" }
    press_undo
    eventually { setup_proof["expects"]["methods"].last["amount"] == "9.80" }
  end

  # A zone is walked, one cart put on the bench, all kept in one action, and an edit is seen in them.
  def test_the_mainland_is_walked_and_kept
    visit "/proofs/walk#zone=mainland"
    assert_selector "table[aria-label='Walk of Mainland Britain'] tbody tr", minimum: 100
    row = find("tr", text: "value exactly at £40.00", match: :first)
    within(row) { assert_text "£4.50" }
    within(row) { find("button[aria-label^='Put it on the bench']").click }
    within(bench) { assert_text "Any goods" }
    assert_accessible "a walk"
    click_button "Save all", match: :first
    assert_text(/Kept \d+ carts/)
    within(bar) { assert_text(/2\d\d hold/) }
    click_button "Save all", match: :first
    assert_text(/were kept already/)
    change_next_day
    within(bar) { assert_text "changed" }
    visit "/proofs"
    click_button "changed:", match: :first
    assert_selector "ul[aria-label=Proofs] > li", minimum: 10
    find("button", text: /Accept all \d+ changes/).click
    within(bar) { assert_no_text "changed" }
    visit "/proofs/walk"
    select "an offer", from: "What to walk"
    assert_text "all that “Free from £75 on the mainland” asks for"
  end

  # Findings: one for seven zones, its cart on the bench, snoozed with all that it stands for; a mend in one press.
  def test_findings_on_one_page
    audited_soon
    api(:post, "/api/offers",
        { name: "Long ago", effect: { kind: "free" }, methods: ["tracked"], ends: "2020-01-01T00:00", threshold: { measure: "value", from: "10" } })
    visit "/findings"
    within(bar) { assert_text "to look at" }
    row = find("li", text: "7 zones")
    within(row) do
      assert_text "Red hand flare"
      click_button "Try it on the bench"
    end
    within(bench) { assert_text "Red hand flare" }
    within(bench) { assert_text "No method of this zone is available for this cart." }
    within(row) { find("button", text: "Snooze").click }
    assert_no_selector "li", text: "7 zones"
    find("button", text: "Snoozed: 1").click
    within(find("li", text: "7 zones")) { find("button", text: "Wake").click }
    assert_selector "li", text: "7 zones"
    open_fold " note"
    within(find("li", text: "“Long ago” ended")) { click_button "Switch it off" }
    assert_no_text "“Long ago” ended"
    refute(setup_now["offers"].find { |one| one["name"] == "Long ago" }["active"])
    assert_accessible "findings"
  end

  # What is refused, late or changed elsewhere: nothing that was done is lost.
  def test_trouble
    visit "/proofs"
    click_button "Islands pay more"
    TURNSTILE.refuse("PATCH", %r{/api/proofs/}, 503)
    check "and no other method"
    assert_text "1 edit not stored yet"
    TURNSTILE.open
    visit "/proofs"
    click_button "Islands pay more"
    own = Server::Records::Proof.find_by(name: "Islands pay more")
    fill_in "Note", with: "mine"
    api(:patch, "/api/proofs/#{own.id}", { note: "theirs", lock_version: own.lock_version })
    find_field("Note").send_keys(:enter)
    assert_text "There now: theirs"
    click_button "Use mine"
    eventually { own.reload.note == "mine" }
    TURNSTILE.hold("GET", %r{\A/api/proofs\z})
    visit "/proofs"
    assert_text "Pricing the saved carts"
    TURNSTILE.open
    assert_text "Islands pay more"
  end

  # A file with faults: good rows are taken, the others told by line.
  def test_a_file_of_proofs
    visit "/proofs/csv"
    fill_in "Proofs as CSV", with: "proof,goods,country,methods\nGood,2 * CHT-PASS-F,DE,TRACKED offered\nBad,charts,DE,TRACKED offered"
    assert_text "1 new, 0 changed, 0 unchanged, 1 with errors"
    assert_text "Line 3: goods: Write goods as 2 * SKU"
    click_button "Import 1 good row"
    assert_text "Imported proofs"
    within(bar) { assert_text "12 hold" }
  end

  # A shop with nothing kept, a name of a hundred signs, a phone.
  def test_empty_long_and_narrow
    audited_soon
    fresh(WHOLE_DEMO.merge("proofs" => [WHOLE_DEMO["proofs"].first.merge("name" => "Charts #{"and more " * 12}")]))
    page.driver.resize(390, 800)
    visit "/proofs"
    assert_text "Charts and more"
    assert_operator page.evaluate_script("document.documentElement.scrollWidth"), :<=, 390
    visit "/proofs/walk#zone=mainland"
    assert_text "an ordinary cart"
    assert_operator page.evaluate_script("document.documentElement.scrollWidth"), :<=, 390
    visit "/findings"
    assert_text "7 zones"
    fresh(WHOLE_DEMO.merge("proofs" => []))
    visit "/proofs"
    assert_text "Nothing is kept yet."
    assert_accessible "no proofs"
  ensure
    page.driver.resize(1280, 800)
  end

  # What a shopper pays, along each measure, for the table on the wall.
  def test_the_tariff
    visit "/rates/tariff"
    within("table[aria-label=Tariff]") { assert_text "£12.40" }
    select "by order value", from: "Along what"
    within("table[aria-label=Tariff]") { assert_text "£40.00" }
    fill_in "up to", with: "lots"
    find_field("up to").send_keys(:enter)
    assert_text "Write an amount like 4.50"
    assert_accessible "the tariff"
  end

  private

  def setup_proof = api(:get, "/api/proofs?limit=500")["proofs"].last["proof"]

  def change_next_day
    rate = find_setup("rates", "uk-next-day")
    steps = rate["plan"]["schedule"]["steps"].map { |step| step["amount"] == "9.80" ? step.merge("amount" => "11.00") : step }
    api(:patch, "/api/rates/uk-next-day",
        { plan: rate["plan"].merge("schedule" => rate["plan"]["schedule"].merge("steps" => steps)), lock_version: rate["lock_version"] })
    page.execute_script("window.dispatchEvent(new Event('visibilitychange')); document.dispatchEvent(new Event('visibilitychange'))")
  end
end
