# frozen_string_literal: true

require_relative "../../support/plans"

class RateToolsTest < Minitest::Test
  include PlansSupport

  GBP = GateMile::Currency["GBP"]

  # A list with every kind of misfit, and what closing each makes of it.
  def test_from_to_lists
    rows = [%w[0.5 2 4.95], %w[2 5 7.50], %w[8 10 £9.00], %w[9.5 20 12]]
    found = from_to(rows, unit: "kg")
    assert_equal %i[shared_edge missing_bottom gap overlap ends], found.issues.map(&:kind)
    assert_equal [["0 kg", "4.95"], ["2 kg", "7.50"], ["5 kg", "none"], ["8 kg", "9.00"], ["9.5 kg", "12.00"], ["20 kg", "none"]],
                 pairs_of(found)
    choices = { "missing_bottom:0 kg" => "none", "gap:5 kg" => "lower", "overlap:9.5 kg" => "lower", "ends:20 kg" => "lower" }
    assert_equal [["0 kg", "none"], ["0.5 kg", "4.95"], ["2 kg", "7.50"], ["8 kg", "9.00"], ["10 kg", "12.00"]],
                 pairs_of(from_to(rows, unit: "kg", choices: choices))
    hole = [["0", "49.99", "5.95"], ["50", "", "0"]]
    assert_equal [%i[penny_hole open_top], [["0", "5.95"], ["50", "0.00"]]],
                 [from_to(hole, "value", "from").issues.map(&:kind), pairs_of(from_to(hole, "value", "from"))]
    assert_equal [["0", "5.95"], ["49.99", "0.00"]], pairs_of(from_to(hole, "value"))
    bad = from_to([%w[5 2 1], %w[x 3 1], %w[3 4 free]], unit: "kg")
    told = bad.problems.map { |problem| [problem.pointer, problem.code] }
    assert_equal [["/rows/0/to", :range_backwards], ["/rows/1/from", :not_a_measure], ["/rows/2/amount", :not_an_amount]], told
  end

  # Whatever is closed how: the steps are a schedule, and a quantity that one pair alone names pays what that pair says.
  def test_every_from_to_list_makes_a_schedule
    random = Random.new(7)
    checked = 0
    Rounds.of(400).times do
      rows = Array.new(random.rand(1..5)) { [random.rand(0..9), random.rand(0..14)].sort.map(&:to_s) + [money(random)] }
      edges = pick(random, %w[from up_to])
      first = from_to(rows, "quantity", edges)
      made = from_to(rows, "quantity", edges, choices: first.issues.to_h { |issue| [issue.key, pick(random, %w[lower upper none])] })
      document = { "schedule" => { "kind" => "steps", "measure" => "quantity", "edges" => edges, "steps" => made.steps } }
      assert_empty(problems_of { GateMile::Documents.parse(GateMile::Plan, document, GBP) }, rows.inspect)
      shop = book(products: [{ "sku" => "P", "name" => "P", "price" => "1" }],
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => document }])
      (1..15).each do |units|
        named = rows.select { |from, to, _| units.between?(Integer(from, 10), Integer(to, 10)) }
        next if named.size != 1 || rows.any? { |row| row != named.first && row.first(2).include?(units.to_s) }

        checked += 1
        assert_equal [GateMile::Money.parse(named.first.last, GBP)], [price(shop, [line("P", units)])], [rows, edges, units].inspect
      end
    end
    assert_operator checked, :>, Rounds.of(1000)
  end

  # Steps, rows and columns in any order read as the same plan; a problem stands where it was written.
  def test_edges_in_any_order
    random = Random.new(3)
    150.times do
      document = plan(random)
      [document["schedule"], *document.fetch("classes", []).map { |item| item["schedule"] }].compact.each { |schedule| shuffle(schedule, random) }
      assert_equal GateMile::PlanOrder.of(document, GBP), GateMile::PlanOrder.of(GateMile::PlanOrder.of(document, GBP), GBP)
      ordered = GateMile::Documents.parse(GateMile::Plan, GateMile::PlanOrder.of(document, GBP), GBP)
      assert_equal written(ordered), written(GateMile::PlanOrder.parse(document, GBP))
    end
    axis = ->(measure, *edges) { { "measure" => measure, "at" => edges } }
    grid = ->(rows, columns, cells) { { "schedule" => { "kind" => "grid", "rows" => rows, "columns" => columns, "cells" => cells } } }
    assert_equal grid.call(axis.call("weight", "0 kg", "2 kg"), axis.call("value", "0", "50"), [%w[1 2], %w[3 4]]),
                 GateMile::PlanOrder.of(grid.call(axis.call("weight", "2 kg", "0 kg"), axis.call("value", "50", "0"), [%w[4 3], %w[2 1]]), GBP)
    steps = lambda { |*edges|
      { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => edges.map { |at, amount| { "at" => at, "amount" => amount } } } }
    }
    told = ->(document) { problems_of { GateMile::PlanOrder.parse(document, GBP) } }
    assert_equal [["/schedule/steps/0/amount", :not_an_amount]], told.call(steps.call(["5 kg", "dear"], ["0 kg", "1"]))
    assert_equal [["/schedule/steps/0/at", :scale_first]], told.call(steps.call(["1 kg", "1"], ["5 kg", "2"]))
    assert_equal [["/schedule/steps/3/at", :edge_twice]],
                 told.call(steps.call(["0 kg", "1"], ["5 kg", "1"], ["3 kg", "2"], ["3000 g", "2"]))
  end

  def test_all_amounts_changed_at_once
    change = GateMile::PriceChange.new(GateMile::Percentage.parse("10"), GateMile::Money.parse("-0.50", GBP))
    plan = { "group" => "class", "classes" => [{ "class" => "c", "schedule" => { "kind" => "first", "first" => "5.00", "additional" => "0" } }],
             "others" => { "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg"] },
                                           "columns" => { "measure" => "value", "at" => %w[0 9] }, "cells" => [["0.40", "none"]] } },
             "minimum" => "3.00" }
    changed = GateMile::Documents.write(change.of(GateMile::Documents.parse(GateMile::Plan, plan, GBP)))
    assert_equal([["/classes/0/schedule/first", "5.00", "5.00"], ["/others/schedule/cells/0/0", "0.40", "0.00"]].drop(1), change.amounts.map do |one|
      [one.pointer, one.before.to_s, one.after.to_s]
    end)
    assert_equal ["5.00", "0.00", [["0.00", "none"]], "3.00"],
                 [*changed["classes"][0]["schedule"].values_at("first", "additional"), changed["others"]["schedule"]["cells"], changed["minimum"]]
  end

  # The nearest gates against a plain walk, unit by unit, of every line: none is missing, none is nearer.
  def test_next_gates_are_the_nearest_ones
    random = Random.new(12)
    found = 0
    90.times do
      shop = book(products: goods(random), classes: CLASSES.map { |id| { "id" => id, "name" => id } },
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan(random) }])
      lines = Array.new(2) { |at| line("P#{at}", random.rand(1..4)) }
      gates = GateMile::NextGates.new(shop, cart({ "lines" => lines, "destination" => to("GB") }), at: AT).list
      [1, -1].each do |sign|
        expected = nearest(shop, lines, sign, 24)
        gate = gates.find { |one| (one.by <=> 0) == sign }
        next assert(gate.nil? || gate.by.abs > 24, [lines, written(shop.rates.first)].inspect) if expected.nil?

        found += 1
        assert_equal expected, gate&.to_a&.drop(1), [lines, written(shop.rates.first)].inspect
      end
    end
    assert_operator found, :>, 50
  end

  # @return [Array, nil] line, units more or fewer, and the price then
  def nearest(shop, lines, sign, most)
    now = price(shop, lines)
    (1..most).each do |by|
      lines.each_index do |at|
        units = lines[at]["quantity"] + (by * sign)
        next unless units.positive?

        other = price(shop, lines.each_with_index.map { |item, place| place == at ? item.merge("quantity" => units) : item })
        return [at, by * sign, other] if other != now
      end
    end
    nil
  end

  def test_what_classes_cost_in_every_zone
    by_class = [{ "class" => "c", "charge" => "unit", "schedule" => { "kind" => "flat", "amount" => "3" } }, { "class" => "d", "carried" => false }]
    rates = [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => { "group" => "class", "classes" => by_class } },
             { "id" => "s", "zone" => "all", "method" => "m", "plan" => flat("1") }]
    products = [%w[A c], %w[B d], ["C", nil]].map { |sku, group| { "sku" => sku, "name" => sku, "price" => "1", "class" => group }.compact }
    table = GateMile::ClassTable.new(book(products: products, classes: CLASSES.map { |id| { "id" => id, "name" => id } }, rates: rates))
    assert_equal(%w[A B C], table.examples.values.map(&:name))
    assert_equal([["r", [%w[3.00 6.00 15.00], [:not_carried] * 3, [:no_class_price] * 3]], ["s", [%w[1.00 1.00 1.00]] * 3]],
                 table.rows.map { |row| [row.rate, row.prices.values.map { |list| list.map { |price| price.is_a?(Symbol) ? price : price.to_s } }] })
  end

  def test_each_finding_about_rates
    steps = lambda { |*pairs, **more|
      { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => pairs.map do |at, amount|
        amount ? { "at" => at, "amount" => amount } : { "at" => at, "none" => true }
      end }.merge(more.transform_keys(&:to_s)) }
    }
    found = lambda { |plan, *others, **parts|
      rates = [plan, *others].zip(%w[m n]).map do |one, method|
        { "id" => method, "zone" => "uk", "method" => method, "plan" => one }.merge(one.to_h.slice("cost")).merge("plan" => one&.except("cost"))
      end
      shop = book(zones: [{ "id" => "uk", "name" => "UK", "areas" => [country("GB")] }], rates: rates, **parts)
      findings(shop).select { |finding| GateMile::Finding::HARMS.include?(finding.harm) && finding.zone }.map(&:code)
    }
    assert_equal [:free_beside_paid], found.call(flat("0"), flat("5"))
    assert_empty found.call(flat("0"), flat("5"),
                            methods: [{ "id" => "m", "code" => "M", "name" => "M", "kind" => "collection" }, { "id" => "n", "code" => "N", "name" => "N" }])
    assert_equal [:rates_alike], found.call(flat("5"), flat("5.00"))
    assert_equal [:rates_alike], found.call(*Array.new(2) { steps.call(["0 kg", "5"], ["2 kg", "6"]) })
    assert_equal [:falling], found.call(steps.call(["0 kg", "5"], ["2 kg", "4"]))
    assert_empty found.call(steps.call(["0 kg", "5"], ["2 kg", "5"]))
    assert_equal %i[zone_ends ends_early], found.call(steps.call(["0 kg", "5"], ["0.1 kg", nil]))
    assert_equal [:loss], found.call(flat("2").merge("cost" => flat("3")))
    assert_equal [:out_of_reach],
                 found.call({ "schedule" => { "kind" => "steps", "measure" => "quantity",
                                              "steps" => [{ "at" => "0", "amount" => "5" }, { "at" => "1", "amount" => "9" }] } })
    grid = { "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg"] }, "columns" => { "measure" => "value", "at" => ["0"] },
                             "cells" => [[nil]] } }
    assert_equal [:blank_cells], found.call(grid)
    assert_equal [:no_class_price], found.call({ "group" => "class", "classes" => [] })
    assert_equal %i[nothing_left not_carried], found.call({ "group" => "class", "classes" => [], "others" => { "carried" => false, "unclassed" => true } })
    assert_equal %i[nobody_buys no_rate], findings(book(zones: [{ "id" => "uk", "name" => "UK", "areas" => [country("GB")] }], rates: [])).map(&:code)
  end

  def test_own_prices_far_from_the_ordinary_ones_and_the_order_of_findings
    shop = lambda { |own|
      treatment = { "id" => "t", "name" => "T", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => own } } }
      rates = [%w[m 6], %w[n 0]].map { |method, amount| { "id" => method, "zone" => "uk", "method" => method, "plan" => flat(amount) } }
      book(products: [{ "sku" => "A", "name" => "A", "price" => "1", "weight" => "1 kg", "treatments" => ["t"] }], treatments: [treatment], rates: rates)
    }
    far = ->(own) { findings(shop.call(own)).find { |finding| finding.code == :own_price_far } }
    told = %w[1.99 2 18 18.01 0].map { |own| far.call(own)&.numbers.to_h.slice(:price, :ordinary).values.map(&:to_s) }
    assert_equal [%w[1.99 6.00], [], [], %w[18.01 6.00], []], told
    assert_equal %i[free_beside_paid no_rate own_price_far], findings(shop.call("1")).map(&:code).first(3)
    assert_equal far.call("1").key, far.call("1").key
    refute_equal far.call("1").key, far.call("1.01").key
  end

  private

  def shuffle(schedule, random)
    case schedule["kind"]
    when "steps" then schedule["steps"] = schedule["steps"].shuffle(random: random)
    when "grid"
      order = (0...schedule["rows"]["at"].size).to_a.shuffle(random: random)
      schedule["rows"] = schedule["rows"].merge("at" => schedule["rows"]["at"].values_at(*order))
      schedule["cells"] = schedule["cells"].values_at(*order)
    end
  end

  def from_to(rows, measure = "weight", edges = "up_to", **more)
    GateMile::FromTo.new(rows, measure, edges, GBP, **more)
  end

  def pairs_of(found) = found.steps.map { |step| [step["at"], step["amount"] || "none"] }

  def price(shop, lines) = quote(shop, lines, to("GB")).method_quotes.first.price
end
