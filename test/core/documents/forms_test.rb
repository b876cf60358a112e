# frozen_string_literal: true

require_relative "../../support/policies"
require_relative "../../support/plans"
require_relative "../../support/goods"

# Forms by themselves: what they read they write, every field has one place, and the published schema knows the same
# fields.
class FormsTest < Minitest::Test
  include CoreSupport

  SCHEMA = JSON.parse(File.read(File.join(ROOT, "docs/formats/book.schema.json"))).freeze
  Documents = GateMile::Documents

  # Everything that generated books hold, each value by its own form: written, read and written again.
  def test_what_is_written_is_read_back
    kinds = Hash.new(0)
    books.each do |book|
      values(book).each do |value|
        document = JSON.parse(JSON.generate(Documents.write(value)))
        again = Documents.parse(value.class, document, book.currency, book.store.time_zone)
        assert_equal document, JSON.parse(JSON.generate(Documents.write(again))), value.class.name
        kinds[value.class] += 1
      end
    end
    [GateMile::Plan, GateMile::Offer, GateMile::Rule, GateMile::Treatment, GateMile::Product, GateMile::Zone, GateMile::Rate, GateMile::Store,
     GateMile::ParcelPolicy, GateMile::Box, GateMile::Basis, GateMile::LiveRate].each { |kind| assert_operator kinds[kind], :>, 0, kind }
  end

  # What a shop's parts are where their document says little, and that all of it is written back.
  def test_parts_for_shops
    read = lambda { |parts|
      Documents.parse(GateMile::Storefront, { "open" => true, "origins" => ["https://shop.example"], "parts" => parts })
    }
    assert_equal GateMile::ShopParts::USUAL, read.call({}).parts
    assert_equal(%w[here cart], read.call({ "milepost" => { "place" => "here" } }).parts.milepost.then { |one| [one.place, one.page] })
    said = { "milepost" => { "place" => "here", "page" => "basket", "bar" => false }, "address" => { "boxes" => false } }
    front = read.call(said)
    assert_equal ["basket", false, false], [front.parts.milepost.page, front.parts.milepost.bar, front.parts.address.boxes]
    assert_equal front, Documents.parse(GateMile::Storefront, JSON.parse(JSON.generate(Documents.write(front))))
  end

  # A duplicate is reported with the position of the first, counted from one.
  def test_what_is_there_twice_names_the_first
    store = STORE.merge("tax_classes" => %w[a b b].map { |id| { "id" => id, "name" => "T#{id}", "rate" => "1" } })
    charge = { "kind" => "unit", "amount" => "1" }
    own = %w[m m n n].map { |id| { "method" => id, "charge" => charge } }
    treatment = { "id" => "t", "name" => "T", "price" => { "kind" => "apart", "charge" => charge, "by_method" => own } }
    expects = { "methods" => %w[m n n].map { |id| { "method" => id, "is" => "offered" } } }
    proofs = %w[p q r].zip(%w[One Two two]).map { |id, name| { "id" => id, "name" => name, "cart" => { "lines" => [line] }, "expects" => { "zone" => "uk" } } }
    named = { store: store, treatments: [treatment], proofs: proofs, classes: %w[c d d].map { |id| { "id" => id, "name" => id.upcase } } }
    prices = %w[c c d d].map { |id| { "class" => id, "charge" => "unit", "schedule" => flat("1")["schedule"] } }
    told = named.to_h { |part, value| [part, firsts { book(part => value) }] }
    told[:expects] = firsts { book(proofs: [proofs.first.merge("expects" => expects)]) }
    told[:prices] = firsts { book(rates: [{ "id" => "x", "zone" => "uk", "method" => "m", "plan" => { "group" => "class", "classes" => prices } }]) }
    assert_equal({ store: [2, 2], treatments: [1, 3], proofs: [2], classes: [2, 2], expects: [2], prices: [1, 3] }, told)
  end

  # @return [Array<Integer>] the first of the same, as each problem says
  def firsts
    yield
    []
  rescue GateMile::Invalid => e
    e.problems.select { |problem| problem.code == :twice }.map { |problem| problem.numbers.fetch(:first) }
  end

  # A field that the schema has and no form reads would be refused, and one that a form reads and the schema has not is
  # told nowhere.
  def test_forms_and_the_published_schema_know_the_same_fields
    { %w[products] => GateMile::Product, %w[products variants] => GateMile::Variant, %w[offers] => GateMile::Offer, %w[rates] => GateMile::Rate,
      %w[zones] => GateMile::Zone, %w[methods] => GateMile::ShippingMethod, %w[treatments] => GateMile::Treatment, %w[rules] => GateMile::Rule,
      %w[coupons] => GateMile::Coupon, %w[groups] => GateMile::CustomerGroup, %w[classes] => GateMile::ShippingClass, %w[store] => GateMile::Store,
      %w[store boxes] => GateMile::Box, %w[store tax_classes] => GateMile::TaxClass, %w[carriers] => GateMile::Carrier, %w[rates plan] => GateMile::Plan,
      %w[rates live] => GateMile::LiveRate, %w[methods delivery] => GateMile::Delivery, %w[zones duty] => GateMile::Duty }.each do |path, kind|
      known = properties(at(path)).sort
      assert_operator known.size, :>, 1, path.join("/")
      assert_equal known, read_by(kind).sort, path.join("/")
    end
  end

  def test_problems_stand_at_their_place_and_the_rest_is_read
    reader = GateMile::Reader.open({ "id" => "z", "name" => "", "areas" => [{ "kind" => "country", "country" => "XX" }, { "kind" => "world", "colour" => 1 }],
                                     "duty" => { "percent" => "101" }, "nonsense" => true })
    zone = Documents.read(GateMile::Zone, reader)
    assert_equal(%w[/areas/0/country /areas/1/colour /duty/percent /name /nonsense], reader.problems.map(&:pointer).sort)
    assert_equal ["z", nil, 2], [zone.id, zone.name, zone.areas.size]
    # Pointers are put together when somebody needs them, at any depth.
    deep = GateMile::Reader.open({ "when" => { "all" => [{ "any" => [{ "fact" => "value" }] }] }, "then" => [{ "kind" => "hide" }], "id" => "r",
                                   "name" => "R" })
    Documents.read(GateMile::Rule, deep, GateMile::Currency["GBP"])
    assert_equal([["/when/all/0/any/0/from", :no_bound]], deep.problems.map { |one| [one.pointer, one.code] })
  end

  def test_what_is_usual_is_left_out_and_what_is_not_stays
    product = { "sku" => "A", "name" => "A", "price" => "1.00" }
    read = ->(more) { Documents.write(Documents.parse(GateMile::Product, product.merge(more), GateMile::Currency["GBP"])) }
    assert_equal product.merge("ships" => true), read.call("packing" => "any", "hazardous" => false, "tags" => [], "variants" => [])
    assert_equal product.merge("ships" => false, "packing" => "carton", "hazardous" => true),
                 read.call("packing" => "carton", "hazardous" => true, "ships" => false)
    plan = { "schedule" => { "kind" => "flat", "amount" => "1.00" } }
    assert_equal plan, Documents.write(Documents.parse(GateMile::Plan, plan.merge("group" => "cart", "combine" => "sum"), GateMile::Currency["GBP"]))
  end

  def test_amounts_of_a_plan_change_and_nothing_else_does
    steps = { "kind" => "steps", "measure" => "value", "edges" => "from",
              "steps" => [{ "at" => "0", "amount" => "4.00", "each" => "1.00", "increment" => "10" }, { "at" => "50", "amount" => "0.00" }] }
    grid = { "kind" => "grid", "rows" => { "measure" => "quantity", "edges" => "from", "at" => ["0"] },
             "columns" => { "measure" => "weight", "edges" => "up_to", "at" => ["0 kg"] }, "cells" => [["none"]] }
    once = { "carried" => true, "charge" => "once" }
    plan = { "group" => "class", "minimum" => "2.00", "handling" => { "fixed" => "1.00" }, "classes" => [{ "class" => "c", **once, "schedule" => steps }],
             "others" => { **once, "unclassed" => true, "schedule" => grid } }
    change = GateMile::PriceChange.new(GateMile::Percentage.parse("10"), GateMile::Money.parse("0.05", GateMile::Currency["GBP"]))
    after = Documents.write(change.of(Documents.parse(GateMile::Plan, plan, GateMile::Currency["GBP"])))
    assert_equal([["/classes/0/schedule/steps/0/amount", "4.00", "4.45"], ["/classes/0/schedule/steps/0/each", "1.00", "1.15"]],
                 change.amounts.map { |one| [one.pointer, one.before.to_s, one.after.to_s] })
    before = Documents.write(Documents.parse(GateMile::Plan, plan, GateMile::Currency["GBP"]))
    assert_equal before.except("classes"), after.except("classes"), "a minimum, handling and a cell that says no stay"
  end

  private

  def books
    random = Random.new(21)
    tools = [PlansSupport, PoliciesSupport, GoodsSupport].map { |name| Class.new { include name }.new }
    policies = Array.new(25) { tools[1].shop(random, offers: 6, rules: 6) }
    plans = Array.new(60) do
      rate = { "id" => "r", "zone" => "uk", "method" => "m", "plan" => tools[0].plan(random), "cost" => flat("1.00") }
      document(rates: [rate], products: tools[0].goods(random), classes: PlansSupport::CLASSES.map { |id| { "id" => id, "name" => id } })
    end
    (policies + plans + Array.new(25) { tools[2].goods_document(random) } + [demo]).map { |one| GateMile::Book.compile(one) }
  end

  def demo = JSON.parse(File.read(File.join(ROOT, "demo/book.json")))

  # A book and everything in it that has a form of its own.
  def values(book)
    plans = book.rates.flat_map { |rate| [rate.plan, rate.cost].compact }
    [book.store, book.store.basis, book.store.parcels, *book.store.boxes, *book.catalogue, *book.classes, *book.treatments, *book.zones,
     *book.zones.flat_map(&:areas), *book.methods_in_order, *book.methods_in_order.filter_map(&:delivery), *book.rates, *plans, *plans.filter_map(&:parcels),
     *book.rates.filter_map(&:live), *book.carriers, *book.offers, *book.rules, *book.rules.map(&:tree), *book.policies.groups, *book.policies.coupons]
  end

  # The part of the schema at which lists and fields lead, references followed.
  def at(path) = path.inject(SCHEMA) { |part, key| resolved(resolved(part).fetch("properties").fetch(key)) }

  def resolved(part)
    part = SCHEMA["$defs"].fetch(part["$ref"].split("/").last) if part["$ref"]
    part = resolved(part["items"]) if part["items"]
    (part["anyOf"] || part["oneOf"])&.find do |one|
      one["type"] != "null"
    end&.then { |one| one["$ref"] || one["items"] || one["properties"] ? resolved(one) : part } || part
  end

  def properties(part)
    own = part.fetch("properties", {}).keys
    (own + %w[allOf anyOf oneOf then].flat_map { |key| [part[key]].flatten.compact.flat_map { |one| properties(one) } }).uniq
  end

  # What a form asks for of an object that has nothing, or that says which kind it is.
  def read_by(kind)
    asked = {}
    [{}, *%w[class boxes one fixed].map { |text| { "kind" => text, "group" => text } }].each do |document|
      reader = Asked.new(document, asked)
      Documents.read(kind, reader, GateMile::Currency["GBP"], "Europe/London")
    end
    asked.keys
  end

  # A reader that notes which fields are asked for.
  class Asked < GateMile::Reader
    def initialize(document, asked)
      super(document)
      @asked = asked
    end

    def given?(key, read: false) = note(key) { super }

    private

    def fetch(key) = note(key) { super }

    def note(key)
      @asked[key] = true
      yield
    end
  end
end
