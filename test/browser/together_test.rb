# frozen_string_literal: true

require_relative "../support/browser"

# Two people at the same settings, cells and accounts: nobody's edit is lost, and where both touched the same place the
# second is asked.
class TogetherTest < Minitest::Test
  include BrowserSupport

  HOLDS = "Its prices hold for, in minutes"
  DAYS = "Carts of orders are kept for, in days"

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  def teardown
    Capybara.using_session(:colleague) { Capybara.current_session.quit }
    super
  end

  def colleague(&) = Capybara.using_session(:colleague, &)

  def test_settings_of_the_door
    visit "/release/door"
    assert_field HOLDS, with: "15"
    colleague do
      visit "/release/door"
      fill_in HOLDS, with: "20"
      press(:tab)
    end
    assert(eventually { door["holds_minutes"] == 20 })
    # Passing through a field that shows what stood there before changes nothing.
    find_field(HOLDS).click
    press(:tab)
    fill_in DAYS, with: "100"
    press(:tab)
    assert(eventually { door["evidence_days"] == 100 })
    assert_equal 20, door["holds_minutes"]
    assert_field HOLDS, with: "20"
    colleague do
      fill_in DAYS, with: "200"
      press(:tab)
      assert_text "There now: 100. You typed: 200."
      click_button "Use mine"
    end
    assert(eventually { door["evidence_days"] == 200 })
  end

  def test_cells_of_one_product
    sheet = "Catalogue"
    visit "/goods"
    assert_cell "Galvanised shackle 12 mm", sheet, "SHK-GAL-12 name"
    colleague do
      visit "/goods"
      type_cell(sheet, "SHK-GAL-12 weight", "0.4 kg", :enter)
    end
    assert(eventually { product["weight"] == "0.4 kg" })
    type_cell(sheet, "SHK-GAL-12 price", "7.77", :enter)
    assert(eventually { product["price"] == "7.77" })
    assert_equal "0.4 kg", product["weight"]
    colleague do
      type_cell(sheet, "SHK-GAL-12 price", "8.88", :enter)
      sheet_cell(sheet, "SHK-GAL-12 price").click
      assert_text "Changed elsewhere meanwhile."
      click_button "Use mine"
    end
    assert(eventually { product["price"] == "8.88" })
  end

  # What is on its way shows in its cell, and the page is not left without a question.
  def test_a_cell_that_is_being_stored
    sheet = "Catalogue"
    visit "/goods"
    TURNSTILE.hold("POST", %r{\A/api/products/cells\z})
    type_cell(sheet, "SHK-GAL-12 price", "7.77", :enter)
    assert(eventually { TURNSTILE.came.size == 1 })
    assert_cell(/7\.77/, sheet, "SHK-GAL-12 price")
    assert page.evaluate_script("!window.dispatchEvent(new Event('beforeunload', { cancelable: true }))"), "it may be left"
    type_cell(sheet, "SHK-GAL-12 price", "7.78", :enter)
    TURNSTILE.open
    assert(eventually { product["price"] == "7.78" })
    assert_cell(/7\.78/, sheet, "SHK-GAL-12 price")
    assert_no_text "not stored yet"
  end

  def test_two_quick_ticks_and_a_test_that_is_refused
    hook = api(:post, "/api/webhooks", { url: "http://127.0.0.1:9/hooks", events: Server::Records::Webhook::EVENTS }).dig("made", "id")
    visit "/release/webhooks"
    TURNSTILE.hold("PATCH", %r{\A/api/webhooks/})
    uncheck "a proof begins to fail"
    uncheck "a backup fails"
    assert(eventually { TURNSTILE.came.size == 1 })
    TURNSTILE.open
    left = Server::Records::Webhook::EVENTS - %w[proof.failing backup.failed]
    assert(eventually { shown("/api/webhooks/#{hook}")["events"].sort == left.sort })
    TURNSTILE.refuse("POST", %r{/test\z}, 502)
    click_button "Send a test"
    assert_button "1 edit not stored yet"
    assert_no_text "on its way"
  end

  def test_the_role_of_somebody
    api(:post, "/api/joining/first", { name: "Ann Quay", email: "ann@tarrow.example", password: "three small boats" })
    link = api(:post, "/api/invitations", { role: "editor" })["link"]
    clear_cookies
    ben = api(:post, "/api/joining", { link: link, name: "Ben Ferry", email: "ben@tarrow.example", password: "four small boats" }).dig("person", "id")
    clear_cookies
    api(:post, "/api/session", { email: "ann@tarrow.example", password: "three small boats" })
    visit "/shop/people"
    fill_in "Email", with: "ann@tarrow.example"
    fill_in "Password", with: "three small boats"
    click_button "Sign in"
    assert_selected "Editor", from: "Role of Ben Ferry"
    edit_beside("/api/people/#{ben}", { role: "viewer" })
    select "Owner", from: "Role of Ben Ferry"
    assert_text "Role of Ben Ferry: changed elsewhere meanwhile."
    click_button "Keep what is there"
    assert_selected "Viewer", from: "Role of Ben Ferry"
    assert_equal "viewer", shown("/api/people/#{ben}")["role"]
  end

  private

  def door = api(:get, "/api/door")
  def product = api(:get, "/api/products?q=SHK-GAL-12")["products"].find { |one| one["sku"] == "SHK-GAL-12" }
end
