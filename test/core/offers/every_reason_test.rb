# frozen_string_literal: true

require_relative "../../support/core"
require "yaml"

# Each way in which an offer can stand to a cart, and each reason why it does not act, from the smallest offer and cart that
# lead to it. A cart of two ropes comes to 24.00 and 0.8 kg.
class EveryReasonTest < Minitest::Test
  include CoreSupport

  GOODS = [{ "sku" => "ROPE", "name" => "Rope", "price" => "12.00", "weight" => "0.4 kg", "class" => "small" },
           { "sku" => "ANCHOR", "name" => "Anchor", "price" => "90.00", "weight" => "9 kg", "class" => "heavy" },
           { "sku" => "BARE", "name" => "Bare", "price" => "5.00" }].freeze
  SHOP = { products: GOODS, classes: [{ "id" => "small", "name" => "Small" }, { "id" => "heavy", "name" => "Heavy" }],
           groups: [{ "id" => "trade", "name" => "Trade" }, { "id" => "crew", "name" => "Crew" }],
           coupons: [{ "id" => "keel", "code" => "KEEL" }, { "id" => "old", "code" => "OLD", "ends" => "2026-05-01T00:00" }],
           methods: [{ "id" => "m", "code" => "M", "name" => "Tracked" }, { "id" => "n", "code" => "N", "name" => "Next day" }],
           rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => { "schedule" => { "kind" => "flat", "amount" => "4.50" } } }] }.freeze
  VALUE = ->(**bounds) { { "measure" => "value" }.merge(bounds.transform_keys(&:to_s)) }

  # The offer; what else is in the cart or the shop; how it stands; why, with numbers among what belongs to it; what is
  # missing to its threshold.
  CASES = [
    [{}, {}, :acted, [], nil],
    [{ "threshold" => VALUE[from: "24"] }, {}, :acted, [], nil],
    [{ "effect" => { "kind" => "fixed", "amount" => "4.50" } }, {}, :no_gain, [], nil],
    [{ "active" => false }, {}, nil, nil, nil],
    [{ "zones" => ["all"] }, {}, :not_for_them, [[:other_zone, { zone: "UK" }]], nil],
    [{ "groups" => { "only" => ["trade"] } }, {}, :not_for_them, [[:other_group, { group: nil }]], nil],
    [{ "groups" => { "only" => ["trade"] } }, { cart: { "group" => "crew" } }, :not_for_them, [[:other_group, { group: "crew" }]], nil],
    [{ "groups" => { "except" => ["crew"] } }, { cart: { "group" => "trade" } }, :acted, [], nil],
    [{ "coupons" => ["keel"] }, {}, :not_for_them, [[:no_coupon, { coupons: ["keel"] }]], nil],
    [{ "coupons" => ["keel"] }, { cart: { "coupons" => [" keel "] } }, :acted, [], nil],
    [{ "coupons" => ["old"] }, { cart: { "coupons" => ["OLD"] } }, :not_for_them, [[:coupon_over, { coupon: "OLD", ends: "2026-05-01T00:00" }]], nil],
    [{ "promotions" => "with" }, {}, :not_for_them, [[:no_promotion, {}]], nil],
    [{ "promotions" => "without" }, { cart: { "promotions" => ["Spring sale"] } }, :not_for_them, [[:promotion, { names: ["Spring sale"] }]], nil],
    [{ "starts" => "2026-07-01T00:00" }, {}, :not_for_them, [[:early, { starts: "2026-07-01T00:00" }]], nil],
    [{ "ends" => "2026-05-01T00:00" }, {}, :not_for_them, [[:late, { ends: "2026-05-01T00:00" }]], nil],
    # The clock of the store: 10:00 UTC on 1 June is 11:00 in London; the end itself is out, the beginning is in.
    [{ "ends" => "2026-06-01T11:00" }, {}, :not_for_them, [[:late, {}]], nil],
    [{ "ends" => "2026-06-01T11:01" }, {}, :acted, [], nil],
    [{ "starts" => "2026-06-01T11:00" }, {}, :acted, [], nil],
    [{ "starts" => "2026-06-01T11:01" }, {}, :not_for_them, [[:early, {}]], nil],
    [{ "first" => 3 }, { cart: { "offer_uses" => { "o" => 3 } } }, :not_for_them, [[:used_up, { first: 3, uses: 3 }]], nil],
    [{ "first" => 3 }, { cart: { "offer_uses" => { "o" => 2 } } }, :acted, [], nil],
    [{ "blocking" => { "classes" => ["heavy"] } }, { lines: { "ROPE" => 1, "ANCHOR" => 1 } }, :blocked, [[:blocked, { names: ["Anchor"] }]], nil],
    [{ "methods" => ["n"] }, {}, :no_method, [[:no_method, {}]], nil],
    [{ "threshold" => VALUE[from: "30"] }, {}, :below, [[:below, { remaining: "6.00", here: "24.00" }]], "6.00"],
    [{ "threshold" => VALUE[from: "24.01"] }, {}, :below, [[:below, { remaining: "0.01" }]], "0.01"],
    [{ "threshold" => { "measure" => "weight", "from" => "1 kg" } }, {}, :below, [[:below, { remaining: "0.2 kg", here: "0.8 kg" }]], "0.2 kg"],
    [{ "threshold" => { "measure" => "quantity", "from" => "5" } }, {}, :below, [[:below, { remaining: 3, here: 2 }]], "3"],
    [{ "threshold" => VALUE[from: "5", below: "24"] }, {}, :over, [[:over, { here: "24.00", below: "24" }]], nil],
    [{ "threshold" => { "measure" => "weight", "from" => "1 kg" } }, { lines: { "BARE" => 1 } }, :unknown, [[:unknown, {}]], nil],
    # Two reasons at once are both told.
    [{ "groups" => { "only" => ["trade"] }, "coupons" => ["keel"] }, {}, :not_for_them, [[:other_group, {}], [:no_coupon, {}]], nil]
  ].freeze

  def test_how_each_offer_stands_and_why
    CASES.each do |offer, around, state, reasons, remaining|
      outlook = outlook_of([whole(offer)], around)
      if state.nil?
        assert(outlook.nil? || outlook.reasons.any? { |reason| reason[:code] == :off }, offer.inspect)
        next
      end
      assert_equal state, outlook.state, offer.inspect
      assert_equal reasons.map(&:first), outlook.reasons.map { |reason| reason[:code] }, offer.inspect
      reasons.zip(outlook.reasons) { |(_, numbers), reason| assert_equal numbers, told(reason.slice(*numbers.keys)), offer.inspect }
      remaining.nil? ? assert_nil(outlook.remaining, offer.inspect) : assert_equal(remaining, outlook.remaining.to_s, offer.inspect)
    end
  end

  # Of two that a cart has reached the one with the lower price acts; the other is told what it would have come to.
  def test_the_better_of_two
    offers = [whole("id" => "a", "effect" => { "kind" => "off", "amount" => "1.00" }), whole("id" => "b", "effect" => { "kind" => "percent",
                                                                                                                        "percent" => "50" })]
    beaten, acted = %w[a b].map { |id| outlook_of(offers, {}, id) }
    assert_equal [:acted, []], [acted.state, acted.reasons]
    assert_equal [:beaten, [[:beaten, "3.50"]]], [beaten.state, beaten.reasons.map { |reason| [reason[:code], reason[:price].to_s] }]
  end

  # What shoppers read follows how it stands: nothing yet, on the way, nearly there, reached, or not for them.
  def test_what_is_said_at_each_moment
    texts = %w[before away nearly reached not_for_you].to_h { |moment| [moment, "at #{moment}"] }
    milepost = { "milepost" => { "texts" => texts, "near" => "5.00" }, "threshold" => VALUE[from: "30"] }
    { { "ROPE" => 1 } => "away", { "ROPE" => 2 } => "away", { "BARE" => 5, "ROPE" => 0 } => "nearly", { "ROPE" => 3 } => "reached",
      {} => "before" }.each do |lines, moment|
      lines = lines.reject { |_, units| units.zero? }
      assert_equal moment, outlook_of([whole(milepost)], { lines: lines }).moment.to_s, lines.inspect
    end
    other = whole(milepost.merge("groups" => { "only" => ["trade"] }))
    assert_equal "not_for_you", outlook_of([other], { lines: { "ROPE" => 3 } }).moment.to_s
  end

  # Nothing is promised for more while all that the offer could make cheaper costs nothing already; another method that still costs
  # something is reason enough.
  def test_nothing_is_promised_where_nothing_is_left
    texts = { "away" => "{remaining} more and delivery is free" }
    far = whole("id" => "far", "threshold" => VALUE[from: "30"], "milepost" => { "texts" => texts })
    trade = whole("id" => "trade", "methods" => ["m"], "groups" => { "only" => ["trade"] })
    dear = { "id" => "uk-n", "zone" => "uk", "method" => "n", "plan" => { "schedule" => { "kind" => "flat", "amount" => "9.00" } } }
    said = lambda do |rates, group|
      sent = { "lines" => [{ "sku" => "ROPE", "quantity" => 1 }], "group" => group, "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } }.compact
      book(**SHOP, rates: rates, offers: [trade, far]).quote(cart(sent), at: AT).outlooks.last.then { |one| [one.state, one.moment] }
    end
    assert_equal [:below, "away"], said.call(SHOP[:rates], nil)
    assert_equal [:below, nil], said.call(SHOP[:rates], "Trade")
    assert_equal [:below, "away"], said.call([*SHOP[:rates], dear], "Trade")
  end

  # Whoever asks why is answered for each code that the contract names, except that of a share that is not known.
  def test_every_reason_is_led_to
    contract = YAML.safe_load_file(File.join(ROOT, "docs/api/openapi.yaml"))
    codes = contract.dig("components", "schemas", "Reason", "oneOf").map { |one| one.dig("properties", "code", "const") }
    led = CASES.flat_map { |_, _, _, reasons,| reasons.to_a.map { |code,| code.to_s } }
    assert_empty codes - led - %w[off beaten no_zone no_share]
  end

  private

  def whole(offer) = { "id" => "o", "name" => "Offer", "effect" => { "kind" => "free" } }.merge(offer)

  def outlook_of(offers, around, id = "o")
    lines = around.fetch(:lines, { "ROPE" => 2 }).map { |sku, units| { "sku" => sku, "quantity" => units } }
    sent = { "lines" => lines, "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } }.merge(around.fetch(:cart, {}))
    book(**SHOP, offers: offers).quote(cart(sent), at: AT).outlooks.find { |one| one.offer.id == id }
  end

  def told(value)
    case value
    when Hash then value.transform_values { |one| told(one) }
    when Array then value.map { |one| told(one) }
    when nil, Integer then value
    else value.to_s
    end
  end
end
