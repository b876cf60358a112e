# frozen_string_literal: true

require_relative "../../support/policies"

# The next gates of rich shops, with offers and rules, against a plain walk through quotes: unit by unit, line by line.
class GatesTest < Minitest::Test
  include PoliciesSupport

  STEPS = [{ "at" => "0", "amount" => "4.50" }, { "at" => "30", "amount" => "3.00" }].freeze
  BY_VALUE = { "schedule" => { "kind" => "steps", "measure" => "value", "edges" => "from", "steps" => STEPS } }.freeze
  REACH = 14

  def test_gates_of_offers_and_rules_are_the_nearest_ones
    random = Random.new(71)
    found = 0
    60.times do
      shop = shop(random)
      lines = Array.new(random.rand(1..3)) { |at| line("P#{at}", random.rand(1..6)) }
      gates = GateMile::NextGates.new(shop, cart({ "lines" => lines, "destination" => to("GB") }), at: AT)
      list = gates.list
      assert gates.whole?
      assert_equal list.map { |gate| [gate.rate, gate.by.positive?] }.uniq.size, list.size, "one for each rate and direction"
      order = list.map { |gate| [gate.by.abs, gate.line, -gate.by] }
      assert_equal order.sort, order, "the nearest first, then the line that stands higher, then what is bought more of"
      walked = walk(shop, lines)
      walked.each do |(rate, up), expected|
        gate = list.find { |one| one.rate == rate && one.by.positive? == up }
        next assert(gate.nil? || gate.by.abs > REACH, [rate, up, lines, gate].inspect) if expected.nil?

        found += 1
        assert_equal expected, [gate&.line, gate&.by, gate&.price], [rate, up, lines, shop.dump["offers"], shop.dump["rules"]].inspect
      end
    end
    assert_operator found, :>, 60
  end

  # Stopped early, what has been found is a beginning of what would have been.
  def test_what_is_found_by_then_is_the_nearest
    random = Random.new(73)
    20.times do
      shop = shop(random)
      asked = cart({ "lines" => Array.new(3) { |at| line("P#{at}", random.rand(1..6)) }, "destination" => to("GB") })
      whole = GateMile::NextGates.new(shop, asked, at: AT).list
      [0, 2, 5, 9].each do |looks|
        count = 0
        stopped = GateMile::NextGates.new(shop, asked, at: AT, stop: -> { (count += 1) > looks })
        found = stopped.list
        assert_empty found - whole, "nothing is said that is not so"
        refute stopped.whole? if found.size < whole.size
      end
    end
  end

  def test_carts_that_have_none
    shop = shop(Random.new(1))
    none = ->(lines, place) { GateMile::NextGates.new(shop, cart({ "lines" => lines, "destination" => place }), at: AT).list }
    assert_empty none.call([], to("GB"))
    assert_empty none.call([line("P0", 2)], {}), "nobody knows where it goes"
    assert_empty none.call([line("GONE", 2)], to("GB")), "what has no price has no gate"
  end

  private

  def shop(random)
    products = Array.new(3) do |at|
      { "sku" => "P#{at}", "name" => "P#{at}", "price" => "#{random.rand(1..9)}.#{random.rand(10)}0", "weight" => "#{random.rand(1..9)}00 g" }
    end
    steps = [{ "at" => "0 kg", "amount" => "2.00" }, { "at" => "2 kg", "amount" => "5.00" }, { "at" => "6 kg", "none" => true }]
    by_weight = { "schedule" => { "kind" => "steps", "measure" => "weight", "edges" => "up_to", "steps" => steps } }
    free = { "id" => "f", "name" => "Free", "effect" => { "kind" => "free" }, "methods" => ["m"], "hides_paid" => random.rand(2).zero?,
             "threshold" => { "measure" => %w[value quantity].sample(random: random), "from" => random.rand(5..25).to_s } }
    off = { "id" => "o", "name" => "Off", "effect" => { "kind" => "percent", "percent" => "50" }, "methods" => ["n"],
            "threshold" => { "measure" => "quantity", "from" => random.rand(3..9).to_s } }
    hide = { "id" => "h", "name" => "Hide", "when" => { "all" => [{ "fact" => "quantity", "from" => random.rand(6..14).to_s }] },
             "then" => [{ "kind" => "hide", "methods" => [%w[m n].sample(random: random)] }] }
    book(products: products, offers: [free, off].sample(random.rand(0..2), random: random), rules: random.rand(2).zero? ? [hide] : [],
         rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => BY_VALUE }, { "id" => "s", "zone" => "uk", "method" => "n", "plan" => by_weight }])
  end

  def prices(shop, lines) = quote(shop, lines, to("GB")).method_quotes.to_h { |one| [one.rate, one.price] }

  # @return [Hash{Array => Array, nil}] by rate and direction: line, units more or fewer, and the price then
  def walk(shop, lines)
    here = prices(shop, lines)
    found = here.keys.product([true, false]).to_h { |key| [key, nil] }
    (1..REACH).each do |by|
      lines.each_index do |at|
        [by, -by].each do |step|
          units = lines[at]["quantity"] + step
          next unless units.positive?

          there = prices(shop, lines.each_with_index.map { |item, place| place == at ? item.merge("quantity" => units) : item })
          there.each { |rate, price| found[[rate, step.positive?]] ||= [at, step, price] if price != here[rate] }
        end
      end
    end
    found
  end
end
