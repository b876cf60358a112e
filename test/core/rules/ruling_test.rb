# frozen_string_literal: true

require_relative "../../support/policies"

# What rules do to each method, and which offers could hold: the indexes against asking every rule and every offer.
class RulingTest < Minitest::Test
  include PoliciesSupport

  def test_orders_are_those_of_every_rule_asked_by_itself
    random = Random.new(91)
    seen = 0
    Rounds.of(200).times do
      shop = GateMile::Book.compile(shop(random, offers: 0, rules: 14))
      sent = cart(random_cart(random))
      facts = GateMile::Facts.new(shop, sent, shop.basket(sent), AT)
      shop.zones.each do |zone|
        terms = GateMile::Terms.new(shop, facts, zone, sent.destination)
        shop.programs_of(zone).each do |program|
          lot = program.ordinary_lines(facts.basket)
          here = terms.circumstances.at_method(lot)
          holding = shop.rules.select { |rule| rule.active && rule.tree.holds?(here) }
          wanted = holding.flat_map { |rule| rule.actions.select { |action| action.touches?(program.rate.method_id) }.map { |action| [rule, action] } }
          seen += wanted.size
          assert_equal wanted, terms.ruling.orders(program.rate.method_id, lot)
          open = shop.rules.select do |rule|
            rule.active && rule.tree.test(here).open? && rule.actions.any? do |action|
              action.touches?(program.rate.method_id)
            end
          end
          assert_equal(open.map { |rule| rule.tree.test(here).fact }, terms.ruling.undecided(program.rate.method_id, lot).map(&:fact))
        end
        assert_equal shop.rules.size, terms.ruling.verdicts.size
      end
    end
    assert_operator seen, :>, Rounds.of(500)
  end

  # A postcode that is typed so far leaves a rule open only where it can still become one of its codes.
  def test_a_postcode_on_the_way
    rule = lambda { |codes|
      { "id" => "r", "name" => "R", "when" => { "all" => [{ "fact" => "postcode", "country" => "GB", "of" => codes }] },
        "then" => [{ "kind" => "add", "amount" => "1.00" }] }
    }
    [%w[TR29 TR30], %w[TR29 TR30 TR31 TR32 IV1 IV2 IV3 IV4]].each do |codes|
      shop = book(rules: [rule.call(codes)],
                  rates: [{ "id" => "x", "zone" => "uk", "method" => "m",
                            "plan" => { "schedule" => { "kind" => "flat", "amount" => "2.00" } } }])
      open = %w[TR KW].map { |code| quote(shop, [line("A")], { "country" => "GB", "postcode" => code }).method_quotes.first.provisional }
      assert_equal [[:postcode], []], open
    end
  end

  def test_offers_that_could_hold_are_found
    random = Random.new(92)
    found = 0
    Rounds.of(200).times do
      shop = GateMile::Book.compile(shop(random, offers: 12, rules: 0))
      sent = cart(random_cart(random))
      facts = GateMile::Facts.new(shop, sent, shop.basket(sent), AT)
      shop.zones.each do |zone|
        terms = GateMile::Terms.new(shop, facts, zone, sent.destination)
        wanted = terms.standings.select { |standing| standing.reasons.empty? }.map(&:offer)
        assert_equal wanted, terms.open.map(&:offer), "in the merchant's order"
        found += wanted.size
        shop.method_ids.each do |method|
          assert_equal(wanted.select { |offer| offer.names?(method) }, terms.open_for(method).map(&:offer))
        end
      end
    end
    assert_operator found, :>, 200
  end

  # The same condition in many rules is tested once, whatever they are called.
  def test_a_condition_that_stands_in_many_rules_is_tested_once
    rules = Array.new(6) do |at|
      conditions = [{ "fact" => "value", "from" => "1.00" }, { "any" => [{ "fact" => "quantity", "from" => 2 }] }]
      { "id" => "r#{at}", "name" => "R#{at}", "when" => { "all" => conditions },
        "then" => [{ "kind" => "add", "amount" => "0.10" }] }
    end
    shop = book(rules: rules)
    tested = 0
    original = GateMile::Condition::Measured.instance_method(:test)
    GateMile::Condition::Measured.define_method(:test) { |here| (tested += 1) && original.bind_call(self, here) }
    quote = quote(shop, [line("A", 2)], to("GB"))
    assert_equal(%w[3.60 5.10], quote.method_quotes.map { |one| one.price.to_s })
    assert_equal 2, tested
  ensure
    GateMile::Condition::Measured.define_method(:test, original) if original
  end
end
