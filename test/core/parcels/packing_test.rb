# frozen_string_literal: true

require_relative "../../support/core"

class PackingTest < Minitest::Test
  include CoreSupport

  def box(id, sides, **fields)
    reader = GateMile::Reader.new({ "id" => id, "name" => id, "size" => size(*sides), **fields.transform_keys(&:to_s) })
    GateMile::Documents.read(GateMile::Box, reader, GateMile::Currency["GBP"]).tap { assert_empty reader.problems }
  end

  def size(*sides) = GateMile::Sides::NAMES.zip(sides.map { |side| "#{side} cm" }).to_h

  def item(sides, times: 1, grams: 100, upright: false)
    GateMile::Packing::Item.new(sides.map { |side| side * GateMile::Length::UNITS["cm"] }, grams * GateMile::Weight::UNITS["g"], upright, times, nil)
  end

  # Whatever is packed: nothing is lost or made up, nothing overlaps or sticks out of its box, nothing is too heavy,
  # "this side up" stays up; and the same goods are packed alike.
  def test_every_packing_is_sound
    random = Random.new(21)
    150.times do |round|
      boxes = Array.new(random.rand(1..4)) do |at|
        box("b#{at}", Array.new(3) { random.rand(15..60) }, up_to: ["8 kg", nil].sample(random: random), cost: ["0.40", "1.10", nil].sample(random: random),
                                                            tare: "0.2 kg", padding: ["0.5 cm", nil].sample(random: random))
      end
      packing = GateMile::Packing.new(boxes)
      items = Array.new(random.rand(1..8)) do
        item(Array.new(3) { random.rand(1..25) }, times: random.rand(1..15), grams: random.rand(0..4000), upright: random.rand(4).zero?)
      end
      # The same goods on two lines are two items.
      items += Array.new(random.rand(0..2)) { items.sample(random: random).dup }
      items -= packing.misfits(items)
      next if items.empty?

      packed = packing.pack(items)
      assert_equal items.to_h { |one| [one, one.times] }, counted(packed), round
      packed.each { |one| sound(one) }
      assert_equal packed, GateMile::Packing.new(boxes).pack(items)
    end
  end

  def counted(packed)
    packed.each_with_object(Hash.new(0)) { |one, found| one.contents.each { |item, count| found[item] += count * one.times } }
  end

  def sound(one)
    room = one.box.room
    spans = one.blocks.map { |block| block.at.zip(block.extent).map { |from, long| [from, from + long] } }
    spans.each { |span| span.each_with_index { |(from, to), axis| assert(from >= 0 && to <= room[axis]) } }
    spans.combination(2) { |first, second| assert(first.zip(second).any? { |(from, to), (start, finish)| to <= start || finish <= from }) }
    assert_operator one.weight, :<=, one.box.up_to.base if one.box.up_to
    one.blocks.each do |block|
      assert_equal block.item.sides.sort, block.dims.sort
      assert_equal block.item.sides[2], block.dims[2] if block.item.upright
    end
  end

  # Worked by hand: eight cubes of 10 cm fill a box of 20 cm, and nine need another; the cheaper box wins, then the
  # lighter one to bill; goods that fit nowhere are named; half a million units are packed at once.
  def test_packings_worked_by_hand
    cube = item([10, 10, 10], times: 9)
    small = box("small", [10, 10, 10], cost: "0.50")
    large = box("large", [20, 20, 20], cost: "1.00")
    shape = ->(packed) { packed.map { |one| [one.box.id, one.units, one.times] } }
    assert_equal [["large", 8, 1], ["small", 1, 1]], shape.call(GateMile::Packing.new([small, large]).pack([cube]))
    dear = box("large", [20, 20, 20], cost: "9.00")
    assert_equal [["small", 1, 9]], shape.call(GateMile::Packing.new([small, dear]).pack([cube]))
    long = item([31, 1, 1])
    assert_equal [long], GateMile::Packing.new([large]).misfits([long])
    assert_equal [["large", 8, 62_500]], shape.call(GateMile::Packing.new([large]).pack([item([10, 10, 10], times: 500_000)]))
    pole = item([10, 10, 30], upright: true)
    flat = box("flat", [40, 20, 20])
    assert_equal [[], [pole]], [GateMile::Packing.new([flat]).misfits([item([10, 10, 30])]), GateMile::Packing.new([flat]).misfits([pole])]
    limited = box("limited", [40, 40, 40], up_to: "1 kg", tare: "0.1 kg")
    assert_equal [["limited", 9, 2], ["limited", 2, 1]], shape.call(GateMile::Packing.new([limited]).pack([item([2, 2, 2], times: 20)]))
  end

  # Against the true optimum, where it can be worked out: cubes into boxes of whole cubes (each count by dynamic
  # programming over the ones before it), and staves into one box (every partition tried).
  def test_boxes_cost_about_as_little_as_they_can
    random = Random.new(5)
    got = Array.new(300) { cubes(random) }
    assert_operator got.count { |cost, least| cost == least }, :>=, 295
    got.each { |cost, least| assert_includes least..(least * 5 / 4), cost }
    staves = Array.new(150) { staves(random) }
    assert_operator staves.count { |used, fewest| used == fewest }, :>=, 147
    staves.each { |used, fewest| assert_includes fewest..(fewest + 1), used }
  end

  def cubes(random)
    boxes = Array.new(random.rand(1..4)) do |at|
      sides = Array.new(3) { random.rand(1..4) }
      [box("b#{at}", sides.map { |side| side * 10 }, cost: format("%.2f", random.rand(20..300)/100r)), sides.inject(:*)]
    end
    units = random.rand(1..40)
    least = (1..units).inject([0]) { |found, count| found << boxes.map { |one, holds| one.cost.minor + found[[count - holds, 0].max] }.min }
    [GateMile::Packing.new(boxes.map(&:first)).pack([item([10, 10, 10], times: units)]).sum { |one| one.box.cost.minor * one.times }, least.last]
  end

  def staves(random)
    long = random.rand(10..30)
    lengths = Array.new(random.rand(1..7)) { random.rand(1..long) }
    items = lengths.tally.map { |length, times| item([length, 1, 1], times: times) }
    [GateMile::Packing.new([box("b", [long, 1, 1])]).pack(items).sum(&:times), fewest(lengths, long)]
  end

  def fewest(lengths, long, filled = [])
    return filled.size if lengths.empty?

    first, *rest = lengths
    more = filled.each_index.select { |at| filled[at] + first <= long }.map do |at|
      fewest(rest, long, filled.each_with_index.map { |sum, other| other == at ? sum + first : sum })
    end
    [fewest(rest, long, filled + [first]), *more].min
  end

  # However goods are spread over lines, and in whatever order, they are packed alike, and nothing of their value is lost.
  def test_parcels_do_not_depend_on_lines
    random = Random.new(8)
    goods = Array.new(6) do |at|
      { "sku" => "P#{at}", "name" => "Product #{at}", "price" => format("%.2f", random.rand(1..900)/7r), "weight" => "#{random.rand(1..30) * 100} g",
        "size" => size(*Array.new(3) { random.rand(2..24) }), "packing" => %w[any upright any carton].sample(random: random) }
    end
    boxes = [[20, 15, 10, "0.40"], [30, 30, 30, "0.90"], [60, 40, 40, "2.10"]].map.with_index do |(*sides, cost), at|
      { "id" => "b#{at}", "name" => "Box #{at}", "size" => size(*sides), "cost" => cost, "up_to" => "12 kg", "tare" => "0.2 kg" }
    end
    shop = book(products: goods, store: STORE.merge("boxes" => boxes, "parcels" => { "kind" => "boxes", "divisor" => "5000" }))
    60.times do
      lines = goods.sample(random.rand(1..4), random: random).map { |one| line(one["sku"], random.rand(2..20), discount: "0.0#{random.rand(0..9)}") }
      split = lines.flat_map do |one|
        first = random.rand(1...one["quantity"])
        [one.merge("quantity" => first), one.merge("quantity" => one["quantity"] - first, "discount" => "0.00")]
      end
      one, other = [lines, split.shuffle(random: random)].map { |sent| parcels(shop, sent) }
      assert_equal one, other, lines.inspect
      again = split.shuffle(random: random)
      assert_equal asked(shop, split), asked(shop, again), "the order of lines has no say in what carriers are asked, values and all"
    end
  end

  # Without a SKU a line is told apart by its name and place; whatever the policy, the order of lines has no say.
  def test_the_order_of_lines_changes_no_parcel
    boxes = [{ "id" => "b", "name" => "Box", "size" => size(30, 30, 30), "up_to" => "3 kg" }]
    line = ->(name, units, kilos) { { "name" => name, "quantity" => units, "unit_price" => "2.50", "weight" => "#{kilos} kg", "size" => size(5, 5, 5) } }
    lines = [line.call("Shackle", 7, "0.7"), line.call("Ring", 2, "0.2")]
    [{ "kind" => "boxes" }, { "kind" => "one", "up_to" => "3 kg" }, { "kind" => "one" }, { "kind" => "unit" }].each do |policy|
      shop = book(store: STORE.merge("boxes" => boxes, "parcels" => policy))
      assert_equal asked(shop, lines), asked(shop, lines.reverse), policy
    end
    random = Random.new(12)
    40.times do
      shop = book(store: STORE.merge("boxes" => boxes, "parcels" => [{ "kind" => "boxes" }, { "kind" => "one", "up_to" => "3 kg" }].sample(random: random)))
      lines = Array.new(random.rand(2..6)) do |at|
        line.call("G#{at}", random.rand(1..9), format("%.1f", random.rand(1..29)/10r)).merge("unit_price" => "#{random.rand(1..9)}.00")
      end
      assert_equal asked(shop, lines), asked(shop, lines.shuffle(random: random)), lines.inspect
    end
  end

  def test_goods_are_told_apart_by_what_they_are
    ropes = [%w[R1 3.00], %w[R2 9.00]].map { |sku, price| { "sku" => sku, "name" => "Rope", "price" => price, "weight" => "1 kg", "size" => size(10, 10, 10) } }
    shop = book(products: ropes,
                store: STORE.merge("boxes" => [{ "id" => "b", "name" => "B", "size" => size(40, 40, 40) }], "parcels" => { "kind" => "boxes" }))
    basket = shop.basket(cart({ "lines" => [line("R1", 2), line("R2", 3), line("r1", 1)] }))
    parcel = GateMile::View.of(nil, shop.store).parcels(basket.shipping).first
    assert_equal [["r1", "Rope", 3], ["r2", "Rope", 3]], parcel.contents.map(&:to_a)
    assert_equal [["Rope"], 6, 3600], [parcel.names, parcel.units, parcel.value]
    named = { "name" => "Rope", "quantity" => 1, "unit_price" => "1.00", "size" => size(10, 10, 10) }
    basket = shop.basket(cart({ "lines" => [named.merge("weight" => "1 kg"), named] }))
    view = GateMile::View.new(basis: shop.store.basis, policy: GateMile::ParcelPolicy.new(kind: :unit, per: "kg"), boxes: [])
    loads = view.parcels(basket.shipping).map { |one| GateMile::Load::OfParcel.new(nil, one, basket.shipping, view) }
    assert_equal [[], ["Rope"]], loads.map(&:unweighed), "only the one of which no weight is known is told to lack it"
  end

  # A bound on its work, counted and not timed: many kinds of goods over many boxes end after a stated number of looks.
  def test_the_work_of_one_attempt_is_bounded
    random = Random.new(5)
    boxes = Array.new(25) do |at|
      box("b#{at}", Array.new(3) do
        random.rand(15..80)
      end, cost: [nil, "0.#{random.rand(20..99)}"].sample(random: random), up_to: at.odd? ? "25 kg" : nil)
    end
    items = Array.new(220) { item(Array.new(3) { random.rand(1..14) }, times: 20, grams: random.rand(50..1500)) }
    packing = GateMile::Packing.new(boxes)
    items -= packing.misfits(items)
    packed = packing.pack(items)
    assert_equal items.to_h { |one| [one, one.times] }, counted(packed)
    packed.each { |one| sound(one) }
    assert_operator packing.looks, :<, 1_500_000
    shuffled = GateMile::Packing.new(boxes).pack(items.shuffle(random: random))
    assert_equal packing.score(packed), packing.score(shuffled)
  end

  # What carriers are asked of a cart's parcels, each kind counted.
  def asked(shop, lines)
    basket = shop.basket(cart({ "lines" => lines, "destination" => to("GB") }))
    found = GateMile::View.of(nil, shop.store).parcels(basket.shipping)
    found.map { |one| written(GateMile::AskedParcel.of(one, shop.currency)) }.group_by { |one| one.except("count") }
         .transform_values { |same| same.sum { |one| one["count"] } }
  end

  # What is in them, and what all of it is worth.
  def parcels(shop, lines)
    basket = shop.basket(cart({ "lines" => lines, "destination" => to("GB") }))
    found = GateMile::View.of(nil, shop.store).parcels(basket.shipping)
    counts = found.each_with_object(Hash.new(0)) { |one, all| all[[one.packed&.box&.id, one.contents.map(&:to_a).sort, one.weight, one.volume]] += one.times }
    [counts, found.sum { |one| one.value * one.times }]
  end

  # Through a whole quote: parcels by boxes, an own carton beside them, volumetric weight of the outer box by IATA's divisor.
  def test_boxes_in_a_plan
    steps = { "schedule" => { "kind" => "steps", "measure" => "billable_weight",
                              "steps" => [{ "at" => "0 kg", "amount" => "3.00", "each" => "1.00", "increment" => "1 kg" }] } }
    goods = [{ "sku" => "C", "name" => "Cube", "price" => "1.00", "weight" => "0.5 kg", "size" => size(10, 10, 10) },
             { "sku" => "O", "name" => "Oar", "price" => "9.00", "weight" => "3 kg", "size" => size(90, 10, 10), "packing" => "carton" },
             { "sku" => "N", "name" => "No size", "price" => "1.00", "weight" => "1 kg" },
             { "sku" => "X", "name" => "Mast", "price" => "1.00", "weight" => "1 kg", "size" => size(300, 5, 5) }]
    boxes = [{ "id" => "m", "name" => "Medium", "size" => size(30, 20, 20), "tare" => "0.3 kg", "cost" => "0.80" }]
    shop = book(products: goods, store: STORE.merge("boxes" => boxes), rates: [{
                  "id" => "r", "zone" => "uk", "method" => "m",
                  "plan" => { "group" => "parcel", **steps, "parcels" => { "kind" => "boxes", "divisor" => "6000" } }
                }])
    assert_equal shop.dump, GateMile::Book.compile(shop.dump).dump
    pays = ->(*lines) { quote(shop, lines, to("GB")).method_quotes.first.then { |one| one.price&.to_s || one.causes.map(&:code) } }
    # 12 cubes: 6.3 kg against 12000/6000 = 2 kg, seven started kilograms; one more needs a second box: 0.8 against 2 kg.
    assert_equal ["10.00", "15.00"], [pays.call(line("C", 12)), pays.call(line("C", 13))]
    # Two lines alike are two lines.
    assert_equal ["10.00", "15.00"], [pays.call(line("C", 6), line("C", 6)), pays.call(line("C", 7), line("C", 6))]
    # The oar is 3 kg against 9000/6000 = 1.5 kg.
    assert_equal "11.00", pays.call(line("O"), line("C", 2))
    assert_equal [[:no_size], [:no_box]], [pays.call(line("N")), pays.call(line("X"))]
    bad = { "id" => "b", "name" => "Bad", "size" => size(4, 4, 4), "padding" => "2 cm" }
    assert_equal([["/store/boxes/0/padding", :padding_large]], problems_of { book(store: STORE.merge("boxes" => [bad])) })
  end
end
