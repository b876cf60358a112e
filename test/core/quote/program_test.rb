# frozen_string_literal: true

require_relative "../../support/policies"
require_relative "../../support/plans"

# A rate made ready: a visit goes through it with or without somebody who listens, and comes out the same; what a rate
# does not need is never looked at.
class ProgramTest < Minitest::Test
  include PoliciesSupport

  # One source of truth for price and reason: a reckoning is the same way gone once more.
  def test_a_reckoning_comes_to_the_price_whenever_it_is_asked_for
    random = Random.new(81)
    steps = 0
    Rounds.of(250).times do
      shop = GateMile::Book.compile(shop(random))
      sent = cart(random_cart(random))
      told = shop.quote(sent, at: AT).dump
      silent = shop.quote(sent, at: AT)
      prices = silent.method_quotes.map { |one| [one.method_id, one.price&.to_s, one.status, one.name] }
      assert_equal(told["methods"].map { |one| [one["method"], one["price"], one["status"].to_sym, one["name"]] }, prices)
      assert_equal told, silent.dump, "asking later tells the same"
      assert_equal told, silent.dump, "and so does asking again"
      silent.method_quotes.select(&:available?).each do |one|
        amounts = one.reckoning.select { |step| %i[price rules].include?(step.step) && step.amount }
        steps += one.reckoning.size
        assert_equal one.price, amounts.last.amount, "the last word on the price is the price"
      end
      assert_equal({ "methods" => told["methods"].select do |one|
        one["status"] == "available"
      end.map { |one| one.slice("code", "name", "promise", "price", "messages") },
                     **told.slice("status", "text") }, GateMile::QuoteDocument.prices(silent))
      assert_empty(silent.dump(reckonings: false)["methods"].flat_map { |one| one["reckoning"] })
    end
    assert_operator steps, :>, Rounds.of(1000)
  end

  # No step writes into what an earlier one made: a visit can go through again, in any order of rates.
  def test_a_visit_is_left_as_it_was
    random = Random.new(82)
    150.times do
      shop = GateMile::Book.compile(shop(random))
      sent = cart(random_cart(random))
      facts = GateMile::Facts.new(shop, sent, shop.basket(sent), AT)
      zone = shop.zones.land(sent.destination).zone or next
      visit = -> { GateMile::Visit.of(GateMile::Terms.new(shop, facts, zone, sent.destination), GateMile::Destination.new(sent.destination)) }
      programs = shop.programs_of(zone)
      shared = visit.call
      forth = programs.map { |program| GateMile::QuoteDocument.method_quote(program.quote(shared)) }
      back = programs.reverse.map { |program| GateMile::QuoteDocument.method_quote(program.quote(shared)) }.reverse
      alone = programs.map { |program| GateMile::QuoteDocument.method_quote(program.quote(visit.call)) }
      assert_equal [forth, forth], [back, alone]
    end
  end

  # A weight that may not be looked at.
  class Secret < GateMile::Weight
    def base = raise("nobody needs to know")
  end

  def test_a_flat_rate_touches_no_weight
    shop = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("4.50") },
                        { "id" => "s", "zone" => "uk", "method" => "n",
                          "plan" => { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 kg", "amount" => "1" }] } } }])
    lines = shop.basket(cart({ "lines" => [line("A", 3)] })).lines.map { |one| one.of(unit_weight: Secret.new(1, "kg")) }
    visit = GateMile::Visit.new(basket: GateMile::Basket.new(lines, shop.store), destination: GateMile::Destination::SOMEWHERE)
    priced = ->(id) { shop.program(shop.rates.find { |rate| rate.id == id }).quote(visit) }
    assert_equal "4.50", priced.call("r").price.to_s
    assert_equal "nobody needs to know", assert_raises(RuntimeError) { priced.call("s") }.message
  end

  # What rates look at in the same way is worked out once for all of them.
  def test_figures_of_a_cart_are_worked_out_once
    lot = book.basket(cart({ "lines" => [line("A", 3)] })).shipping
    made = 0
    3.times { assert_equal 7, lot.keep(:figure) { (made += 1) && 7 } }
    assert_equal 1, made
    assert_same lot.by_class, lot.by_class
    by_parcel = { "group" => "parcel", "schedule" => { "kind" => "flat", "amount" => "2" }, "parcels" => nil }.compact
    rates = %w[m n].map { |id| { "id" => "r-#{id}", "zone" => "uk", "method" => id, "plan" => by_parcel } }
    packed = 0
    counting = GateMile::ParcelPolicy.instance_method(:parcels)
    shop = book(rates: rates, store: STORE.merge("parcels" => { "kind" => "one", "up_to" => "0.3 kg" }))
    GateMile::ParcelPolicy.define_method(:parcels) { |*given| (packed += 1) && counting.bind_call(self, *given) }
    assert_equal(%w[6.00 6.00], quote(shop, [line("A", 3)], to("GB")).method_quotes.map { |one| one.price.to_s })
    assert_equal 1, packed
  ensure
    GateMile::ParcelPolicy.define_method(:parcels, counting) if counting
  end

  # Goods of a catalogue are looked at once, and lines that say more for themselves are goods of their own.
  def test_goods_are_looked_at_once
    shop = book(classes: [{ "id" => "c", "name" => "Small" }])
    goods = ->(*lines) { shop.basket(cart({ "lines" => lines })).lines.map(&:goods) }
    one, same, spelled, own = goods.call(line("A"), line("A", 4), line("a"), line("A", 1, class: "small"))
    assert_same one, same
    assert_same one, goods.call(line("A", 9)).first
    refute_same one, spelled
    assert_equal [one.kind.skus, "a"], [spelled.kind.skus, spelled.sku]
    assert_equal [nil, "c"], [one.shipping_class, own.shipping_class]
    # A tax class that the shop has not counts as none; the class of the goods stays theirs.
    shop = book(classes: [{ "id" => "c", "name" => "Small" }], products: [{ "sku" => "A", "name" => "A", "price" => "1.00", "class" => "c" }])
    wrong = shop.basket(cart({ "lines" => [line("A", 1, tax_class: "Luxury")] })).lines.first
    assert_equal ["c", ["tax_class"]], [wrong.shipping_class, wrong.goods.unknown]
  end

  # The flow of a cart's most common form is short in objects too: the figure of the issue tracker is held by a bound
  # with room above it.
  def test_a_plain_quote_makes_few_objects
    products = Array.new(10) { |at| { "sku" => "P#{at}", "name" => "P#{at}", "price" => "#{at + 1}.50", "weight" => "#{at + 1}00 g" } }
    steps = { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 kg", "amount" => "3" }, { "at" => "5 kg", "amount" => "6" }] }
    methods = %w[m n o p].map { |id| { "id" => id, "code" => id, "name" => id } }
    rates = methods.map { |method| { "id" => method["id"], "zone" => "uk", "method" => method["id"], "plan" => { "schedule" => steps } } }
    shop = book(products: products, methods: methods, rates: rates)
    document = { "lines" => products.map { |item| line(item["sku"], 2) }, "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } }
    once = -> { shop.quote(cart(document), at: AT).method_quotes.each(&:price) }
    3.times { once.call }
    assert_operator objects(&once), :<=, 600
  end

  private

  def objects
    GC.disable
    before = GC.stat(:total_allocated_objects)
    yield
    GC.stat(:total_allocated_objects) - before
  ensure
    GC.enable
  end
end
