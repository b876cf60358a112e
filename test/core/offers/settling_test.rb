# frozen_string_literal: true

require_relative "../../support/policies"

# Settling and the index of rules by themselves: against every way of doing it by hand.
class SettlingTest < Minitest::Test
  include PoliciesSupport

  # Offers whose effects are known; each set of them that can count is tried, by the text of section 5.
  def test_the_lowest_of_all_that_may_go_together
    random = Random.new(61)
    Rounds.of(300).times do
      ordinary = random.rand(0..2000)
      own = random.rand(3).zero? ? random.rand(1..600) : 0
      offers = Array.new(random.rand(1..5)) do |at|
        { "id" => "o#{at}", "name" => "o#{at}", "combines" => random.rand(2).zero?, "own_prices" => random.rand(2).zero?,
          "effect" => [{ "kind" => "free" }, { "kind" => "fixed", "amount" => pence(random.rand(1..900)) }, { "kind" => "off",
                                                                                                              "amount" => pence(random.rand(1..900)) },
                       { "kind" => "percent", "percent" => %w[5 12.5 33 100].sample(random: random) }].sample(random: random)
                      .merge(random.rand(3).zero? ? { "most" => pence(random.rand(1..500)) } : {}) }
      end
      quote = priced(ordinary, own, offers)
      sets = offers.reject { |offer| offer["combines"] }.map { |offer| [offer] }
      together = offers.select { |offer| offer["combines"] }
      sets << together if together.any?
      totals = sets.to_h { |set| [set, set.inject([ordinary, own]) { |amounts, offer| less(amounts, offer) }.sum] }
      assert_equal totals.values.min, quote.price.minor, JSON.generate([ordinary, own, offers])
      acted = quote.acted.map(&:id)
      winning = totals.select { |_, total| total == totals.values.min }.keys.map { |set| set.map { |offer| offer["id"] } }
      assert(winning.any? { |ids| (acted - ids).empty? }, "only offers of one set that costs least have acted")
      assert_equal offers.map { |offer| offer["id"] }, quote.outcomes.map { |outcome| outcome.offer.id }, "all are told, in the merchant's order"
      beaten = quote.outcomes.select { |outcome| outcome.state == :beaten }
      beaten.each do |outcome|
        offer = offers.find { |one| one["id"] == outcome.offer.id }
        assert_equal less([ordinary, own], offer).sum, outcome.numbers[:price].minor, "what the shopper would pay with it alone"
      end
    end
  end

  # The one that stands higher counts among equals, and says what the method is called.
  def test_ties_go_by_the_list
    free = ->(id, **more) { { "id" => id, "name" => id, "label" => "By #{id}", "effect" => { "kind" => "free" }, **more.transform_keys(&:to_s) } }
    assert_equal ["By a", ["a"]], named(free.call("a"), free.call("b"))
    assert_equal ["By b", ["b"]], named(free.call("b"), free.call("a"))
    assert_equal ["By b", %w[a b]], named(free.call("a", combines: true, effect: { "kind" => "off", "amount" => "1.00" }), free.call("b", combines: true))
    # Those that combine stand where the first of them does.
    assert_equal ["By c", ["c"]],
                 named(free.call("a", combines: true, effect: { "kind" => "off", "amount" => "0.50" }), free.call("c"),
                       free.call("b", combines: true, effect: { "kind" => "off", "amount" => "0.50" }))
    none = named(free.call("a", effect: { "kind" => "fixed", "amount" => "9.00" }))
    assert_equal ["Tracked", []], none, "an offer that takes nothing off says nothing"
  end

  # Equal free methods of which offers hide what costs: the first of them in the merchant's order is told as the cause.
  def test_which_of_two_free_methods_hides
    offers = %w[m n].map { |id| { "id" => "free-#{id}", "name" => "Free #{id}", "methods" => [id], "effect" => { "kind" => "free" }, "hides_paid" => true } }
    rates = %w[m n p].map { |id| { "id" => id, "zone" => "uk", "method" => id, "plan" => flat("3.00") } }
    methods = %w[m n p].map { |id| { "id" => id, "code" => id, "name" => id.upcase } }
    [offers, offers.reverse].each do |list|
      quote = quote(book(offers: list, rates: rates, methods: methods), [line], to("GB"))
      hidden = quote.method_quotes.find { |one| one.method_id == "p" }
      assert_equal [:hidden_by_offer, { offer: "Free m", free: "M" }], [hidden.causes.first.code, hidden.causes.first.numbers],
                   "by the order of the rates, whatever that of the offers"
      assert_equal(%w[m n], quote.method_quotes.select(&:available?).map(&:method_id))
    end
  end

  # Goods that pay their own way: the effect falls on the rest, and what they would pay alone is left.
  def test_a_share_is_what_the_goods_would_pay_alone
    steps = { "kind" => "steps", "measure" => "weight",
              "steps" => [{ "at" => "0 kg", "amount" => "4.00" }, { "at" => "5 kg", "amount" => "9.00" }, { "at" => "20 kg", "none" => true }] }
    goods = [{ "sku" => "L", "name" => "Light", "price" => "9.00", "weight" => "1 kg" }, { "sku" => "H", "name" => "Heavy", "price" => "9.00",
                                                                                           "weight" => "8 kg", "class" => "h" },
             { "sku" => "X", "name" => "Too heavy alone", "price" => "9.00", "weight" => "30 kg", "class" => "h" }]
    free = { "id" => "o", "name" => "O", "paying" => { "classes" => ["h"] }, "effect" => { "kind" => "free" } }
    found = lambda do |plan, *lines|
      shop = book(products: goods, classes: [{ "id" => "h", "name" => "H" }], offers: [free],
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
      method = quote(shop, lines, to("GB")).method_quotes.first
      [method.price&.to_s, method.outcomes.map { |outcome| [outcome.state, outcome.numbers[:share]&.to_s] }]
    end
    assert_equal ["9.00", [[:no_gain, "9.00"]]], found.call({ "schedule" => steps }, line("L"), line("H"))
    assert_equal ["0.00", [[:acted, "0.00"]]], found.call({ "schedule" => steps }, line("L", 9))
    unit = { "group" => "unit", "schedule" => steps }
    assert_equal ["9.00", [[:acted, "9.00"]]], found.call(unit, line("L", 2), line("H"))
    assert_equal [nil, []], found.call(unit, line("L"), line("X")), "what can't be sent can't be made free"
  end

  # Whatever can be found by one of its conditions is found: the index against a plain look at every rule.
  def test_the_index_finds_every_rule_that_may_hold
    random = Random.new(62)
    checked = 0
    Rounds.of(250).times do
      shop = GateMile::Book.compile(shop(random, offers: 0, rules: 12))
      sent = cart(random_cart(random))
      facts = GateMile::Facts.new(shop, sent, shop.basket(sent), AT)
      shop.zones.each do |zone|
        here = GateMile::Circumstances.new(facts, zone, sent.destination)
        places = shop.policies.rule_index.places(here)
        look = shop.policies.rule_index.look(here)
        shop.rules.each_with_index do |rule, at|
          found = rule.tree.test(here)
          next if found.no? || !rule.active

          checked += 1
          assert_includes places, at, JSON.generate([written(rule), sent.dump])
          assert_same found, look.test(at), "what is left of the tree says the same"
          assert_equal rule.tree.holds?(here), look.holds?(at)
        end
        assert_equal places, places.uniq
      end
    end
    assert_operator checked, :>, 300
  end

  def test_the_index_takes_the_condition_with_the_fewest_values
    tree = lambda do |*parts|
      [{ "id" => "r", "name" => "R", "when" => { "all" => parts }, "then" => [{ "kind" => "hide" }] }]
    end
    lists = { classes: [{ "id" => "c", "name" => "C" }, { "id" => "d", "name" => "D" }], groups: [{ "id" => "g", "name" => "G" }] }
    rests = lambda do |*parts|
      shop = book(rules: tree.call(*parts), **lists)
      shop.policies.rule_index.rest(0).parts.map(&:fact)
    end
    any = { "fact" => "class", "of" => %w[c d], "lines" => "any" }
    assert_equal %w[class], rests.call(any, { "fact" => "group", "of" => ["g"] })
    assert_equal %w[value], rests.call(any, { "fact" => "value", "from" => "1.00" })
    assert_equal %w[class value], rests.call(any.merge("lines" => "every"), { "fact" => "value", "from" => "1.00" }),
                 "every line is no condition by which a rule is found"
    assert_equal %w[value], rests.call({ "fact" => "value", "from" => "1.00" })
  end

  private

  def pence(minor) = format("%.2f", minor/100r)

  # A method of which the ordinary part and the own price are these.
  def priced(ordinary, own, offers)
    goods = [{ "sku" => "A", "name" => "A", "price" => "10.00" }, { "sku" => "F", "name" => "F", "price" => "1.00", "treatments" => ["t"] }]
    apart = [{ "id" => "t", "name" => "T", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => pence(own) } } }]
    shop = book(products: goods, treatments: apart, offers: offers, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat(pence(ordinary)) }])
    quote(shop, own.positive? ? [line("A"), line("F")] : [line("A")], to("GB")).method_quotes.first
  end

  # The ordinary part gives first, then the own price, as far as the offer reaches.
  def less((ordinary, own), offer)
    reach = [ordinary, offer["own_prices"] ? own : 0]
    base = reach.sum
    wish = case offer["effect"]["kind"]
           when "free" then base
           when "fixed" then [base - minor(offer["effect"]["amount"]), 0].max
           when "off" then [minor(offer["effect"]["amount"]), base].min
           else (base * offer["effect"]["percent"].to_r / 100).round(half: :up)
           end
    takes = [wish, offer["effect"]["most"] && minor(offer["effect"]["most"])].compact.min
    first = [takes, reach[0]].min
    [ordinary - first, own - (takes - first)]
  end

  def minor(text) = (text.to_r * 100).to_i

  def named(*offers)
    found = quote(book(offers: offers, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("3.00") }]), [line], to("GB")).method_quotes.first
    [found.name, found.acted.map(&:id)]
  end
end
