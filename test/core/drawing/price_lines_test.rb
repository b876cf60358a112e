# frozen_string_literal: true

require_relative "../../support/plans"

class PriceLinesTest < Minitest::Test
  include PlansSupport

  MOST = { "value" => 6000, "weight" => 9 * GateMile::Weight::UNITS["kg"], "quantity" => 60 }.freeze

  # Sampled quotes agree with the line at every break, just below it, just above it, and between.
  def test_lines_agree_with_quotes_on_generated_plans
    random = Random.new(41)
    gates = 0
    Rounds.of(260).times do
      plan = plan(random)
      shop = book(products: goods(random), classes: CLASSES.map { |id| { "id" => id, "name" => id } }, treatments: treated(random),
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
      sent = cart({ "lines" => Array.new(random.rand(1..3)) { |at| line("P#{at}", random.rand(1..4)) }, "destination" => to("GB") })
      MOST.each do |measure, most|
        scaled = GateMile::ScaledCart.new(shop, sent, measure, 0)
        pieces = GateMile::PriceLines.new(shop, sent, measure, most, at: AT).of["r"] or next
        assert_no_gap(pieces, scaled, most)
        gates += pieces.size - 1
        pieces.flat_map { |piece| positions(piece, scaled, random) }.each do |at, piece|
          found = shop.program(shop.rates.first).quote(GateMile::Visit.new(basket: scaled.at(at), destination: GateMile::Destination.new(sent.destination)))
          assert_equal piece.status, found.status, [measure, at, plan].inspect
          next if found.price.nil?

          share = piece.from == piece.to ? 0 : Rational(at - piece.from, piece.to - piece.from)
          expected = piece.price.minor + (share * (piece.last.minor - piece.price.minor))
          assert_operator (found.price.minor - expected).abs, :<=, piece.level? ? 0 : 1 + sent.lines.sum(&:quantity), [measure, at, piece, plan].inspect
        end
      end
    end
    assert_operator gates, :>, Rounds.of(500)
  end

  def test_a_line_one_can_read
    steps = { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 kg", "amount" => "4.95" }, { "at" => "2 kg", "amount" => "7.50" },
                                                                    { "at" => "5 kg", "amount" => "7.50", "each" => "1.10", "increment" => "1 kg" },
                                                                    { "at" => "7 kg", "none" => true }] }
    shop = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => { "schedule" => steps } }])
    sent = cart({ "lines" => [line("A", 2)], "destination" => to("GB") })
    kilo = GateMile::Weight::UNITS["kg"]
    found = GateMile::PriceLines.new(shop, sent, "weight", 9 * kilo, at: AT).of["r"]
    assert_equal([[0, 2, "4.95"], [2, 5, "7.50"], [5, 6, "8.60"], [6, 7, "9.70"], [7, 9, nil]], found.map do |piece|
      [piece.from / kilo, piece.to / kilo, piece.price&.to_s]
    end)
    assert_equal([[true, true], [false, true], [false, true], [false, true], [false, true]], found.map { |piece| [piece.from_in, piece.to_in] })
    value = { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", "amount" => "0", "percent" => "10" }, { "at" => "40", "amount" => "0" }] }
    shop = shop.with_rate(shop.rates.first.with(plan: GateMile::Documents.parse(GateMile::Plan, { "schedule" => value, "minimum" => "2.00" }, shop.currency)))
    found = GateMile::PriceLines.new(shop, sent, "value", 9000, at: AT).of["r"]
    rising = found.select { |piece| piece.price && !piece.level? }
    # A tenth of four pence rounds to nothing, which nobody chose: it is raised to the minimum like any low price.
    assert_equal [true, "2.00", 0], [found[0].level?, found[0].price.to_s, found[0].from]
    assert_in_delta 2000, rising.first.from, 60
    assert_equal [3999, "4.00"], [rising.last.to, rising.last.last.to_s]
    assert_equal [4000, 9000, "0.00"], [found.last.from, found.last.to, found.last.price.to_s]
  end

  private

  def treated(random)
    return [] unless random.rand(4).zero?

    [{ "id" => "t", "name" => "T",
       "price" => { "kind" => "apart", "charge" => { "kind" => "whole", "steps" => [1, 3].map { |from| { "from" => from, "amount" => (4 - from).to_s } } } } }]
  end

  def assert_no_gap(pieces, scaled, most)
    assert_equal [scaled.least, most], [pieces.first.from, pieces.last.to]
    pieces.each_cons(2) do |before, after|
      scaled.whole? ? assert_equal(before.to + 1, after.from) : assert_equal([before.to, !before.to_in], [after.from, after.from_in])
    end
  end

  def positions(piece, scaled, random)
    inside = [piece.from, piece.to]
    if scaled.whole?
      inside += Array.new(2) { random.rand(piece.from..piece.to) }
    else
      inside = [(piece.from if piece.from_in), (piece.to if piece.to_in)].compact
      inside += [Rational(1, 1000), Rational(1, 3), Rational(999, 1000)].map { |share| piece.from + (share * (piece.to - piece.from)) } if piece.to > piece.from
    end
    inside.uniq.map { |at| [at, piece] }
  end
end
