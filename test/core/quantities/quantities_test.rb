# frozen_string_literal: true

require_relative "../../support/core"
require "bigdecimal"
require "money"
require "unitwise"

class QuantitiesTest < Minitest::Test
  include CoreSupport

  GBP = GateMile::Currency["GBP"]

  # Codes: ISO 4217 as Debian's package iso-codes holds it. Left out on purpose: funds, metals, test codes, and
  # currencies withdrawn since that list was made.
  def test_currency_codes_against_debians_iso_codes
    entries = JSON.parse(File.read("/usr/share/iso-codes/json/iso_4217.json")).fetch("4217")
    listed = entries.map { |entry| entry["alpha_3"] }
    not_for_shops = %w[BOV CHE CHW CLF COU MXV USN UYI UYW ZWL HRK ANG BGN CUC SLL VEF XSU XUA]
    metals_and_codes = listed.grep(/\AX/) - %w[XAF XCD XOF XPF]
    newer = %w[SLE VED]
    assert_empty (GateMile::Currency::CODES - newer) - listed
    assert_empty listed - GateMile::Currency::CODES - not_for_shops - metals_and_codes
  end

  # Exponents: ISO 4217 "list one" as its maintenance agency publishes it, carried by the npm package currency-codes.
  # There is one of each, wherever an amount has been in between.
  def test_a_currency_stays_the_same_through_marshal
    kept = Marshal.load(Marshal.dump([GateMile::Money.parse("4.50", GateMile::Currency["GBP"])])).first
    assert_same GateMile::Currency["GBP"], kept.currency
    assert_equal "9.00", (kept + GateMile::Money.parse("4.50", GateMile::Currency["GBP"])).to_s
  end

  def test_currency_exponents_against_the_published_table
    file = File.join(ROOT, "web/node_modules/currency-codes/iso-4217-list-one.xml")
    pairs = File.read(file).scan(%r{<Ccy>(\w{3})</Ccy>.*?<CcyMnrUnts>(\d)</CcyMnrUnts>}m).to_h do |code, digits|
      [code, digits.to_i]
    end
    assert_operator pairs.size, :>, 150
    differing = GateMile::Currency::CODES.select do |code|
      pairs[code] && pairs[code] != GateMile::Currency[code].exponent
    end
    assert_empty differing
    assert_equal([0, 2, 3], %w[JPY GBP KWD].map { |code| GateMile::Currency[code].exponent })
  end

  # The international yard and pound agreement of 1959: 1 lb is exactly 0.45359237 kg, 1 in exactly 25.4 mm.
  def test_the_pound_and_the_inch_of_1959
    assert_equal Rational("0.45359237"), GateMile::Weight.parse("1 lb").in("kg")
    assert_equal 28_349_523_125, GateMile::Weight.parse("1 oz").nanograms
    assert_equal GateMile::Length.parse("25.4 mm"), GateMile::Length.parse("1in")
    assert_equal GateMile::Weight.parse("16 oz"), GateMile::Weight.parse("1 lb")
    assert_equal GateMile::Weight.parse("3 lb"), GateMile::Weight.parse("0.3 lb") * 10
    assert_equal "12 oz", GateMile::Weight.parse("12 OZ").to_s
    assert_equal "0.000028349523125 kg", GateMile::Weight.parse("0.001 oz").as("kg").to_s
  end

  # Units are small enough for the pound and the foot to be exact, and large enough for a full cart to be a machine word.
  def test_base_units_are_whole_and_sums_of_large_carts_small
    [GateMile::Weight, GateMile::Length, GateMile::Volume].each do |measure|
      assert(measure::UNITS.values.all?(Integer))
      assert_operator measure::LIMIT.bit_length, :<=, 62, "the largest that can be written"
    end
    shop = book(products: [{ "sku" => "A", "name" => "A", "price" => "1.00", "weight" => "30 kg",
                             "size" => { "length" => "4 ft", "width" => "30 in", "height" => "30 in" } }])
    lot = shop.basket(cart({ "lines" => Array.new(500) { line("A", 10) } })).shipping
    assert_equal 150_000, lot.weight / GateMile::Weight::UNITS["kg"]
    [lot.weight, lot.volume].each { |sum| assert_operator sum.bit_length, :<=, 62 }
    sixteenth = GateMile::Length.parse("0.0625 in")
    assert_equal ["0.0625 in", Rational(635, 4)], [sixteenth.to_s, sixteenth.base], "an exact fraction, where it can't be avoided"
  end

  def test_sums_of_weights_are_exact_in_any_units
    g = PropCheck::Generators
    PropCheck.forall(g.array(g.tuple(g.choose(0..99_999), g.one_of(*%w[kg g lb oz].map do |u|
      g.constant(u)
    end)))) do |list|
      weights = list.map { |thousandths, unit| GateMile::Weight.of(Rational(thousandths, 1000), unit) }
      per_unit = { "kg" => "1", "g" => "0.001", "lb" => "0.45359237", "oz" => "0.028349523125" }
      expected = list.sum { |thousandths, unit| Rational(thousandths, 1000) * Rational(per_unit.fetch(unit)) }
      assert_equal expected, weights.sum(GateMile::Weight.of(0, "kg")) { |weight| weight }.in("kg")
      weights.each { |weight| assert_equal weight, GateMile::Weight.parse(weight.to_s) }
    end
  end

  def test_amounts_as_typed
    assert_equal 450, GateMile::Money.parse("4.5", GBP).minor
    assert_equal "4.50", GateMile::Money.parse(" 4.500 ", GBP).to_s
    assert_equal "-0.05", GateMile::Money.new(-5, GBP).to_s
    assert_equal(["1200", "1.200"], [["JPY", "1200"], ["KWD", "1.2"]].map do |code, text|
      GateMile::Money.parse(text, GateMile::Currency[code]).to_s
    end)
    { "4.505" => :too_many_decimals, "4,50" => :decimal_comma, "1,500.00" => :not_an_amount, "£4" => :not_an_amount, "1e3" => :not_an_amount,
      "" => :not_an_amount,
      "9999999999999" => :too_large, "NaN" => :not_an_amount, ".5" => :not_an_amount }.each do |text, code|
      assert_equal code, malformed { GateMile::Money.parse(text, GBP) }, text
    end
    assert_equal(:too_many_decimals, malformed { GateMile::Money.parse("4.5", GateMile::Currency["JPY"]) })
    assert_raises(ArgumentError) { GateMile::Money.zero(GBP) + GateMile::Money.zero(GateMile::Currency["EUR"]) }
  end

  # A general money library as second opinion on percentages and rounding, half away from zero.
  def test_percentages_against_the_money_gem
    Money.rounding_mode = BigDecimal::ROUND_HALF_UP
    Money.default_infinite_precision = false
    g = PropCheck::Generators
    PropCheck.forall(g.choose(-999_999..999_999), g.choose(-30_000..30_000)) do |minor, thousandths|
      ours = GateMile::Percentage.parse(GateMile::Decimal.write(Rational(thousandths,
                                                                         1000))).of(GateMile::Money.new(minor, GBP))
      assert_equal (Money.new(minor, "GBP") * (BigDecimal(thousandths) / 100_000)).cents, ours.minor
    end
    # The worked example of docs/engine.md: 12.5 % off 9.96 takes 1.25 and leaves 8.71.
    price = GateMile::Money.parse("9.96", GBP)
    taken = GateMile::Percentage.parse("12.5").of(price)
    assert_equal %w[1.25 8.71], [taken, price - taken].map(&:to_s)
  end

  # A general units library (the Unified Code for Units of Measure) as second opinion on conversions.
  def test_conversions_against_the_unitwise_gem
    random = Random.new(11)
    theirs = { "lb" => "[lb_av]", "oz" => "[oz_av]", "in" => "[in_i]", "ft" => "[ft_i]" }
    [GateMile::Weight, GateMile::Length].each do |measure|
      measure::UNITS.keys.repeated_permutation(2) do |from, into|
        number = Rational(random.rand(1..99_999), 1000)
        expected = Unitwise(number.to_f, theirs.fetch(from, from)).convert_to(theirs.fetch(into, into)).value
        ours = measure.of(number, from).in(into)
        assert_in_delta expected, ours, ours * 1e-12, "#{number.to_f} #{from} in #{into}"
      end
    end
    # The agreement of 1959 and its children, exactly.
    assert_equal [16, 12, Rational(45_359_237, 100_000_000), Rational(254, 100)],
                 [GateMile::Weight.of(1, "lb").in("oz"), GateMile::Length.of(1, "ft").in("in"), GateMile::Weight.of(1, "lb").in("kg"),
                  GateMile::Length.of(1, "in").in("cm")]
  end

  def test_weights_that_are_hardly_meant
    doubted = GateMile::Weight.parse("25000", unit: "kg")
    assert_equal "25000 g", GateMile::Doubt.meant(GateMile::Doubt.of(doubted)).to_s
    assert_nil GateMile::Doubt.of(GateMile::Weight.parse("1000 kg"))
    assert_nil GateMile::Doubt.meant(GateMile::Weight.parse("9000000 g"))
  end

  def test_measures_as_typed
    assert_equal GateMile::Weight.parse("250 g"), GateMile::Weight.parse("0.25", unit: "kg")
    { "-1 kg" => :negative, "12 stone" => :unknown_unit, "heavy" => :not_a_measure, "1,5 kg" => :decimal_comma,
      "9999999 kg" => :too_large, "5" => :unknown_unit }.each do |text, code|
      assert_equal code, malformed { GateMile::Weight.parse(text) }, text
    end
  end
end
