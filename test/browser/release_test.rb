# frozen_string_literal: true

require_relative "../support/browser"
require_relative "../support/checkout"
require_relative "../support/raw_carrier"

# Going live: publishing, what it changes for carts, a key, an order and why it paid what it paid.
class ReleaseTest < Minitest::Test
  include CheckoutSupport
  include BrowserSupport

  def setup = fresh(WHOLE_DEMO)

  def publish_now(note = nil)
    fill_in "Note (internal)", with: note if note
    click_button "Publish now"
  end

  # The whole way: publish, ask with a key, change a rate, see what that changes for carts, plan it, publish it, go back, and see why an order paid what
  # it paid.
  def test_from_the_first_release_to_an_order
    visit "/release"
    assert_text "Nothing is published yet"
    fill_in "Your name", with: "Ann"
    publish_now "The first"
    assert_text "Release 1 is live, and the draft is the same."
    assert_selector "nav[aria-label=Sections] a", text: "1 is live"
    @key = key_through_the_page
    quote = quoted
    assert_equal [1, "5.95"], [quote["release"], price(quote)]
    raise_tracked
    within("nav[aria-label=Sections]") { click_link "Release" }
    assert_text "1 edit since release 1"
    within("table[aria-label='What changes for carts']") { assert_text(/£4\.50.*£6\.95/m) }
    assert_equal "5.95", price(quoted), "the draft is nobody's price"
    planned_despite_proofs
    assert_equal([1, "5.95"], quoted.then { |one| [one["release"], price(one)] }, "its moment has not come")
    placed = ask(:post, "orders", { order: "1042", quote: quote["quote"], method: "TRACKED" })
    assert_equal "5.95", placed["price"], "as promised"
    later(7200) do
      assert_equal([2, "6.95"], quoted.then { |one| [one["release"], price(one)] })
      page.refresh
      assert_text "Release 2 is live"
      on_the_bench
      go_back
      assert_equal([1, "5.95"], quoted.then { |one| [one["release"], price(one)] })
      why_it_paid
    end
  end

  # What is planned can be taken back; a moment that is over is refused at its field.
  def test_planned_and_withdrawn
    publish
    reprice("ie-tracked", "13.00")
    api(:post, "/api/proofs/accept", { like: { state: "changed" } })
    visit "/release"
    # What is priced above it moves the form once more.
    assert_selector "section[aria-label='What changes for carts']"
    assert_no_text "Pricing carts in both", wait: 20
    choose "At a set time"
    assert_button "Plan it", disabled: true
    moment("2020-01-01T00:00")
    click_button "Plan it"
    assert_text "This moment is over"
    moment("2999-01-01T00:00")
    click_button "Plan it"
    assert_text "Release 2 goes live"
    assert_equal 1, releases.number
    click_button "Withdraw"
    assert_no_text "Release 2 goes live"
    visit "/release/history"
    within("table[aria-label='All releases']") { assert_text "never" }
    assert_accessible "All releases"
  end

  # Keys: what is wrong stands at its field; a key for pages names them; revoking asks once more.
  def test_keys
    visit "/release/door"
    assert_text "nobody can ask"
    click_button "Make a key"
    click_button "Make the key"
    assert_text "Fill this in."
    fill_in "Internal name", with: "Product pages"
    page.document.find("label", text: "in the shop’s pages").click
    click_button "Make the key"
    assert_text "Name at least one shop that may ask"
    fill_in "Origins of those pages", with: "https://shop.example"
    click_button "Make the key"
    assert_text "it is not shown again"
    shown = find("code.select-all").text
    assert shown.start_with?("gmp_")
    click_button "I have it"
    assert_no_text shown
    within("table[aria-label=Keys]") { assert_text "https://shop.example" }
    click_button "Rotate"
    assert_text "it is not shown again"
    assert_text(/ends /)
    within("table[aria-label=Keys]") { click_button "Revoke", match: :first }
    click_button "Revoke it: who uses it is refused at once"
    assert_text "revoked"
    assert_accessible "The checkout door"
  end

  # What the door promises is stored as it is left, and what does not fit stands at its field.
  def test_promises_of_the_door
    visit "/release/door"
    fill_in "Its prices hold for, in minutes", with: "soon"
    press(:tab)
    assert_text "Write a whole number."
    fill_in "Its prices hold for, in minutes", with: "20"
    press(:tab)
    select "by Standard, 20 %", from: "Tax in a price"
    assert(eventually { api(:get, "/api/door").then { |one| one["holds_minutes"] == 20 && one["tax_class"] == "standard" } })
  end

  # The reference is drawn from the contract, with nothing from elsewhere.
  def test_the_reference
    visit "/release/door"
    click_link "API reference"
    assert_text "Ask for a quote when the address is known"
    assert_text "/checkout/v1/orders/{number}"
    hosts = page.driver.network_traffic.filter_map { |one| URI(one.url).host unless one.url.start_with?("data:", "blob:") }.uniq
    assert_equal [URI(page.current_url).host], hosts
    click_link "Checkout door"
    assert_text "What a quote promises"
  end

  # Who is told of what: the secret is told once, a test is sent and seen to arrive, what failed is sent again.
  def test_webhooks
    answers = ["500 Oops"]
    shop = RawCarrier.new { |socket, _| socket.write(RawCarrier.response("", status: answers.shift || "204 No Content")) }
    visit "/release/webhooks"
    assert_text "No webhooks yet."
    click_button "Add a webhook"
    fill_in "Address", with: "shop.example/hooks"
    click_button "Add it"
    assert_text "Write it as https://shop.example/hooks."
    fill_in "Address", with: "#{shop.origin}/hooks"
    click_button "Add it"
    assert find("code.select-all").text.start_with?("whsec_")
    focus = -> { page.evaluate_script("document.activeElement.textContent") }
    assert_equal "Copy", focus.call
    press(:tab)
    press(:enter)
    assert_equal "Add a webhook", focus.call
    press(:enter)
    click_button "Cancel"
    assert_equal "Add a webhook", focus.call
    click_button "Send a test"
    assert_text "on its way"
    APPLICATION.round(0)
    within("table[aria-label='Messages sent']") { assert_text "refused with 500" }
    APPLICATION.round(10)
    within("table[aria-label='Messages sent']") do
      assert_text "delivered at the 2. try"
      click_button "Send again"
      assert_text "on its way"
    end
    APPLICATION.round(20)
    assert_no_text "on its way"
    assert_equal 3, shop.asked.size
    assert_accessible "Webhooks"
  ensure
    shop&.stop
  end

  def test_on_a_phone_and_with_nothing
    page.driver.resize(390, 844)
    %w[/release /release/history /release/door /release/webhooks].each do |path|
      visit path
      assert_selector "h1", text: "Release"
      assert_no_text "Opening"
      assert_operator page.evaluate_script("document.documentElement.scrollWidth"), :<=, 390, path
    end
    visit "/orders"
    assert_text "No order has come in yet."
    assert_accessible "No orders"
  ensure
    page.driver.resize(1280, 800)
  end

  private

  def moment(text)
    page.execute_script("const f = document.querySelector('input[type=datetime-local]'); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')" \
                        ".set.call(f, arguments[0]); f.dispatchEvent(new Event('input', { bubbles: true }))", text)
  end

  def key_through_the_page
    click_link "Checkout door"
    click_button "Make a key"
    fill_in "Internal name", with: "The shop"
    click_button "Make the key"
    key = find("code.select-all").text
    click_button "I have it"
    key
  end

  def raise_tracked
    reprice("uk-tracked", "6.95")
    page.refresh
  end

  # For an hour from now, by the shop's clock.
  def planned_despite_proofs
    choose "At a set time"
    moment(GateMile::LocalMoment.local(Time.now + 3600, "Europe/London").strftime("%Y-%m-%dT%H:%M"))
    click_button "Plan it"
    assert_text "These proofs do not hold"
    fill_in "Reason to publish anyway", with: "The new tariff"
    click_button "Plan it"
    assert_text "Release 2 goes live"
  end

  # What the bench cart gets by another release.
  def on_the_bench
    click_link "All releases"
    within("tr", text: /\A1/) { click_button "On the bench" }
    within(bench) do
      assert_text "As release 1 sells it."
      click_button "Back to the draft"
      assert_no_text "sells it"
    end
  end

  def go_back
    click_button "Go back to 1"
    assert_text "Release 1 is live again"
    assert_selector "tr", text: /\A1 live/
  end

  def why_it_paid
    click_link "Orders", match: :first
    fill_in "Order number begins with", with: "10"
    click_button "1042"
    within("section[aria-label^='Why order 1042']") do
      assert_text "Order 1042 paid £5.95 for Tracked, because"
      assert_text "release 1"
    end
    assert_accessible "An order's reckoning"
  end
end
