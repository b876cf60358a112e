# frozen_string_literal: true

require_relative "../support/browser"

# Every fact that a condition can be about, everything that a rule does or an offer gives, and every kind of price: chosen,
# filled in, read back as a sentence, and stored as the contract has it.
class EditorsTest < Minitest::Test
  include BrowserSupport

  # What is done in the editor of a condition, what is stored, and how it reads.
  FACTS = {
    "order value" => [-> { type "at least", "20" }, { "fact" => "value", "from" => "20" }, "the order value is at least £20.00"],
    "weight" => [lambda {
      select "more than", from: "Lower bound"
      type "more than", "60 kg"
      type "at most", "90 kg"
    }, { "fact" => "weight", "over" => "60 kg", "up_to" => "90 kg" }, "the weight is more than 60 kg and at most 90 kg"],
    "quantity" => [lambda {
      type "at least", "3"
      select "less than", from: "Upper bound"
      type "less than", "10"
    }, { "fact" => "quantity", "from" => "3", "below" => "10" }, "the quantity is at least 3 units and less than 10 units"],
    "longest side" => [-> { type "at least", "2 m" }, { "fact" => "longest", "from" => "2 m" }, "the longest side is at least 2 m"],
    "class" => [-> { check "class: Heavy" }, { "fact" => "class", "of" => ["heavy"], "lines" => "any" }, "something in the cart is of class Heavy"],
    "tag" => [-> { list "Tags", "boat, show" }, { "fact" => "tag", "of" => %w[boat show], "lines" => "any" },
              "something in the cart has the tag boat or show"],
    "product" => [lambda {
      list "SKUs", "OAR-180"
      select "every line that ships", from: "Any line or every line"
    }, { "fact" => "product", "of" => ["OAR-180"], "lines" => "every" }, "everything that ships is OAR-180"],
    "hazard mark" => [-> {}, { "fact" => "hazard", "lines" => "any" }, "something in the cart bears the hazard mark"],
    "zone" => [lambda {
      check "zone: Ireland"
      check "zone: Near Europe"
    }, { "fact" => "zone", "of" => %w[ireland near-europe] }, "it goes to Ireland or Near Europe"],
    "country" => [lambda {
      add "Country", "United States"
      add "Country", "Norway"
    }, { "fact" => "country", "of" => %w[US NO], "address" => "delivery" }, "the delivery address is in the United States or Norway"],
    "region" => [lambda {
      select "Canada", from: "Country"
      add "Region", "Yukon"
    }, { "fact" => "region", "country" => "CA", "of" => ["YT"], "address" => "delivery" }, "the delivery address is in region YT of Canada"],
    "postcode" => [lambda {
      list "Postcodes", "IV, PA20 to PA49"
      select "billing address", from: "Which address"
    }, { "fact" => "postcode", "country" => "GB", "of" => ["IV", "PA20 to PA49"], "address" => "billing" },
                   "the postcode of the billing address is in IV or PA20 to PA49"],
    "PO box" => [-> { select "billing address", from: "Which address" }, { "fact" => "po_box", "address" => "billing" }, "the billing address is a PO box"],
    "customer group" => [-> { check "customer group: Trade" }, { "fact" => "group", "of" => ["trade"] }, "the customer is of Trade"],
    "coupon" => [-> { check "coupon: SLACKWATER" }, { "fact" => "coupon", "of" => ["slack-water"] }, "coupon SLACKWATER is in the cart"],
    "day of the week" => [lambda {
      check "day of the week: Saturday"
      check "day of the week: Sunday"
    }, { "fact" => "weekday", "of" => [6, 7] }, "it is Saturday or Sunday"],
    "time of day" => [lambda {
      type "from", "18:00"
      type "until just before", "06:00"
    }, { "fact" => "time", "from" => "18:00", "until" => "06:00" }, "the time is from 18:00 until 06:00"],
    "date" => [lambda {
      type "from", "2026-12-01"
      type "to the end of", "2026-12-24"
    }, { "fact" => "date", "first" => "2026-12-01", "last" => "2026-12-24" }, "the date is from 2026-12-01 to 2026-12-24"]
  }.freeze

  # What a rule does, beginning with every method.
  ACTIONS = {
    "hide" => [-> {}, { "kind" => "hide" }, "hide every method"],
    "offer only" => [-> { check "Method: Pallet freight" }, { "kind" => "only", "methods" => %w[collect pallet] },
                     "offer only Collect from the quay and Pallet freight"],
    "rename" => [-> { type "New name", "To the pier" }, { "kind" => "rename", "text" => "To the pier" }, "call every method “To the pier”"],
    "set the price of" => [-> { type "Amount", "8.00" }, { "kind" => "price", "amount" => "8.00" }, "let every method cost £8.00"],
    "add to" => [lambda {
      select "%", from: "In money or percent"
      type "Percent", "7.5"
    }, { "kind" => "add", "percent" => "7.5" }, "add 7.5 % to every method"],
    "take off" => [-> { type "Amount", "1.50" }, { "kind" => "off", "amount" => "1.50" }, "take £1.50 off every method"],
    "not less than, for" => [-> { type "Amount", "3" }, { "kind" => "floor", "amount" => "3.00" }, "let every method cost at least £3.00"],
    "not more than, for" => [-> { type "Amount", "30" }, { "kind" => "cap", "amount" => "30.00" }, "let every method cost at most £30.00"],
    "a message with" => [-> { type "Message", "Mind the tide" }, { "kind" => "message", "text" => "Mind the tide" }, "say “Mind the tide” with every method"]
  }.freeze

  EFFECTS = {
    "Free" => [-> {}, { "kind" => "free" }, "is free"],
    "Fixed price" => [-> { type "Price (£)", "2.50" }, { "kind" => "fixed", "amount" => "2.50" }, "costs £2.50"],
    "Amount off" => [lambda {
      type "Amount off (£)", "4"
      type "Up to (£)", "3"
    }, { "kind" => "off", "amount" => "4.00", "most" => "3.00" }, "costs £4.00 less (up to £3.00 off)"],
    "Percentage off" => [-> { type "Percentage off (%)", "12.5" }, { "kind" => "percent", "percent" => "12.5" }, "costs 12.5 % less"]
  }.freeze

  def test_a_condition_on_every_fact
    rule = api(:post, "/api/rules", { name: "Any fact", when: { "all" => [{ "fact" => "value", "from" => "1" }] }, then: [{ "kind" => "message",
                                                                                                                            "text" => "Hello" }] })
    visit "/rules#rule=#{rule["id"]}"
    ["Read back:", "Bench cart:"].each { |text| assert_text text }
    FACTS.each do |label, (act, wanted, sentence)|
      select label, from: "Fact" unless label == "order value"
      instance_exec(&act)
      assert_equal wanted, stored("rules", rule["id"], wanted) { |doc| doc["when"]["all"].first }, label
      assert_text "When #{sentence}:"
    end
    assert_no_text "not stored yet"
    assert_accessible "a condition"
  end

  def test_everything_that_a_rule_does
    rule = api(:post, "/api/rules", { name: "All acts", when: { "all" => [] }, then: [{ "kind" => "message", "text" => "Hello" }] })
    visit "/rules#rule=#{rule["id"]}"
    ["Read back:", "Bench cart:"].each { |text| assert_text text }
    ACTIONS.each do |label, (act, wanted, sentence)|
      select label, from: "What it does"
      # What was chosen for one kind of action goes with it to the next: all methods again.
      check "every method" if wanted["kind"] == "rename"
      instance_exec(&act)
      assert_equal wanted, stored("rules", rule["id"], wanted) { |doc| doc["then"].first }, label
      assert_text "Always: #{sentence}."
    end
  end

  def test_everything_that_an_offer_gives
    offer = setup_now["offers"].first
    visit "/offers#offer=#{offer["id"]}"
    assert_text "Read back:"
    EFFECTS.each do |label, (act, wanted, sentence)|
      choose label
      fill_in("Up to (£)", with: "").send_keys(:enter) unless wanted.key?("most")
      instance_exec(&act)
      assert_equal wanted, stored("offers", offer["id"], wanted) { |doc| doc["effect"] }, label
      assert_text "Tracked to Mainland Britain #{sentence}, from £"
    end
  end

  # A flat price becomes each other kind and keeps its amount where that has one.
  def test_every_kind_of_price
    plan = { "schedule" => { "kind" => "flat", "amount" => "6.00" } }
    rate = find_setup("rates", "ie-tracked")
    api(:patch, "/api/rates/ie-tracked", { lock_version: rate["lock_version"], plan: plan })
    visit "/#rate=ie-tracked&field=plan"
    click_button "Price it by weight, value, class …"
    select "in steps", from: "Price: kind of price"
    wanted = { "kind" => "steps", "measure" => "weight", "edges" => "up_to", "steps" => [{ "at" => "0 kg", "amount" => "6.00" }] }
    assert_equal(wanted, stored("rates", "ie-tracked", wanted) { |doc| doc["plan"]["schedule"] })
    select "in a grid", from: "Price: kind of price"
    assert_equal("grid", stored("rates", "ie-tracked", "grid") { |doc| doc["plan"]["schedule"]["kind"] })
    assert_equal([["6.00"]], find_setup("rates", "ie-tracked")["plan"]["schedule"]["cells"])
    select "first unit and each more", from: "Price: kind of price"
    fill_in("Price: each more, £", with: "1.25").send_keys(:enter)
    wanted = { "kind" => "first", "first" => "6.00", "additional" => "1.25" }
    assert_equal(wanted, stored("rates", "ie-tracked", wanted) { |doc| doc["plan"]["schedule"] })
    assert_text "£6.00 for the first unit, £1.25 for each more"
    select "one amount", from: "Price: kind of price"
    wanted = { "kind" => "flat", "amount" => "6.00" }
    assert_equal(wanted, stored("rates", "ie-tracked", wanted) { |doc| doc["plan"]["schedule"] })
    assert_no_text "not stored yet"
  end

  def setup = fresh(WHOLE_DEMO)

  private

  # Editors hold their text until it is left or sent.
  def type(label, text) = find_field(label, match: :first).set(text).send_keys(:enter)

  def list(label, text)
    type(label, text)
    assert_no_selector "[aria-invalid=true]"
  end

  def add(label, name)
    control("combobox", "Add: #{label}").click
    page.document.find("[cmdk-input]").send_keys(name)
    page.document.find("[role=option]", text: /\A#{Regexp.escape(name)}\z/).click
  end

  # @return [Object] what the block finds in the stored thing, as soon as it is what is wanted; else what is there
  def stored(list, id, wanted)
    eventually { (yield find_setup(list, id)).then { |found| found if found == wanted } } || (yield find_setup(list, id))
  end
end
