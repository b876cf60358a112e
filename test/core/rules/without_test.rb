# frozen_string_literal: true

require_relative "../../support/policies"
require_relative "../../support/plans"

# Offers, rules, treatments and plans without what goes: against the same taken out of their documents by hand.
class WithoutTest < Minitest::Test
  include PoliciesSupport

  KINDS = { "zone" => :zones, "method" => :methods_in_order, "class" => :classes }.freeze
  LISTS = { "zone" => "zones", "method" => "methods", "coupon" => "coupons" }.freeze
  GBP = GateMile::Currency["GBP"]

  def test_rules_without_what_goes
    random = Random.new(81)
    seen = Hash.new(0)
    120.times do
      shop = GateMile::Book.compile(shop(random, offers: 0, rules: 8))
      gone(shop).each do |kind, id|
        shop.rules.each do |rule|
          wanted = rule_by_hand(written(rule), kind, id)
          left = rule.without(kind, id)
          same = wanted == (left && written(left))
          assert same, JSON.generate([kind, id, written(rule)])
          seen[left.nil? ? :gone : [left.active == rule.active, left == rule]] += 1
        end
      end
    end
    [:gone, [true, true], [true, false], [false, false]].each { |what| assert_operator seen[what], :>, 5, what.inspect }
  end

  def test_offers_without_what_goes
    random = Random.new(82)
    off = same = 0
    120.times do
      shop = GateMile::Book.compile(shop(random, offers: 8, rules: 0))
      gone(shop).each do |kind, id|
        shop.offers.each do |offer|
          left = offer.without(kind, id)
          assert_equal offer_by_hand(written(offer), kind, id), written(left), JSON.generate([kind, id, written(offer)])
          off += 1 if offer.active && !left.active
          same += 1 if left == offer
        end
      end
    end
    assert_operator off, :>, 20
    assert_operator same, :>, 200
  end

  # One that was limited to what goes is off; what it says of other methods stays.
  def test_treatments_without_a_zone_or_a_method
    treatment = lambda do |**fields|
      document = { "id" => "t", "name" => "T", **fields.transform_keys(&:to_s) }
      GateMile::Documents.parse(GateMile::Treatment, document, GBP)
    end
    told = lambda do |one, kind, id|
      left = one.without(kind, id)
      [left.active, left.zones, left.method_ids, left.only, left.never]
    end
    assert_equal [false, nil, nil, nil, []], told.call(treatment.call(zones: ["z"]), "zone", "z")
    assert_equal [true, ["y"], nil, nil, []], told.call(treatment.call(zones: %w[z y]), "zone", "z")
    assert_equal [true, ["z"], nil, nil, []], told.call(treatment.call(zones: ["z"]), "method", "z"), "ids are of one kind"
    assert_equal [true, nil, nil, ["b"], ["c"]], told.call(treatment.call(travel: { "only" => %w[a b], "never" => %w[a c] }), "method", "a")
    apart = { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "2.00" },
              "by_method" => [{ "method" => "a", "charge" => { "kind" => "unit", "amount" => "9.00" } }] }
    priced = treatment.call(price: apart)
    assert_equal([900, 200], [priced, priced.without("method", "a")].map { |one| one.price.charge_for("a").price(1).minor })
    assert_equal 300, treatment.call(price: { "kind" => "along", "plus" => "3.00" }).without("method", "a").price.plus.minor
  end

  def test_plans_without_a_class_or_a_box
    tool = Class.new { include PlansSupport }.new
    random = Random.new(83)
    taken = 0
    Rounds.of(200).times do
      document = tool.plan(random).merge("parcels" => { "kind" => "boxes", "boxes" => %w[s m] })
      plan = GateMile::Documents.parse(GateMile::Plan, document, GBP)
      wanted = written(plan)
      taken += 1 if wanted["classes"]&.reject! { |item| item["class"] == "c" }
      assert_equal wanted, written(plan.without_class("c"))
      assert_equal([%w[m], %w[s m]], [plan.without_box("s"), plan.without_box("l")].map { |left| left.parcels.boxes })
    end
    assert_operator taken, :>, Rounds.of(10)
  end

  private

  def gone(shop)
    KINDS.flat_map { |kind, list| shop.public_send(list).map { |item| [kind, item.id] } } +
      shop.policies.groups.map { |group| ["group", group.id] } + shop.policies.coupons.map { |coupon| ["coupon", coupon.id] }
  end

  def rule_by_hand(document, kind, id)
    tree, lost = tree_by_hand(document["when"], kind, id)
    actions = document["then"].filter_map do |action|
      next action unless kind == "method" && action["methods"]&.include?(id)

      left = action["methods"] - [id]
      action.merge("methods" => left) if left.any?
    end
    return if actions.empty?

    document.merge("when" => tree, "then" => actions, "active" => document["active"] && !lost)
  end

  def tree_by_hand(tree, kind, id)
    of, parts = tree.first
    lost = false
    left = parts.filter_map do |part|
      if part.key?("fact")
        next part unless part["fact"] == kind && part["of"].include?(id)

        rest = part["of"] - [id]
        lost ||= rest.empty?
        part.merge("of" => rest) if rest.any?
      else
        tree_by_hand(part, kind, id).then do |inner, deeper|
          lost ||= deeper
          inner
        end
      end
    end
    [{ of => left }, lost]
  end

  def offer_by_hand(document, kind, id)
    left = document.merge(narrowed(document, kind, id))
    if left["milepost"]
      left["milepost"] = left["milepost"].to_h do |key, value|
        [key, %w[zones groups].include?(key) && value ? (value - [id]).then { |rest| rest if rest.any? } : value]
      end.compact
    end
    left.compact
  end

  def narrowed(document, kind, id)
    list = LISTS[kind]
    return shrunk(document, list, document[list] - [id]) if list && document[list]&.include?(id)
    return without_group(document, id) if kind == "group" && document["groups"]
    return {} unless kind == "class"

    %w[blocking paying].filter_map do |field|
      next unless document[field]&.fetch("classes", nil)&.include?(id)

      rest = document[field].merge("classes" => document[field]["classes"] - [id]).reject { |_, value| [[], false].include?(value) }
      [field, (rest if rest.any?)]
    end.to_h
  end

  def shrunk(document, list, rest) = { list => (rest if rest.any?), "active" => document["active"] && rest.any? }

  def without_group(document, id)
    key, ids = document["groups"].first
    return {} unless ids.include?(id)

    rest = ids - [id]
    { "groups" => ({ key => rest } if rest.any?), "active" => document["active"] && (rest.any? || key == "except") }
  end
end
