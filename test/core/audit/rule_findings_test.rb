# frozen_string_literal: true

require_relative "../../support/policies"

class RuleFindingsTest < Minitest::Test
  include PoliciesSupport

  # A small world in which every cart can be tried: each bound and what lies beside it, each set of two lines.
  VALUES = [0, 1, 998, 999, 1000, 2000].freeze
  GROUPS_OF = [nil, "trade", "crew"].freeze
  LINES = [{ "class" => "Small" }, { "class" => "Heavy" }, {}, { "tags" => ["gift"] }, { "class" => "Small", "hazardous" => true }].freeze

  # What the audit says of generated rules, against every cart of the small world: what it calls impossible never happens
  # there, what it calls possible is shown by its own cart, and nothing is missed.
  def test_contradictions_against_every_cart_of_a_small_world
    said = against(small, worlds, 250, ->(random) { small_condition(random) })
    assert_equal 0, said[:unknown]
    assert_operator said[:none], :>, 15
    assert_operator said[:shown], :>, 100
  end

  # The same of a catalogue with variants, of sizes and weights, days, and one kind of address.
  def test_contradictions_in_a_world_of_goods_days_and_addresses
    said = against(catalogued, addressed, 250, ->(random) { other_condition(random) })
    assert_equal 0, said[:unknown]
    assert_operator said[:none], :>, 15
    assert_operator said[:shown], :>, 100
  end

  def against(shop, world, times, condition)
    random = Random.new(3)
    facts = world.map { |sent, at| terms(shop, sent, at) }
    said = Hash.new(0)
    times.times do
      wishes = Array.new(random.rand(1..2)) do
        [GateMile::Documents.read(GateMile::Tree, GateMile::Reader.new(small_tree(random, 1, condition)), shop.currency), random.rand(3).positive?]
      end
      found = GateMile::Situations.new(shop).find(wishes)
      happens = facts.any? { |one| wishes.all? { |tree, wanted| tree.test(one).equal?(GateMile::Truth.of(wanted)) } }
      kind = found.is_a?(Symbol) ? found : :shown
      kind = :tied if kind == :unknown && tied?(wishes.map(&:first))
      said[kind] += 1
      refute_equal :none, found, wishes.map { |tree, wanted| [written(tree), wanted] }.inspect if happens
      next if found.is_a?(Symbol)

      seen = terms(shop, found.cart, GateMile::LocalMoment.utc(found.at || "2026-01-05T12:00", "Europe/London"))
      wishes.each { |tree, wanted| assert_same GateMile::Truth.of(wanted), tree.test(seen), written(tree).inspect }
    end
    said
  end

  # Addresses asked for by several facts are beyond what the audit checks.
  def tied?(trees)
    facts = ->(part) { part.is_a?(GateMile::Tree) ? part.parts.flat_map(&facts) : [part] }
    trees.flat_map(&facts).grep(GateMile::Condition::OfAddress).map { |one| [one.fact, one.country] }.uniq.size > 1
  end

  # Every cart there is of these goods, groups, coupons and days.
  def worlds
    lines = LINES.map { |one| [one] } + LINES.combination(2).to_a + LINES.combination(3).to_a
    lines.product(VALUES, [1, 2, 3, 4], GROUPS_OF, [[], ["KEEL"]],
                  [Time.utc(2026, 6, 1, 9), Time.utc(2026, 6, 6, 22, 30)]).filter_map do |goods, value, units, group, coupons, at|
      next if units < goods.size

      list = goods.map { |one| { "name" => "x", "quantity" => 1, "unit_price" => "0.00", "weight" => "0 kg", **one } }
      list.first["unit_price"] = format("%.2f", value/100r)
      list.last["quantity"] = units - goods.size + 1 if goods.size > 1 || value.zero?
      next if list.sum { |one| one["quantity"] } != units

      [{ "lines" => list, "destination" => { "country" => "GB" }, "group" => group, "coupons" => coupons }.compact, at]
    end
  end

  def small
    book(classes: [{ "id" => "c", "name" => "Small" }, { "id" => "d", "name" => "Heavy" }],
         groups: [{ "id" => "trade", "name" => "Trade" }, { "id" => "crew", "name" => "Crew" }],
         coupons: [{ "id" => "k", "code" => "KEEL" }])
  end

  def terms(shop, sent, at)
    sent = cart(sent)
    zone = shop.zones.land(sent.destination).zone || shop.zones.first
    GateMile::Circumstances.new(GateMile::Facts.new(shop, sent, shop.basket(sent), at), zone, sent.destination)
  end

  def small_tree(random, depth, condition)
    parts = Array.new(random.rand(1..3)) { depth < 3 && random.rand(3).zero? ? small_tree(random, depth + 1, condition) : condition.call(random) }
    { pick(random, %w[all all any none]) => parts }
  end

  def small_condition(random)
    case random.rand(6)
    when 0 then { "fact" => "value", pick(random, %w[from over]) => pick(random, %w[9.98 9.99 10.00]),
                  pick(random, %w[below up_to]) => pick(random, %w[9.99 10.00 20.00]) }
    when 1 then { "fact" => "quantity", pick(random, %w[from up_to]) => random.rand(1..3) }
    when 2 then { "fact" => "class", "of" => pick(random, [%w[c], %w[d], %w[c d]]), "lines" => pick(random, %w[any every]) }
    when 3 then pick(random, [{ "fact" => "tag", "of" => ["GIFT"] }, { "fact" => "hazard" }]).merge("lines" => pick(random, %w[any every]))
    when 4 then pick(random, [{ "fact" => "group", "of" => ["trade"] }, { "fact" => "group", "of" => %w[trade crew] }, { "fact" => "coupon", "of" => ["k"] }])
    else pick(random,
              [{ "fact" => "weekday", "of" => [1] }, { "fact" => "weekday", "of" => [6, 7] }, { "fact" => "time", "from" => "22:00", "until" => "06:00" }])
    end
  end

  # A product with two variants, one that is hazardous, one alone; "X" is in no catalogue.
  def catalogued
    size = ->(side) { %w[length width height].to_h { |name| [name, "#{side} cm"] } }
    book(products: [{ "sku" => "A", "name" => "A", "price" => "1.00", "class" => "c", "weight" => "1 kg", "size" => size.call(10) },
                    { "sku" => "B", "name" => "B", "price" => "1.00", "tags" => ["gift"], "weight" => "2 kg", "size" => size.call(30),
                      "variants" => [{ "sku" => "B1", "name" => "1" }, { "sku" => "B2", "name" => "2", "class" => "d" }] },
                    { "sku" => "C", "name" => "C", "price" => "1.00", "hazardous" => true, "weight" => "1 kg", "size" => size.call(10) }],
         classes: [{ "id" => "c", "name" => "Small" }, { "id" => "d", "name" => "Heavy" }])
  end

  PLACES = [{ "country" => "GB" }, { "country" => "GB", "postcode" => "PA20 9ZZ" }, { "country" => "FR" }, { "country" => "DE", "postcode" => "12345" },
            { "country" => "DE", "region" => "BY", "postcode" => "80331" }, { "country" => "DE", "region" => "HE" }].freeze
  DAYS = [Time.utc(2026, 5, 31, 12), Time.utc(2026, 6, 1, 12), Time.utc(2026, 6, 30, 12), Time.utc(2026, 7, 1, 12)].freeze

  def addressed
    goods = %w[A B1 B2 C X].flat_map do |sku|
      sku == "X" ? [{ "sku" => "X", "name" => "X" }, { "sku" => "X", "name" => "X", "hazardous" => true }] : [{ "sku" => sku }]
    end
    goods << { "name" => "Any goods" } << { "name" => "Any goods", "tags" => ["gift"] } << { "name" => "Any goods", "class" => "Small" }
    lists = goods.map { |one| [one] } + goods.combination(2).to_a
    lists.product(PLACES, ["1 Quay", "PO Box 4"], DAYS).map do |lines, place, street, at|
      lines = lines.map { |one| { "quantity" => 1, "unit_price" => "0.00", **one } }
      [{ "lines" => lines, "destination" => { **place, "lines" => [street] } }, at]
    end
  end

  def other_condition(random)
    case random.rand(5)
    when 0, 1 then { "fact" => "product", "of" => pick(random, [%w[A], %w[B], %w[B1], %w[a c], %w[X], %w[B2 X]]), "lines" => pick(random, %w[any every]) }
    when 2 then pick(random, [{ "fact" => "tag", "of" => ["GIFT"] }, { "fact" => "hazard" }, { "fact" => "class", "of" => %w[c] }])
      .merge("lines" => pick(random, %w[any every]))
    when 3 then pick(random, [{ "fact" => "date", "first" => "2026-06-01" }, { "fact" => "date", "last" => "2026-06-30" },
                              { "fact" => "date", "first" => "2026-06-01", "last" => "2026-06-30" }])
    else pick(random, [{ "fact" => "country", "of" => %w[GB] }, { "fact" => "country", "of" => %w[FR DE] }, { "fact" => "po_box" },
                       { "fact" => "region", "country" => "DE", "of" => %w[BY HE] }, { "fact" => "postcode", "country" => "DE", "of" => ["12", "8#3"] }])
    end
  end

  def test_what_is_wrong_with_rules_is_told_with_a_cart
    value = ->(**bounds) { { "fact" => "value", **bounds.transform_keys(&:to_s) } }
    rule = ->(id, conditions, action) { { "id" => id, "name" => id.capitalize, "when" => { "all" => conditions }, "then" => [action] } }
    cap = { "kind" => "cap", "amount" => "9.00" }
    shop = book(rules: [
                  rule.call("never", [value.call(over: "100.00"), value.call(below: "50.00")], cap),
                  rule.call("always", [{ "fact" => "quantity", "from" => 1 }], { "kind" => "message", "text" => "Hi" }),
                  rule.call("big", [value.call(over: "60.00")], { "kind" => "hide", "methods" => ["m"] }),
                  rule.call("moot", [value.call(over: "80.00")], { "kind" => "rename", "text" => "X", "methods" => ["m"] }),
                  rule.call("one", [value.call(over: "10.00")], { "kind" => "price", "amount" => "1.00", "methods" => ["n"] }),
                  rule.call("two", [value.call(up_to: "10.01")], { "kind" => "price", "amount" => "2.00", "methods" => ["n"] }),
                  rule.call("next", [value.call(over: "90.00")], { "kind" => "hide", "methods" => ["n"] }),
                  rule.call("odd", [value.call(over: "5.00"), value.call(below: "3.00", basis: { "discounts" => "before" })], cap)
                ])
    found = GateMile::RuleFindings.new(shop).list
    told = found.to_h { |one| [[one.code, one.setting[:id]], one.cart && one.cart["lines"].first["unit_price"]] }
    assert_equal({ %i[rule_never never] => nil, %i[rule_always always] => "0.00", %i[rule_hidden moot] => "80.01", %i[rules_fight two] => "10.01",
                   %i[all_hidden next] => "90.01", %i[rule_open odd] => nil },
                 told.transform_keys { |code, id| [code, id.to_sym] })
    clash = found.find { |one| one.code == :rules_fight }
    assert_equal [:price, "Next day"], clash.numbers.values_at(:over, :method)
    emptied = found.find { |one| one.code == :all_hidden }
    assert_equal ["UK"], emptied.numbers[:zones]
    assert_equal :nothing_available, shop.quote(cart(emptied.cart), at: AT).status
  end
end
