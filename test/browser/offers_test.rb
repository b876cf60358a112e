# frozen_string_literal: true

require_relative "../support/browser"

class OffersTest < Minitest::Test
  include BrowserSupport

  # An offer with an exclusion, built by hand; the bench crosses it in both directions, and says why not.
  def test_an_offer_with_an_exclusion
    visit "/offers"
    fill_in "Name of a new offer", with: "Free for big carts"
    click_button "Add offer"
    assert_text "Read back: Every method is free."
    choose "Cart value"
    fill_in "From (£)", with: "eighty"
    find_field("From (£)").send_keys(:enter)
    assert_text "Write an amount like 4.50"
    fill_in "From (£)", with: "80"
    find_field("From (£)").send_keys(:enter)
    within_fieldset("Methods") { choose "Only with these" }
    check "Methods: Tracked"
    open_fold "Excluded goods"
    check "Blocks: class: Heavy"
    assert_text "Read back: Tracked is free, from £80.00, not with goods of class Heavy in the cart."
    find("[role=switch][aria-label='Free for big carts on']").click
    within(bench) { assert_text "£17.60 more" }
    within(bench) { 2.times { click_button "One more: Passage chart, folded" } }
    within(bench) { assert_button "Why free for Tracked?" }
    within(bench) { click_button "One less: Passage chart, folded" }
    within(bench) { assert_text "£2.20 more" }
    add "plough anchor 6"
    within(bench) { click_button "Why is there no free shipping?" }
    within(bench) { assert_text "Free for big carts: Kept out by Plough anchor 6 kg." }
    assert_accessible "an offer in its editor"
    press_undo
    within(bench) { assert_text "Free for big carts: It is switched off." }
    assert_equal [{ "measure" => "value", "from" => "80" }, ["tracked"], { "classes" => ["heavy"] }],
                 setup_now["offers"].first.values_at("threshold", "methods", "blocking")
  end

  # Free gates stand on the strips; groups, coupons and moments are the bench's to choose; the reckoning names each offer.
  def test_the_bench_as_anybody_at_any_time
    fresh(WHOLE_DEMO)
    visit "/"
    within(zone("Mainland Britain")) { assert_selector "[role=group][aria-label*='from £75 free']" }
    open_buyer
    within(bench) { select "Trade", from: "Customer group" }
    within(zone("Mainland Britain")) { assert_no_selector "[role=group][aria-label*='from £75 free']" }
    within(bench) do
      click_button "Why £3.60 for Tracked?"
      assert_text "Offer “Trade: a fifth off” takes £0.90 off £4.50"
      select "no group", from: "Customer group"
      fill_in "Coupons", with: "slackwater, nonsense"
      assert_text "Coupon “nonsense” is not in the register."
      assert_button "Why £6.80 for Next day by noon?"
    end
    visit "/?item=2*SHK-GAL-10&to=GB&postcode=BT1+1AA&at=2027-02-13T10:00"
    within(bench) do
      click_button "Why £4.00 for Tracked?"
      assert_text "Offer “Boat show weekend, Northern Ireland” takes"
    end
    visit "/rules/order?item=2*SHK-GAL-10&to=GB&postcode=TR29+4ZZ&group=harbour+crew"
    within("#section") { assert_text(/Rules.*From top to bottom.*→ £2.97.*Harbour crew pay half/m) }
    assert_accessible "what comes first"
  end

  # A rule whose conditions contradict each other is found while it is written, and so is one that hides every method.
  def test_a_rule_with_a_contradiction
    audited_soon
    visit "/rules"
    fill_in "Name of a new rule", with: "Middle"
    click_button "Add rule"
    assert_text "Read back: Always: hide Collect from the quay."
    click_button "Condition"
    fill_in "at least", with: "100"
    find_field("at least").send_keys(:enter)
    select "less than", from: "Upper bound"
    fill_in "less than", with: "50"
    find_field("less than").send_keys(:enter)
    assert_text "When the order value is at least £100.00 and less than £50.00: hide Collect from the quay."
    find("[role=switch][aria-label='Middle on']").click
    assert_text "“Middle” can never hold: its conditions contradict each other."
    within("#section") { assert_text "Does not hold. Missing: the order value is at least £100.00 and less than £50.00 (here £62.40)." }
    fill_in "less than", with: ""
    find_field("less than").send_keys(:enter)
    fill_in "at least", with: "60"
    find_field("at least").send_keys(:enter)
    within(bench) { assert_text "Hidden by rule “Middle”." }
    find("label", text: "every method").click
    click_link "Findings: 1"
    assert_text "a cart can get no method at all, because of “Middle”."
    click_button "Try it on the bench"
    within(bench) { assert_text "No method of this zone is available for this cart." }
    assert_accessible "findings about rules"
  end

  def test_groups_of_conditions_and_what_others_change
    fresh(WHOLE_DEMO)
    visit "/rules#rule=weekend"
    within("[aria-label='Conditions: any of these']", match: :first) { assert_selector "[aria-label='Conditions: all of these']" }
    assert_text "When it is Saturday or Sunday or (it is Friday and the time is from 14:00 until 23:59): hide Next day by noon."
    api(:patch, "/api/rules/weekend", { lock_version: find_version("rules", "weekend"), then: [{ kind: "message", text: "Slow" }] })
    check "Method: Air, tracked"
    assert_text "Changed elsewhere meanwhile. There now: When it is Saturday"
    click_button "Use mine"
    assert_text "hide Next day by noon and Air, tracked."
    assert_equal([{ "kind" => "hide", "methods" => %w[next-day air] }], setup_now["rules"].find { |rule| rule["id"] == "weekend" }["then"])
    visit "/offers/registers"
    fill_in "Name of a new coupon", with: "SlackWater"
    click_button "Add coupon"
    assert_text "Another coupon has this code"
    assert_field "Name of a new coupon", with: "SlackWater"
    assert_accessible "registers"
  end

  # The milepost moves with the bench cart, and on a shop's own page on another port, under its strict policy.
  def test_the_milepost
    fresh(WHOLE_DEMO)
    visit "/offers#offer=free-75"
    milepost = -> { find("section[aria-label='Milepost on the bench cart']") }
    within(milepost.call) { assert_text "Nearly there: £12.60 more and delivery is free" }
    within(bench) { click_button "One more: Passage chart, folded" }
    within(milepost.call) { assert_selector "[aria-current=step]", text: /Once reached\s+Delivery is free/ }
    within(bench) { 2.times { click_button "One less: Passage chart, folded" } }
    within(milepost.call) { assert_selector "[aria-current=step]", text: /On the way\s+£28.00 more/ }
    fill_in "On the way", with: "{price} more"
    find_field("On the way").send_keys(:enter)
    assert_text "There is no placeholder {price}"
    fill_in "On the way", with: "Only <b>{remaining}</b> more"
    find_field("On the way").send_keys(:enter)
    within(milepost.call) { assert_selector "[aria-current=step]", text: "Only <b>£28.00</b> more" }
    on_the_shops_page
  end

  private

  # On an origin of its own, without a key: the page tells the cart as it changes.
  def on_the_shops_page
    gate = Apart.origin
    html = "<html lang='en-GB'><script src='#{gate}/embed/milepost.js'></script>" \
           "<gate-mile-milepost page='cart' cart='{\"lines\":[]}'></gate-mile-milepost></html>"
    shop = Capybara::Server.new(->(_) { [200, { "content-type" => "text/html" }, [html]] }).boot
    origin = "http://127.0.0.1:#{shop.port}"
    api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], storefront: { open: true, origins: [origin] } })
    visit "#{origin}/"
    shown = ->(moment, text) { find("gate-mile-milepost").shadow_root.find("[data-moment=#{moment}]", text: text) }
    tell = lambda do |units, **more|
      cart = { lines: [{ sku: "ROP-BRD-08", quantity: units }], **more }
      page.execute_script("document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: arguments[0] }))", cart)
    end
    shown.call("before", "Delivery to Mainland Britain is free from £75.00")
    tell.call(1)
    assert_equal "£1.20 of £75.00", shown.call("away", "Only <b>£73.80</b> more").find("progress")["aria-label"]
    tell.call(61)
    shown.call("nearly", "Nearly there: £1.80 more and delivery is free")
    tell.call(63)
    shown.call("reached", "Delivery is free")
    tell.call(63, group: "Trade")
    assert find("gate-mile-milepost[silent]", visible: :all).shadow_root.has_no_selector?("[data-moment]")
    assert_empty page.driver.cookies
  end

  def add(text)
    within(bench) { fill_in "Add goods by name or SKU …", with: text }
    find("[role=option]", match: :first).click
  end

  def find_version(list, id) = setup_now[list].find { |item| item["id"] == id }["lock_version"]
end
