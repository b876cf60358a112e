# frozen_string_literal: true

require_relative "../support/browser"

# What the interface asks the server for: little after an edit, and next to nothing when one comes back to the page.
class RequestsTest < Minitest::Test
  include BrowserSupport

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  # @return [Array<String>] "GET /api/setup" of everything that was asked meanwhile, and of nothing before
  def asked
    sleep 1.5
    list = -> { page.driver.network_traffic.map { |one| "#{one.request.method} #{URI(one.url).path}" }.grep(%r{ /api/}) }
    before = list.call.size
    yield
    sleep 2
    list.call.drop(before)
  end

  def test_an_edit_asks_for_little
    visit "/#rate=iom-pallet&field=plan"
    assert_field "Flat price", with: "96.00"
    find_field("Flat price").set("97.00")
    seen = asked do
      press(:tab)
      assert(eventually { find_setup("rates", "iom-pallet").dig("plan", "schedule", "amount") == "97.00" })
    end
    # Each once, and nothing of what stood there in between.
    assert_equal ["PATCH /api/rates/iom-pallet", "GET /api/setup/since", "POST /api/several"], seen
  end

  # On coming back one small question is asked, and only where the answer is another one more.
  def test_coming_back_to_the_page
    visit "/release/door"
    assert_text "What a quote promises"
    back = -> { page.execute_script("window.dispatchEvent(new Event('visibilitychange'))") }
    assert_equal(["GET /api/revision"], asked { back.call })
    key = api(:post, "/api/keys", { name: "Till", calls: %w[quotes] })
    refute_nil key
    seen = asked { back.call }
    assert_includes seen, "GET /api/keys"
    assert_text "Till"
    assert_equal(["GET /api/revision"], asked { back.call })
    item = find_setup("rates", "iom-pallet")
    api(:patch, "/api/rates/iom-pallet", { name: "By sea", lock_version: item["lock_version"] })
    assert_includes asked { back.call }, "GET /api/setup/since"
  end
end
