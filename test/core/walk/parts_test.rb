# frozen_string_literal: true

require_relative "../../support/recipes"

# The parts of a walk: carts that come to exactly what is wanted, plans that differ in exactly one figure, carts that are
# made of parts of others.
class WalkPartsTest < Minitest::Test
  include RecipesSupport

  G = PropCheck::Generators
  GBP = GateMile::Currency["GBP"]
  TAXES = [{ "id" => "standard", "name" => "Standard", "rate" => "20" }].freeze

  def trial(units = 1, **fields)
    goods = GateMile::SomeGoods.new(name: "Any goods", quantity: units, worth: 1000, weight: GateMile::Weight.parse("0.5 kg").base,
                                    sides: [GateMile::Length.parse("5 cm").base] * 3)
    GateMile::Trial.new(goods: [goods.with(**fields)], destination: GateMile::Address.new(country: "GB", lines: []), currency: GBP)
  end

  def measured(book, trial, measure)
    read = GateMile::Cart.parse(trial.document, GBP)
    basket = book.basket(read)
    lines = basket.shipping.lines
    case measure
    when "value" then basket.shipping.value(book.store.basis)
    when "quantity" then basket.shipping.quantity
    when "longest" then basket.shipping.longest
    when "volume" then lines.sum { |line| line.size.volume * line.quantity }
    else basket.shipping.weight
    end
  end

  # What is put into a cart is there when its document is read again: no rounding on the way, whatever the number of
  # units between which it is divided. Where no cart comes to it, there is none, rather than one that is nearly right.
  def test_a_cart_comes_to_what_is_wanted
    gram = GateMile::Weight::UNITS["g"]
    millimetre = GateMile::Length::UNITS["mm"]
    millilitre = GateMile::Volume.parse("1 ml").base
    amounts = GateMile::Amounts.new(book)
    sizes = { "value" => 1, "quantity" => 1, "weight" => gram, "longest" => millimetre, "volume" => millilitre }
    PropCheck.forall(count: G.choose(1..40_000), units: G.one_of(G.constant(1), G.constant(2), G.constant(5))) do |count:, units:|
      sizes.each do |measure, unit|
        wanted = (measure == "quantity" ? (count % 900) + 1 : count) * unit
        found = amounts.put(trial(units), measure, wanted)
        if found.nil?
          assert_equal "value", measure, "only a price can be of no whole pennies"
          refute_equal 0, wanted % units
        else
          assert_equal wanted, measured(book, found, measure), "#{measure} #{wanted} by #{units}"
        end
      end
    end
  end

  # Where a value counts with tax and prices are without it, or the other way round, a price is found for each value that
  # some price comes to, and none for the others: every penny is tried.
  def test_a_value_by_another_tax
    { true => "without", false => "with" }.each do |included, tax|
      shop = book(store: STORE.merge("prices_include_tax" => included, "tax_classes" => TAXES, "basis" => { "tax" => tax }))
      reached = (1..400).to_set { |price| measured(shop, trial.first(worth: price), "value") }
      amounts = GateMile::Amounts.new(shop)
      left_out = (1..300).select do |minor|
        found = amounts.put(trial, "value", minor)
        assert_equal [reached.include?(minor), minor], [!found.nil?, found ? measured(shop, found, "value") : minor]
        found.nil?
      end
      # A fifth on top leaves out one value of six.
      assert_equal included ? 0 : 50, left_out.size
    end
  end

  def test_what_no_cart_can_bear_is_not_put
    amounts = GateMile::Amounts.new(book)
    assert_nil amounts.put(trial, "weight", GateMile::Weight::LIMIT + 1)
    assert_nil amounts.put(trial, "quantity", GateMile::CartLine::QUANTITIES.max + 1)
    assert_nil amounts.put(trial, "quantity", 0)
    assert_nil amounts.put(trial, "longest", GateMile::Length::LIMIT + 1)
  end

  def test_right_below_at_and_right_above
    edge = GateMile::Edge.new(measure: "value", base: 4000, text: "40", hair: 1)
    assert_equal [[:below, 3999], [:at, 4000], [:above, 4001]], edge.sides
    assert_equal [[:at, 1], [:above, 2]], edge.with(base: 1).sides, "nothing is below the first unit"
    assert_equal [[:above, 1]], edge.with(base: 0).sides
  end

  # Goods are written so that they are read as the same, in the unit in which they are short.
  def test_goods_are_read_as_they_were_meant
    PropCheck.forall(grams: G.choose(1..60_000), tenths: G.choose(1..900), worth: G.choose(0..99_999)) do |grams:, tenths:, worth:|
      weight = grams * GateMile::Weight::UNITS["g"]
      side = tenths * GateMile::Length::UNITS["mm"]
      line = GateMile::Cart.parse(trial(3, weight: weight, sides: [side] * 3, worth: worth).document, GBP).lines.first
      assert_equal [weight, side, worth, 3], [line.own.weight.base, line.own.size.longest.base, line.unit_price.minor, line.quantity]
    end
    assert_equal({ "sku" => "LA", "quantity" => 2 }, GateMile::SomeGoods.of("LA",
                                                                            2).line(GBP).then { |line| GateMile::Cart.of(lines: [line]).dump["lines"].first })
  end

  # Where two values part: paths to everything that is not the same in both.
  def parted(one, other, path = [])
    return [] if one == other
    return [path] unless one.instance_of?(other.class) && (one.respond_to?(:to_h) || one.is_a?(Array)) && !one.nil?
    return [path] if one.is_a?(Array) && one.size != other.size

    pairs = one.is_a?(Array) ? one.zip(other).each_with_index.map { |pair, at| [at, *pair] } : one.to_h.map { |name, value| [name, value, other.to_h[name]] }
    pairs.flat_map { |name, left, right| parted(left, right, [*path, name]) }
  end

  def plans
    steps = { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 kg", "amount" => "4.00" },
                                                                    { "at" => "2 kg", "amount" => "6.00", "each" => "0.50", "increment" => "1 kg" }] }
    share = { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", "amount" => "0.00", "percent" => "10" }, { "at" => "50",
                                                                                                                             "amount" => "3.00" }] }
    { flat("4.50") => 1, flat("4.50").merge("minimum" => "2.00", "maximum" => "9.00") => 3,
      flat("4.50").merge("handling" => { "fixed" => "1.00", "percent" => "5" }) => 3, flat("4.50").merge("ending" => "0.95") => 2,
      { "schedule" => steps } => 5, { "schedule" => share } => 4 }
  end

  # As many changes as a plan has figures, each in one place, and no two of them in the same.
  def test_mutants_differ_in_one_figure
    plans.each do |document, count|
      plan = book(rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => document }]).rates.first.plan
      mutants = GateMile::PlanMutants.new(plan, GBP).list
      places = mutants.map do |variants|
        found = variants.map { |one| parted(plan, one) }
        assert(found.all? { |paths| paths.size == 1 }, "#{document}: #{found.inspect}")
        assert_equal 1, found.uniq.size, "all changes of one figure are in one place: #{document}"
        assert_equal variants.size, variants.uniq.size
        found.first.first
      end
      assert_equal [count, count], [places.size, places.uniq.size], "#{document}: #{places.inspect}"
    end
  end

  # Parts of the carts that are there, and nothing else; always the same.
  def test_carts_made_of_parts_of_others
    carts = GateMile::Walk.of_zone(book, book.zones.first, now: AT).proposals.map { |one| [one.cart, one.at] }
    crossed = GateMile::Crossing.new(carts, 200).list
    assert_equal crossed, GateMile::Crossing.new(carts, 200).list
    assert_equal crossed.uniq.size, crossed.size
    parts = ->(name) { carts.map { |cart, _| cart[name] } }
    lines = parts.call("lines").flatten.map { |line| line.except("quantity") }
    crossed.each do |cart, at|
      assert_empty cart["lines"].map { |line| line.except("quantity") } - lines
      assert_includes parts.call("destination"), cart["destination"]
      assert_includes carts.map(&:last), at
      assert_equal cart, self.cart(cart).dump
    end
  end
end
