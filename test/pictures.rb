# frozen_string_literal: true

# Makes the pictures of docs/screenshots/ anew from the demo shop:  bundle exec ruby -Itest test/pictures.rb
require_relative "support/browser"
require_relative "support/carriers"
require_relative "support/shop"

class Pictures < Minitest::Test
  include ShopSupport
  include CarriersSupport

  MORNING = [["DNG-270", { country: "GB", postcode: "BT9 5AA" }, 19], ["LOG-A4", { country: "BR", postcode: "01310" }, 12],
             ["ANC-10", { country: "JP", postcode: "100-0001" }, 7], ["LOG-A4", { country: "GB", postcode: "TR29 4ZZ" }, 214],
             ["CHT-PASS-F", { country: "IE", postcode: "D02 X285" }, 61], ["SHK-GAL-10", { country: "FR", postcode: "29200" }, 48]].freeze

  def test_main_views
    audited_soon
    fresh(WHOLE_DEMO)
    @carriers = carriers
    rates
    policies
    live
    fresh
    edit_a_rate
    geography
    goods
    release
    turned_away
    shop
    fresh(WHOLE_DEMO)
    people
  end

  private

  # Two edits beyond what is live, and what they change for carts.
  def release
    fresh(WHOLE_DEMO)
    publish(by: "Morwenna", note: "The tariff of the spring")
    reprice("ni-tracked", "8.90")
    zone = setup_now["zones"].find { |one| one["id"] == "north-america" }
    api(:patch, "/api/zones/north-america", { active: false, lock_version: zone["lock_version"] })
    visit "/release"
    assert_text "other prices of the same kind", wait: 30
    keep "release"
  end

  # A morning's quotes, some of which got nothing.
  def turned_away
    Server::Asked.new.tap { |asked| morning(asked, GateMile::Book.compile(Server::BookDocument.read)) }.take.then { |taken| Server::AskedRows.store(taken) }
    visit "/turned-away"
    assert_text "38 carts"
    assert_selector "svg[role=img] circle", minimum: 3
    keep "turned-away"
    visit "/release/now"
    assert_text "Quotes: 361"
    keep "going-on"
  end

  # Three colleagues, one of them signed in at two places, and somebody who is still to come.
  def people
    owner = { name: "Ann Quay", email: "ann@tarrow.example", password: "lantern gravel whistle" }
    visit "/shop/people"
    { "Your name, as the others see it" => owner[:name], "Email, to sign in with (nothing is sent there)" => owner[:email],
      "Password: at least 8 characters; a few words do well" => owner[:password] }.each { |label, text| fill_in label, with: text }
    click_button "Make the first account"
    assert_selector "table[aria-label=People]"
    { "Ben Ferry" => "editor", "Cass Lowe" => "viewer" }.each do |name, role|
      Server::Records::Person.create!(name: name, email: "#{name.split.first.downcase}@tarrow.example", role: role, password: "copper umbrella forty",
                                      made_at: Time.now)
    end
    within("section[aria-label='Invite someone']") { click_button "Create a link" }
    click_button "I have it"
    visit "/shop/people"
    assert_text "Cass Lowe"
    keep "people"
  end

  # A product's page, the basket and the choice of delivery, in the stand-in shop.
  def shop
    open_shop
    visit_shop "/products/LOG-A4"
    type_into(part("estimate").find("[name=postcode]"), "TR29 4ZZ")
    assert part("estimate").has_selector?("[part=more]")
    keep "shop-product"
    fill_in "How many", with: "3"
    click_button "Put in the basket"
    visit_shop "/products/CHT-PASS-F"
    click_button "Put in the basket"
    assert find("gate-mile-milepost").shadow_root.has_text?("£")
    keep "shop-basket"
    click_link "To the checkout"
    { "Name" => "R. Pascoe", "Street" => "12 Harbour Row", "Town" => "Tarrow", "Postcode" => "TR29 4ZZ" }.each do |label, text|
      type_into(find_field(label), text)
    end
    click_button "Go on to delivery"
    part("choice").find("label", text: "Next day").click
    keep "shop-checkout"
  end

  def morning(asked, book)
    zone = Server::Records::Store.current.time_zone
    start = GateMile::LocalMoment.utc(GateMile::LocalMoment.local(Time.now, zone).strftime("%FT00:00"), zone)
    random = Random.new(8)
    MORNING.each do |sku, to, times|
      cart = GateMile::Cart.parse(JSON.parse(JSON.generate({ lines: [{ sku: sku, quantity: 1 }], destination: to })), book.currency)
      quote = book.quote(cart, at: Time.now)
      times.times { asked.note(quote, cart, 0.001 + random.rand(0.006), start + (3600 * [random.rand(13), random.rand(13)].max)) }
    end
  end

  def rates
    visit "/"
    within(bench) { assert_text "£62.40" }
    assert_selector "[aria-label^='Price line of Tracked: from £0']", match: :first
    keep "board"
    edit_steps
    visit "/rates"
    fill_in "Percent", with: "5"
    assert_selector "button", text: /Change \d+ rates/
    keep "rates"
  end

  def policies
    visit "/offers?item=4*SHK-GAL-10&item=20*ROP-BRD-08&item=2*CHT-PASS-F&to=GB&postcode=TR29+4ZZ#offer=free-75"
    within("section[aria-label='Milepost on the bench cart']") { assert_text "Nearly there: £12.60 more" }
    keep "offers"
    visit "/rules?item=4*PNT-AF-075&item=1*SHK-GAL-10&to=GB&postcode=TR29+4ZZ&street=PO+Box+7&group=Harbour+crew#rule=crew"
    assert_text "Bench cart: Holds for this cart: hides Tracked"
    page.execute_script("document.querySelector('#section').scrollTo(0, 120)")
    keep "rules"
    visit "/findings"
    assert_text "7 zones"
    keep "findings"
    visit "/proofs/walk#zone=mainland"
    assert_text "value exactly at £40.00"
    keep "walk"
    changed_proof
    page.execute_script("localStorage.clear()")
  end

  # An edit of a price that one of the proofs holds.
  def changed_proof
    rate = find_setup("rates", "uk-next-day")
    api(:get, "/api/proofs/state")
    steps = rate["plan"]["schedule"]["steps"].map { |step| step["amount"] == "9.80" ? step.merge("amount" => "10.40") : step }
    plan = rate["plan"].merge("schedule" => rate["plan"]["schedule"].merge("steps" => steps))
    api(:patch, "/api/rates/uk-next-day", { plan: plan, lock_version: rate["lock_version"] })
    visit "/proofs"
    assert_text "go to the setting"
    keep "proofs"
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
  end

  def live
    visit "/?item=8*SHK-GAL-10&to=IE"
    within(bench) do
      click_button "Why £11.33 for Carrier of the day?"
      assert_text "is used: the cheapest of 3"
    end
    assert_selector "[aria-label='Zone Ireland']", text: "sampled"
    page.execute_script("document.querySelector(\"section[aria-label='Zone Ireland']\").scrollIntoView({ block: 'start' })")
    keep "live"
  end

  def edit_steps
    visit "/?item=1*ANC-06&to=IE#rate=ie-tracked&field=plan"
    find("[aria-labelledby=along] button", text: "weight").click
    page.execute_script("document.querySelector(\"section[aria-label='Zone Ireland']\").scrollIntoView({ block: 'start' })")
    keep "rate"
  end

  def edit_a_rate
    page.execute_script("localStorage.clear()")
    visit "/"
    within(zone("Mainland Britain")) { click_button "Edit Tracked" }
    fill_in("Flat price", with: "4.50").send_keys(:enter)
    assert_text "5.95 to 4.50"
    within(zone("Mainland Britain")) do
      click_button "Edit Tracked"
      click_button "Why £4.50 for Tracked?"
    end
    keep "reckoning"
  end

  def goods
    visit "/goods?item=2*ANC-10&item=1*SHK-GAL-10&item=6*CHT-PASS-F&to=GB&postcode=TR29+4ZZ"
    find("[data-cell='TIDE-27 weight']").click
    press("25000", :enter)
    press(:up)
    assert_text "Does one unit really weigh 25000 kg?"
    page.execute_script("document.querySelector('[role=grid]').scrollLeft = 0")
    keep "goods"
    click_button "Leave them all"
  end

  def geography
    visit "/zones?to=GB&postcode=PA20+9ZZ&item=4*SHK-GAL-10&item=20*ROP-BRD-08#zone=highlands"
    assert_selector "svg[role=application] path", minimum: 200
    find("svg[role=application]").hover
    keep "zones"
  end

  def keep(name)
    page.execute_script("document.fonts.ready")
    sleep 0.4
    page.driver.save_screenshot(File.join(Server::ROOT, "docs/screenshots/#{name}.png"))
  end
end
