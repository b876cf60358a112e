# frozen_string_literal: true

require "rotp"
require_relative "../support/browser"

# Several people on one shop: letting somebody in, signing in with a one-time code, undoing only one's own, ending a session.
class PeopleBrowserTest < Minitest::Test
  include BrowserSupport

  def setup
    super
    APPLICATION.quick_passwords(true)
  end

  def teardown
    Capybara.using_session(:ben) { Capybara.reset_session! }
    super
    APPLICATION.quick_passwords(false)
  end

  def as_ben(&) = Capybara.using_session(:ben, &)

  def first_account
    visit "/shop/people"
    assert_text "Nobody signs in yet"
    fill_in "Your name, as the others see it", with: "Ann Quay"
    fill_in "Email, to sign in with (nothing is sent there)", with: "ann@tarrow.example"
    fill_in "Password: at least 8 characters; a few words do well", with: "password1"
    click_button "Make the first account"
    assert_text "This is too easy to guess."
    assert_accessible "the first account"
    fill_in "Password: at least 8 characters; a few words do well", with: "lantern gravel whistle"
    click_button "Make the first account"
    within("table[aria-label=People]") { assert_text "Ann Quay" }
    assert_operator page.evaluate_script("document.querySelector('header').offsetHeight"), :<, 50, "the bar takes one line, with whoever is signed in"
  end

  def test_two_people
    first_account
    link = invited
    as_ben do
      joins(link)
      @secret = codes_on
      signs_in_with_a_code
      rename("ireland", "Eire")
    end
    undo_stands_apart
    Server::Records::Person.find_by(name: "Ben Ferry").then { |ben| refute_predicate ben, :last_owner? }
    sessions_end
  end

  def invited
    within("section[aria-label='Invite someone']") { click_button "Create a link" }
    link = find("code.select-all").text
    assert_accessible "a link that lets somebody in"
    click_button "I have it"
    assert_text "To join as an editor"
    URI(link).then { |uri| "#{uri.path}##{uri.fragment}" }
  end

  def joins(link)
    visit "/"
    assert_text "Sign in"
    assert_no_text "Tarrow"
    assert_accessible "the way in"
    visit link
    assert_text "Ann Quay lets you in as an editor"
    fill_in "Your name, as the others see it", with: "Ben Ferry"
    fill_in "Email, to sign in with (nothing is sent there)", with: "ann@tarrow.example"
    fill_in "Password: at least 8 characters; a few words do well", with: "copper umbrella forty"
    click_button "Join"
    assert_text "Another account has this email already."
    fill_in "Email, to sign in with (nothing is sent there)", with: "ben@tarrow.example"
    click_button "Join"
    assert_button "Ben Ferry: account and signing out"
    visit link
    assert_text "This link is used, or over."
  end

  # @return [String] the secret
  def codes_on
    visit "/shop/me"
    click_button "Switch codes on …"
    fill_in "Your password, once more", with: "copper umbrella"
    click_button "Show the picture to scan"
    assert_text "This is not your password."
    fill_in "Your password, once more", with: "copper umbrella forty"
    click_button "Show the picture to scan"
    assert_selector "img[alt^='The secret as a QR code']"
    secret = find("code.select-all").text.delete(" ")
    assert_accessible "one-time codes"
    fill_in "The code that it shows now", with: "000000"
    click_button "Switch codes on"
    assert_text "This is not the code that belongs to the picture."
    fill_in "The code that it shows now", with: ROTP::TOTP.new(secret).now
    click_button "Switch codes on"
    @recovery = all("ul[aria-label='Recovery codes'] code", count: 10).map(&:text)
    click_button "I have them"
    secret
  end

  def signs_in_with_a_code
    click_button "Ben Ferry: account and signing out"
    click_button "Sign out"
    fill_in "Email", with: "ben@tarrow.example"
    fill_in "Password", with: "not the password"
    click_button "Sign in"
    assert_text "The email or the password is wrong."
    fill_in "Password", with: "copper umbrella forty"
    click_button "Sign in"
    fill_in "One-time code or recovery code", with: "12"
    click_button "Sign in"
    assert_text "the code is wrong or used"
    # The one that has just switched them on is used.
    fill_in "One-time code or recovery code", with: ROTP::TOTP.new(@secret).at(Time.now + 30)
    click_button "Sign in"
    assert_selector "nav[aria-label=Sections] a", text: "Zones"
  end

  # As the page sends it, by whoever is signed in there.
  def rename(id, name)
    page.evaluate_async_script(<<~JS, id, name)
      const [id, name, done] = arguments
      fetch('/api/setup').then((one) => one.json()).then(({ zones }) => fetch(`/api/zones/${id}`, {
        method: 'PATCH', headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name, lock_version: zones.find((zone) => zone.id === id).lock_version }),
      })).then((one) => done(one.status))
    JS
    page.refresh
  end

  def zone_names = Server::Records::Zone.order(:position).pluck(:name)

  # Each undoes what is theirs; the other's only where they say that they mean it.
  def undo_stands_apart
    rename("mainland", "Britain")
    assert_button "Undo"
    as_ben do
      page.refresh
      click_button "Undo", match: :first
      assert_text "Undone: name of zone"
      assert_includes zone_names, "Britain"
      assert_includes zone_names, "Ireland"
      assert_button "Undo", disabled: true
      click_button "Changes so far"
      assert_text "· Ann Quay"
      click_button "Undo it, though it is not yours"
      click_button "Undo what Ann Quay did"
      assert_text "Undone: name of zone"
      assert(eventually { zone_names.include?("Mainland Britain") })
    end
  end

  # What is typed when a session ends is there still, and is stored as soon as its person has signed in again.
  def sessions_end
    as_ben do
      visit "/shop"
      fill_in "Shop name", with: "Tarrow Quay and Sons"
    end
    page.refresh
    within("table[aria-label=People] tr", text: "Ben Ferry") { click_button "End sessions" }
    within("table[aria-label=People] tr", text: "Ben Ferry") { assert_text "nowhere" }
    as_ben do
      click_button "Save"
      assert_text "Sign in again"
      assert_accessible "signing in again"
      fill_in "Email", with: "ben@tarrow.example"
      fill_in "Password", with: "copper umbrella forty"
      within("[role=dialog]") { click_button "Sign in" }
      fill_in "One-time code or recovery code", with: @recovery.first
      within("[role=dialog]") { click_button "Sign in" }
      assert_no_text "Sign in again"
      assert(eventually { Server::Records::Store.current.name == "Tarrow Quay and Sons" })
    end
    within("nav[aria-label='Parts of the shop']") { click_link "Audit log" }
    within("table[aria-label='Audit log']") { assert_text "used a recovery code" }
    assert_accessible "the audit log"
  end

  # A viewer looks at everything; what they try to change is refused in words, and stays as it is.
  def test_a_viewer
    first_account
    viewer = Server::Records::Person.create!(name: "Cat Mole", email: "cat@tarrow.example", role: "viewer", password: "seventeen wet anchors",
                                             made_at: Time.now)
    as_ben do
      visit "/shop/people"
      fill_in "Email", with: viewer.email
      fill_in "Password", with: "seventeen wet anchors"
      click_button "Sign in"
      assert_text "Only owners can see the other accounts"
      visit "/shop"
      fill_in "Shop name", with: "Mole’s"
      click_button "Save"
      assert_text "You may look at everything and change nothing. Ask an owner for more."
      assert_field "Shop name", with: "Mole’s"
      visit "/"
      within(bench) { assert_text "Tracked" }
    end
  end
end
