# frozen_string_literal: true

require_relative "../../support/plans"

class PlansTest < Minitest::Test
  include PlansSupport

  def test_a_slow_second_reading_agrees_on_generated_plans_and_carts
    random = Random.new(31)
    seen = Hash.new(0)
    Rounds.of(1500).times do
      plan = plan(random)
      shop = shop_with(plan, goods(random), random)
      sent = cart({ "lines" => Array.new(random.rand(1..4)) do |at|
        line("P#{at}", random.rand(1..6), discount: pick(random, %w[0 0 1.00 999]))
      end, "destination" => to("GB") })
      method = shop.quote(sent, at: AT).method_quotes.first
      expected = slowly(plan, units_of(shop, sent, plan), plan["parcels"])
      assert_equal [expected], [method.price&.minor], "#{JSON.generate(plan)} #{sent.dump} #{method.causes.map(&:code)}"
      seen[method.status] += 1
      assert_equal method.price, method.reckoning.select { |step| step.step == :ordinary }.last.amount, "the reckoning comes to the price" if method.price
      assert_equal shop.dump, GateMile::Book.compile(JSON.parse(JSON.generate(shop.dump))).dump
    end
    %i[available unavailable incomplete].each { |status| assert_operator seen[status], :>, Rounds.of(60), status }
  end

  # Common practice, no source: weight steps read "up to and including", value steps "at least"; class charges of 12 and 8 and a
  # chosen 0 make 20.
  def test_edges_and_classes_as_the_trade_reads_them
    weight = { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 kg", "amount" => "4.95" }, { "at" => "2 kg", "amount" => "7.50" },
                                                                     { "at" => "5 kg", "amount" => "7.50", "each" => "1.10", "increment" => "1 kg" },
                                                                     { "at" => "30 kg", "none" => true }] }
    price = lambda { |schedule, **fields|
      price_of({ "schedule" => schedule }, { "name" => "X", "quantity" => 1, "unit_price" => "1", **fields.transform_keys(&:to_s) })
    }
    assert_equal(["4.95", "7.50", "7.50", "8.60", "8.60", "9.70", "35.00", nil],
                 ["2 kg", "2.001 kg", "5 kg", "5.1 kg", "6 kg", "6.001 kg", "30 kg", "30.001 kg"].map { |weight_of| price.call(weight, weight: weight_of) })
    value = { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", "amount" => "5.95" }, { "at" => "75", "amount" => "0" }] }
    assert_equal(%w[5.95 0.00], %w[74.99 75.00].map { |value_of| price.call(value, unit_price: value_of) })
    # Ten items of 0.3 lb weigh exactly 3 lb (docs/engine.md, section 0).
    pounds = { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 lb", "amount" => "1" }, { "at" => "3 lb", "amount" => "2" }] }
    assert_equal "1.00", price.call(pounds, quantity: 10, weight: "0.3 lb")
    flats = { "group" => "class", "classes" => [%w[c 12], %w[d 8], %w[e 0]].map do |id, amount|
      { "class" => id, "schedule" => { "kind" => "flat", "amount" => amount } }
    end }
    classes = %w[c d e].map { |id| { "id" => id, "name" => id } }
    lines = %w[c d e].map { |id| { "name" => id, "quantity" => 2, "unit_price" => "1", "class" => id } }
    assert_equal "20.00", price_of(flats, *lines, classes: classes)
    assert_equal "12.00", price_of(flats.merge("combine" => "highest"), *lines, classes: classes)
    assert_nil price_of(flats, *lines, lines.first.except("class"), classes: classes), "goods without a class are not in everything else unless it is ticked"
  end

  # IATA's volumetric divisor of 6000 cm³/kg (IATA TACT Rules, section 3.9.4; from memory); the parcel trade's 5000 and 139 in³/lb
  # (common practice, no source).
  def test_billable_weight_by_the_published_divisors
    box = { "length" => "60 cm", "width" => "50 cm", "height" => "40 cm" } # 120,000 cm³: 20 kg by 6000, 24 kg by 5000
    steps = { "kind" => "steps", "measure" => "billable_weight", "edges" => "up_to", "steps" => (0..40).map do |kg|
      { "at" => "#{kg} kg", "amount" => (kg + 1).to_s }
    end }
    line = { "name" => "Box", "quantity" => 1, "unit_price" => "1", "weight" => "7 kg", "size" => box }
    by = ->(policy, sent = line) { price_of({ "schedule" => steps, "parcels" => policy }, sent) }
    assert_equal %w[20.00 24.00 7.00],
                 [by.call({ "kind" => "one", "divisor" => "6000" }), by.call({ "kind" => "one", "divisor" => "5000" }), by.call({ "kind" => "one" })]
    assert_equal "25.00", by.call({ "kind" => "unit", "divisor" => "6000" }, line.merge("weight" => "25 kg"))
    inches = { "length" => "20 in", "width" => "10 in", "height" => "13.9 in" } # 2780 in³: 20 lb, 9.07 kg
    assert_equal "10.00", by.call({ "kind" => "one", "divisor" => "139", "per" => "lb" }, line.merge("size" => inches))
    assert_equal :no_size, quote(shop_with({ "schedule" => steps, "parcels" => { "kind" => "one", "divisor" => "6000" } }, [], nil),
                                 [line.except("size")], to("GB")).method_quotes.first.causes.first.code
  end

  def test_adjustments_in_their_order
    adjust = lambda { |amount, **fields|
      price_of({ "schedule" => { "kind" => "flat", "amount" => amount }, **fields.transform_keys(&:to_s) },
               { "name" => "X", "quantity" => 2, "unit_price" => "1" })
    }
    assert_equal "8.71", adjust.call("9.96", handling: { "percent" => "-12.5" }) # docs/engine.md, section 0
    assert_equal "12.00", adjust.call("10.00", handling: { "fixed" => "1.00", "per" => "unit" })
    assert_equal %w[0.00 0.00 5.00],
                 [adjust.call("0", minimum: "5", ending: "0.95"), adjust.call("3", handling: { "fixed" => "-9" }), adjust.call("0.01", minimum: "5")]
    assert_equal %w[4.95 5.95 4.95 4.99],
                 [adjust.call("4.20", ending: "0.95"), adjust.call("4.96", ending: "0.95"), adjust.call("4.96", ending: "0.95", maximum: "5.00"),
                  adjust.call("4.99", ending: "0.95", maximum: "5.00", minimum: "4.96")]
    # A zero that only handling made is raised like any low price.
    assert_equal %w[2.00 0.95],
                 [adjust.call("3", handling: { "fixed" => "-9" }, minimum: "2"), adjust.call("3", handling: { "percent" => "-100" }, ending: "0.95")]
    assert_equal "0.40", adjust.call("0.40", ending: "0.00", maximum: "0.50")
  end

  def test_a_class_charged_for_each_unit_is_priced_one_unit_at_a_time
    weight = { "kind" => "steps", "measure" => "weight", "edges" => "from",
               "steps" => [{ "at" => "0 kg", "amount" => "2.00" }, { "at" => "2 kg", "amount" => "5.00" }] }
    first = { "kind" => "first", "first" => "6.00", "additional" => "1.50" }
    of = lambda { |charge, schedule, **more|
      { "group" => "class", "classes" => [{ "class" => "s", "charge" => charge, "schedule" => schedule }], **more.transform_keys(&:to_s) }
    }
    small = { "name" => "Small", "quantity" => 3, "unit_price" => "1", "weight" => "1 kg", "class" => "s" }
    heavy = small.merge("name" => "Heavy", "quantity" => 2, "weight" => "4 kg")
    price = ->(plan, *lines) { price_of(plan, *lines, classes: [{ "id" => "s", "name" => "s" }]) }
    assert_equal %w[6.00 5.00], [price.call(of.call("unit", weight), small), price.call(of.call("once", weight), small)]
    assert_equal "16.00", price.call(of.call("unit", weight), small, heavy), "3 of 2.00 and 2 of 5.00: each by its own weight"
    assert_equal %w[5.00 2.00],
                 [price.call(of.call("unit", weight, combine: "highest"), small, heavy), price.call(of.call("unit", weight, combine: "lowest"), small, heavy)]
    # For each unit every one is a first one; once, the others of the class are additional.
    assert_equal %w[18.00 9.00], [price.call(of.call("unit", first), small), price.call(of.call("once", first), small)]
    assert_equal(%w[9.00 9.00], %w[unit once].map { |charge| price.call(of.call(charge, first, combine: "dearest_first"), small) })
  end

  # Among equal first prices the one counts whose additional price is the highest: that costs least.
  def test_the_dearest_first_among_equals
    schedule = ->(additional) { { "kind" => "first", "first" => "5.00", "additional" => additional } }
    plan = { "group" => "class", "combine" => "dearest_first",
             "classes" => [{ "class" => "s", "schedule" => schedule.call("1.00") }, { "class" => "t", "schedule" => schedule.call("3.00") }] }
    classes = %w[s t].map { |id| { "id" => id, "name" => id } }
    one, other = %w[s t].map { |id| { "name" => id, "quantity" => 1, "unit_price" => "1", "class" => id } }
    [[one, other], [other, one]].each { |lines| assert_equal "6.00", price_of(plan, *lines, classes: classes) }
  end

  def test_only_an_amount_of_nothing_that_was_typed_is_a_chosen_zero
    steps = ->(**step) { { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", **step.transform_keys(&:to_s) }] } }
    free = { "name" => "X", "quantity" => 1, "unit_price" => "20", "discount" => "20" }
    price = ->(schedule, **more) { price_of({ "schedule" => schedule, **more.transform_keys(&:to_s) }, free) }
    tenth = steps.call(amount: "0", percent: "10")
    assert_equal %w[4.00 0.95], [price.call(tenth, minimum: "4"), price.call(tenth, ending: "0.95")]
    assert_equal %w[0.00 0.00], [price.call(steps.call(amount: "0"), minimum: "4"), price.call(steps.call(amount: "0", percent: "0"), minimum: "4")]
    assert_equal "0.00", price.call({ "kind" => "first", "first" => "0", "additional" => "3" }, minimum: "4"), "the first of one unit"
    classes = %w[c d].map { |id| { "id" => id, "name" => id } }
    mixed = lambda do |combine|
      plan = { "group" => "class", "combine" => combine, "minimum" => "4", "classes" => [{ "class" => "c", "schedule" => tenth },
                                                                                         { "class" => "d",
                                                                                           "schedule" => { "kind" => "flat", "amount" => "0" } }] }
      price_of(plan, free.merge("class" => "c"), free.merge("name" => "Y", "class" => "d"), classes: classes)
    end
    assert_equal %w[4.00 4.00 0.00], %w[sum highest lowest].map { |combine| mixed.call(combine) }, "a sum was chosen where all of it was"
  end

  def test_units_in_any_case_are_one_unit
    { "weight" => ["0 KG", "2 Kg", "5 kG"], "billable_weight" => ["0 Lb", "3 LB"], "longest" => ["0 IN", "20 In", "1 M"],
      "volume" => ["0 L", "2 L", "9000 CM3"] }
      .each do |measure, edges|
        steps = { "kind" => "steps", "measure" => measure, "steps" => edges.map do |at|
          { "at" => at, "amount" => "1", "each" => "0.10", "increment" => edges.last }
        end }
        grid = { "kind" => "grid", "rows" => { "measure" => measure, "at" => edges }, "columns" => { "measure" => measure, "at" => edges },
                 "cells" => edges.map { edges.map { "2.00" } } }
        [steps, grid].each do |schedule|
          plan = GateMile::Documents.parse(GateMile::Plan, { "schedule" => schedule }, GateMile::Currency["GBP"])
          small = { "schedule" => JSON.parse(JSON.generate(schedule).downcase) }
          assert_equal written(plan), written(GateMile::Documents.parse(GateMile::Plan, small, GateMile::Currency["GBP"]))
          line = { "name" => "X", "quantity" => 2, "unit_price" => "1", "weight" => "7 KG",
                   "size" => { "length" => "30 CM", "width" => "4 In", "height" => "0.1 M" } }
          shop = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => { "schedule" => schedule } }])
          assert_equal :available, quote(shop, [line], to("GB")).method_quotes.first.status, "#{measure} #{schedule["kind"]}"
          refute_empty GateMile::PriceLines.new(shop, cart({ "lines" => [line] }), "weight", 20 * GateMile::Weight::UNITS["kg"], at: AT).of["r"]
        end
      end
    list = GateMile::FromTo.new([["0", "5 KG", "1.00"], ["5 KG", "10 Kg", "2.00"]], "weight", "up_to", GateMile::Currency["GBP"], unit: "kg")
    assert_equal(["0 kg", "5 kg", "10 kg"], list.steps.map { |step| step["at"] })
    threshold = book(offers: [{ "id" => "o", "name" => "O", "threshold" => { "measure" => "weight", "from" => "5 KG" }, "effect" => { "kind" => "free" } }])
    assert_equal "5 kg", threshold.offers.first.threshold.from.text
    refute_empty quote(threshold, [line], to("GB")).dump["offers"]
  end

  def test_what_can_not_be_a_plan_is_told_at_its_place
    read = ->(plan) { problems_of { GateMile::Documents.parse(GateMile::Plan, plan, GateMile::Currency["GBP"]) } }
    steps = lambda { |measure, *at, **more|
      { "schedule" => { "kind" => "steps", "measure" => measure, "steps" => at.map do |text|
        { "at" => text, "amount" => "1" }.merge(more.transform_keys(&:to_s))
      end } }
    }
    assert_equal [["/schedule/steps/2/at", :edge_twice]], read.call(steps.call("weight", "0 kg", "2 kg", "2000 g"))
    assert_equal [["/schedule/steps/2/at", :edge_order]], read.call(steps.call("value", "0", "9", "5"))
    assert_equal [["/schedule/steps/0/at", :scale_first]], read.call(steps.call("quantity", "1"))
    assert_equal [["/schedule/steps/0/at", :not_whole]], read.call(steps.call("quantity", "1.5"))
    assert_equal [["/schedule/steps/0/increment", :zero]], read.call(steps.call("weight", "0 kg", each: "1", increment: "0 kg"))
    assert_equal [["/schedule/steps/0/increment", :missing]], read.call(steps.call("weight", "0 kg", each: "1"))
    assert_equal [["/schedule/steps/0/percent", :out_of_percent]], read.call(steps.call("weight", "0 kg", percent: "101"))
    assert_equal [["/schedule/steps/0/amount", :not_an_amount]], read.call(steps.call("weight", "0 kg", amount: "£4"))
    flat = { "schedule" => { "kind" => "flat", "amount" => "1" } }
    assert_equal [["/minimum", :above_maximum]], read.call(flat.merge("minimum" => "5", "maximum" => "4"))
    assert_equal [["/ending", :ending_large]], read.call(flat.merge("ending" => "1.00"))
    assert_equal [["/combine", :needs_first]], read.call(flat.merge("combine" => "dearest_first", "group" => "product"))
    assert_equal [["/parcels/divisor", :zero]], read.call(flat.merge("parcels" => { "kind" => "one", "divisor" => "0" }))
    grid = { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "1 kg"] }, "columns" => { "measure" => "value", "at" => ["0"] },
             "cells" => [["1"]] }
    assert_equal [["/schedule/cells", :grid_size]], read.call({ "schedule" => grid })
    assert_equal [["/schedule/cells/1/0", :not_an_amount]], read.call({ "schedule" => grid.merge("cells" => [["1"], ["x"]]) })
    assert_equal [["/schedule/rows/at/1", :edge_twice]],
                 read.call({ "schedule" => grid.merge("rows" => { "measure" => "weight", "at" => ["0 kg", "0 g"] }, "cells" => [[nil], [nil]]) })
  end

  def test_a_rate_inside_its_zone_and_a_grid_by_area
    inside = [{ "kind" => "country", "country" => "GB", "only" => ["TR"] }]
    areas = [{ "name" => "Cornwall", "areas" => inside }, { "name" => "Elsewhere", "areas" => [country("GB")] }]
    grid = { "schedule" => { "kind" => "grid", "rows" => { "measure" => "quantity", "at" => ["0"] }, "columns" => { "areas" => areas }, "cells" => [%w[2 5]] } }
    shop = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("1"), "areas" => inside, "cost" => flat("0.70") },
                        { "id" => "s", "zone" => "uk", "method" => "n", "plan" => grid }])
    found = lambda { |postcode|
      quote(shop, [line], { "country" => "GB", "postcode" => postcode }.compact).method_quotes.sort_by(&:rate).map do |method|
        method.price&.to_s || method.causes.first.code
      end
    }
    assert_equal %w[1.00 2.00], found.call("TR29 4ZZ")
    assert_equal [:outside_areas, "5.00"], found.call("PA2 0AB")
    assert_equal ["1.00", :address_open], found.call(nil), "inside is as good as anywhere in the zone; which column is not"
    assert_equal "0.70", quote(shop, [line], { "country" => "GB", "postcode" => "TR29 4ZZ" }).method_quotes.first.cost.to_s
    elsewhere = shop.board(cart({ "lines" => [line], "destination" => to("FR") }), at: AT)["uk"]
    assert_equal([["r", :available], ["s", :unavailable]], elsewhere.sort_by(&:rate).map { |method| [method.rate, method.status] })
  end

  private

  def shop_with(plan, goods, random)
    store = STORE.merge("tax_classes" => [{ "id" => "s", "name" => "S", "rate" => "20" }])
    store = store.merge("prices_include_tax" => false) if random&.rand(2)&.zero?
    book(store: store, products: goods, classes: CLASSES.map { |id| { "id" => id, "name" => id.upcase } },
         rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
  end

  def price_of(plan, *lines, classes: [])
    shop = book(classes: classes, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
    quote(shop, lines, to("GB")).method_quotes.first.price&.to_s
  end

  # The lines as the slow reading takes them: values of single units, weights and sides in base units.
  def units_of(shop, sent, plan)
    basis = shop.store.basis_for(plan["basis"] && GateMile::Documents.parse(GateMile::Basis, plan["basis"]))
    shop.basket(sent).lines.map do |item|
      value = item.minor(basis)
      each, more = value.divmod(item.quantity)
      { values: Array.new(item.quantity) { |at| at < more ? each + 1 : each }, weight: item.weight && Rational(item.weight.base, item.quantity),
        sides: item.size && [item.size.length, item.size.width, item.size.height].map(&:base), class: item.shipping_class, kin: item.kin,
        sku: item.sku.downcase }
    end
  end
end
