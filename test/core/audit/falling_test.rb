# frozen_string_literal: true

require_relative "../../support/plans"

# More that costs less: what an audit tells of a schedule is held against the prices of carts on both sides of every
# point at which one can change.
class FallingTest < Minitest::Test
  include PlansSupport

  GRAMS = [*1..5].product([0, 500]).flat_map { |kilos, grams| [-1, 0, 1].map { |by| (kilos * 1000) + grams - 1000 + by } }.select(&:positive?).freeze
  UNITS = [*1..9].freeze
  PENCE = [0, 1, 499, 500, 501, 1999, 2000, 2001, 9000].freeze

  def shop(schedule) = book(rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => { "schedule" => schedule } }])

  # @return [Integer, nil] minor units that one line of goods pays
  def pays(shop, quantity: 1, grams: 1, pence: 1)
    goods = { "name" => "Goods", "quantity" => quantity, "unit_price" => format("%.2f", Rational(pence, 100)), "weight" => "#{grams} g" }
    shop.quote(cart({ "lines" => [goods], "destination" => to("GB") }), at: AT).method_quotes.first.price&.minor
  end

  def falls?(prices) = prices.compact.each_cons(2).any? { |less, more| more < less }
  def told(shop) = GateMile::Falling.new(shop.rates.first.plan.schedule).first

  def random_steps(random, measure)
    at = { "weight" => ["0 kg", "0.5 kg", "2 kg", "3.5 kg"], "quantity" => %w[0 2 3 6] }.fetch(measure)
    list = at.select.with_index { |_, index| index.zero? || random.rand(4).positive? }.map do |edge|
      next { "at" => edge, "none" => true } if random.rand(7).zero?

      each = if random.rand(3).zero?
               { "each" => amount(random, 2), "increment" => measure == "weight" ? "0.5 kg" : "1" }
             else
               {}
             end
      { "at" => edge, "amount" => amount(random), **each }
    end
    { "kind" => "steps", "measure" => measure, "edges" => pick(random, %w[from up_to]), "steps" => list }
  end

  def amount(random, most = 6) = "#{random.rand(0..most)}.00"

  def test_steps_against_carts
    told = quiet = 0
    Rounds.of(400).times do |seed|
      random = Random.new(seed)
      measure = pick(random, %w[weight quantity])
      shop = shop(random_steps(random, measure))
      prices = measure == "weight" ? GRAMS.map { |grams| pays(shop, grams: grams) } : UNITS.map { |units| pays(shop, quantity: units) }
      fall = told(shop)
      assert_equal falls?(prices), !fall.nil?, "seed #{seed}: #{shop.rates.first.plan.schedule.inspect[0, 900]} #{prices}"
      fall ? told += 1 : quiet += 1
      next if fall.nil?

      assert_operator fall.after, :<, fall.before
      assert_equal measure, fall.gauge.name
    end
    assert_operator [told, quiet].min, :>, Rounds.of(60), "both kinds are there"
  end

  def random_grid(random, columns)
    at = { "value" => %w[0 5.00 20.00], "quantity" => %w[0 3] }.fetch(columns)
    cells = Array.new(3) { |row| at.map { random.rand(9).zero? ? "none" : "#{random.rand(0..4) + (random.rand(3) * row)}.00" } }
    { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "2 kg", "3 kg"], "edges" => pick(random, %w[from up_to]) },
      "columns" => { "measure" => columns, "at" => at }, "cells" => cells }
  end

  # Along a value it may fall, along a weight or a number of units it may not.
  def test_grids_against_carts
    found = Hash.new(0)
    Rounds.of(250).times do |seed|
      random = Random.new(seed)
      columns = pick(random, %w[value quantity])
      shop = shop(random_grid(random, columns))
      grams = [1000, 2500, 4000]
      down = columns == "value" ? PENCE.map { |pence| grams.map { |weight| pays(shop, grams: weight, pence: pence) } } : by_units(shop, grams)
      across = columns == "value" ? [] : by_units(shop, grams).transpose
      assert_equal (down + across).any? { |prices| falls?(prices) }, !told(shop).nil?, "seed #{seed}"
      found[told(shop)&.gauge&.name] += 1
    end
    assert_equal [nil, "quantity", "weight"].sort_by(&:to_s), found.keys.sort_by(&:to_s)
  end

  # The whole weight stays the same, whatever the number of units.
  def by_units(shop, grams) = [1, 4].map { |units| grams.map { |weight| pays(shop, grams: weight / units, quantity: units) } }

  # Where a price is a share of the value, or falls along the value, nobody has made a slip.
  def test_what_is_no_slip
    value = { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", "amount" => "5.00" }, { "at" => "75", "amount" => "0.00" }] }
    share = { "kind" => "steps", "measure" => "weight",
              "steps" => [{ "at" => "0 kg", "amount" => "5.00" }, { "at" => "2 kg", "amount" => "1.00", "percent" => "20" }] }
    [value, share, { "kind" => "flat", "amount" => "4.00" }, { "kind" => "first", "first" => "4.00", "additional" => "1.00" }].each do |schedule|
      assert_nil told(shop(schedule)), schedule["kind"]
    end
  end

  def test_it_is_told_with_both_amounts
    grid = { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "2 kg"] }, "columns" => { "measure" => "value", "at" => %w[0 50] },
             "cells" => [%w[4.00 3.00], ["6.00", "2.50"]] }
    found = findings(shop(grid)).find { |one| one.code == :falling }
    assert_equal({ measure: "weight", at: "2 kg", before: "3.00", after: "2.50" },
                 found.numbers.slice(:measure, :at, :before, :after).transform_values(&:to_s))
    assert_equal({ kind: "rate", id: "uk-m" }, found.setting.slice(:kind, :id))
  end
end
