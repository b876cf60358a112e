# frozen_string_literal: true

require_relative "../../support/core"

# Whole-number arithmetic against exact fractions, and three-valued truth against its table.
class ArithmeticTest < Minitest::Test
  include CoreSupport

  Decimal = GateMile::Decimal
  Truth = GateMile::Truth

  def test_divisions_against_exact_fractions
    random = Random.new(1)
    Rounds.of(2000).times do
      numerator = random.rand(-(10**random.rand(1..22))..(10**random.rand(1..22)))
      denominator = random.rand(1..(10**random.rand(1..12)))
      exact = Rational(numerator, denominator)
      assert_equal exact.round(half: :up), Decimal.divide(numerator, denominator)
      assert_equal exact, Decimal.quotient(numerator, denominator)
      assert_equal exact.denominator == 1, Decimal.quotient(numerator, denominator).is_a?(Integer)
      assert_equal exact.ceil, Decimal.started(numerator, denominator)
      assert_equal (exact / Rational(3, 7)).ceil, Decimal.started(exact, Rational(3, 7))
    end
    assert_equal [1, -1, 3, -3], [[1, 2], [-1, 2], [5, 2], [-5, 2]].map { |pair| Decimal.divide(*pair) }, "half away from zero"
  end

  def test_percentages_are_fractions_of_whole_numbers
    random = Random.new(2)
    ["0", "12.5", "20", "17.5", "0.01", "33.333", "100", "-12.5"].each do |text|
      percentage = GateMile::Percentage.parse(text)
      part = text.to_r / 100
      assert_equal part, Rational(percentage.numerator, percentage.denominator)
      Rounds.of(200).times do
        minor = random.rand(-99_999..99_999)
        assert_equal (minor * part).round(half: :up), percentage.of_minor(minor)
        assert_equal minor * part, percentage.exactly(minor)
        assert_equal (minor * (1 + part)).round(half: :up), percentage.added_to(minor)
        assert_equal (minor / (1 + part)).round(half: :up), percentage.taken_out_of(minor)
      end
    end
  end

  # Written amounts and measures are read the short way or the long one: both say the same.
  def test_short_and_long_ways_of_reading
    pounds = GateMile::Currency["GBP"]
    ["0.00", "4.50", "999999999.99", "12", "4.5", "+4.50", "-4.50", " 4.50", "4,50", "4.505", ".50", "1e3", "9999999999.00"].each do |text|
      wanted = (text.strip.to_r * 100).to_i if text.strip.match?(/\A[+-]?\d{1,15}(\.\d{1,2})?\z/)
      assert_equal [wanted], [slowly { GateMile::Money.parse(text, pounds).minor }], text
    end
    assert_equal([500, 5, 5000], { "JPY" => "500", "GBP" => "0.05", "BHD" => "5.000" }.map do |code, text|
      GateMile::Money.parse(text, GateMile::Currency[code]).minor
    end)
    units = GateMile::Weight::UNITS
    ["210 g", "0.3 lb", "1.5kg", "12 OZ", "0.000001 g", "3 lb", "7", "0 kg", "1000.5 lb", "16 oz"].each do |text|
      number, unit = text.match(/\A([\d.]+)\s*(\w+)?\z/).captures
      wanted = unit && (number.to_r * units.fetch(unit.downcase))
      assert_equal [wanted], [slowly { GateMile::Weight.parse(text).base }], text
    end
    assert_equal units["kg"] * 7, GateMile::Weight.parse("7", unit: "kg").base
    assert_raises(GateMile::Malformed) { GateMile::Weight.parse("1000001 kg") }
  end

  def test_amounts_are_written_with_all_their_decimals
    [0, 5, 50, 123, -5, -123, 10**12].each do |minor|
      [0, 2, 3].each do |places|
        wanted = if places.zero?
                   minor.to_s
                 else
                   format("%<sign>s%<whole>d.%<part>0#{places}d", sign: ("-" if minor.negative?), whole: minor.abs / (10**places),
                                                                  part: minor.abs % (10**places))
                 end
        assert_equal wanted, Decimal.point(minor, places)
      end
    end
  end

  def test_truth_has_three_values
    assert_equal [true, false, false], [Truth::YES.yes?, Truth::YES.no?, Truth::YES.open?]
    assert_equal [false, true, false], [Truth::NO.yes?, Truth::NO.no?, Truth::NO.open?]
    open = Truth.open(:postcode)
    assert_equal [false, false, true, :postcode], [open.yes?, open.no?, open.open?, open.fact]
    assert_same open, Truth.open("postcode")
    refute_same open, Truth.open(:region)
    assert_same Truth::YES, Truth.of(true)
    assert_same Truth::NO, Truth.of(nil)
  end

  private

  def slowly
    yield
  rescue GateMile::Malformed
    nil
  end
end
