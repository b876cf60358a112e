# frozen_string_literal: true

require_relative "core"

# Random plans and carts, and a plain, slow second reading of section 4 of docs/engine.md: every unit by itself, every
# boundary looked at one after the other, every ending found by counting up.
module PlansSupport
  include CoreSupport

  CLASSES = %w[c d].freeze
  MEASURES = %w[weight billable_weight value quantity volume longest].freeze
  POLICIES = [nil, { "kind" => "one", "divisor" => "5000" }, { "kind" => "one", "up_to" => "4 kg", "divisor" => "6000" },
              { "kind" => "unit", "divisor" => "139", "per" => "lb" },
              { "kind" => "fixed", "size" => { "length" => "40 cm", "width" => "30 cm", "height" => "20 cm" }, "tare" => "0.2 kg", "divisor" => "5000" }].freeze

  def pick(random, list) = list.sample(random: random)

  def plan(random)
    group = pick(random, %w[cart cart cart class product unit parcel])
    combine = pick(random, %w[sum sum highest lowest dearest_first])
    kind = combine == "dearest_first" ? "first" : nil
    priced = group == "class" ? by_class(random, kind) : { "schedule" => schedule(random, kind) }
    { "group" => group, "combine" => combine, **priced, **adjustment(random), "parcels" => pick(random, POLICIES),
      "basis" => pick(random, [nil, { "discounts" => "before" }, { "tax" => "without" }]) }.compact
  end

  def by_class(random, kind)
    price = lambda {
      next { "carried" => false } if random.rand(8).zero?

      { "charge" => pick(random, %w[once unit]), "schedule" => schedule(random, kind) }
    }
    own = CLASSES.sample(random.rand(0..2), random: random).map { |id| { "class" => id, **price.call } }
    others = random.rand(3).zero? ? nil : { **price.call, "unclassed" => random.rand(3).positive? }
    { "classes" => own, "others" => others }.compact
  end

  def schedule(random, kind = nil)
    case kind || pick(random, %w[flat first steps steps steps grid])
    when "flat" then { "kind" => "flat", "amount" => money(random) }
    when "first" then { "kind" => "first", "first" => money(random), "additional" => pick(random, [money(random), "1.00"]) }
    when "steps" then steps(random)
    else grid(random)
    end
  end

  def steps(random)
    scale = scale(random)
    list = scale["at"].map { |at| { "at" => at, **step(random, scale["measure"]) } }
    list.last.replace("at" => list.last["at"], "none" => true) if list.size > 1 && random.rand(3).zero?
    { "kind" => "steps", "steps" => list, **scale.except("at") }
  end

  def step(random, measure)
    return { "none" => true } if random.rand(12).zero?

    more = random.rand(3).zero? ? { "each" => money(random), "increment" => pick(random, written(measure)[1..]) } : {}
    { "amount" => money(random), **more, "percent" => (pick(random, %w[1 2.5 12.5]) if random.rand(4).zero?) }.compact
  end

  def scale(random)
    measure = pick(random, MEASURES)
    at = written(measure).drop(1).sample(random.rand(0..3), random: random)
    { "measure" => measure, "edges" => pick(random, [nil, "from", "up_to"]), "at" => in_order(measure, at) }.compact
  end

  def in_order(measure, list) = written(measure).select { |text| list.include?(text) || text == written(measure).first }

  def written(measure)
    case measure
    when "value" then ["0", "5.00", "9.99", "20", "33.33"]
    when "quantity" then %w[0 1 2 3 7]
    when "volume" then ["0 l", "0.5 l", "2 l", "9000 cm3"]
    when "longest" then ["0 cm", "12 cm", "1 ft", "50 cm"]
    else ["0 kg", "1 lb", "0.5 kg", "2 kg", "5 kg"].sort_by { |text| GateMile::Weight.parse(text) }
    end
  end

  def grid(random)
    rows = scale(random)
    columns = scale(random)
    { "kind" => "grid", "rows" => rows, "columns" => columns,
      "cells" => rows["at"].map { columns["at"].map { pick(random, [money(random), money(random), money(random), "none", nil]) } } }
  end

  def adjustment(random)
    maybe = ->(odds) { random.rand(odds).zero? }
    { "handling" => (if maybe.call(3)
                       { "fixed" => pick(random, [nil, "1.25", "-2.00"]), "percent" => pick(random, [nil, "10", "-12.5"]),
                         "per" => pick(random, %w[order unit parcel]) }.compact
                     end),
      "minimum" => (pick(random, %w[2.00 4.44]) if maybe.call(4)), "maximum" => (pick(random, %w[9.00 20.00]) if maybe.call(4)),
      "ending" => (pick(random, %w[0.95 0.00 0.50]) if maybe.call(4)) }.compact
  end

  def money(random) = pick(random, ["0", "0.01", "3.33", "#{random.rand(0..9)}.#{random.rand(10..99)}"])

  def goods(random)
    Array.new(4) do |at|
      { "sku" => "P#{at}", "name" => "P#{at}", "price" => "#{random.rand(0..9)}.#{random.rand(10..99)}", "class" => pick(random, [nil, *CLASSES]),
        "weight" => pick(random, [nil, "0.3 lb", "250 g", "1.7 kg", "0 g"]),
        "size" => pick(random, [nil, %w[10cm 8cm 5cm], %w[1ft 3in 2in]])&.then { |sides| %w[length width height].zip(sides).to_h } }.compact
    end
  end

  # @return [Integer, nil] minor units; nil where there is no price
  def slowly(plan, lines, policy)
    @policy = policy || { "kind" => "one" }
    groups = slow_groups(plan, lines) or return
    prices = groups.map { |group| slow_price(group) }
    return if prices.any?(&:nil?)

    adjusted(plan, combined(plan, groups, prices), typed_zero?(plan, groups, prices), lines)
  end

  private

  def slow_groups(plan, lines)
    units = lines.flat_map { |line| line[:values].map { |value| line.merge(value: value) } }
    case plan["group"]
    when "class" then class_groups(plan, units)
    when "product" then units.group_by { |unit| unit[:kin] }.each_value.map { |list| { units: list, schedule: plan["schedule"] } }
    when "unit" then units.map { |unit| { units: [unit], schedule: plan["schedule"] } }
    when "parcel" then packs(units)&.map { |list| { units: list, schedule: plan["schedule"], parcel: true } }
    else [{ units: units, schedule: plan["schedule"] }]
    end
  end

  def class_groups(plan, units)
    others = plan["others"]
    groups = units.group_by do |unit|
      own = plan["classes"].find { |item| item["class"] == unit[:class] }
      own || (others if unit[:class] || others&.fetch("unclassed", false)) || :none
    end
    return if groups.key?(:none) || groups.keys.any? { |price| price["carried"] == false }

    # Charged for each unit, a class is priced one unit at a time, whatever else of it is in the cart.
    groups.flat_map do |price, list|
      (price["charge"] == "unit" ? list.map { |unit| [unit] } : [list]).map { |some| { units: some, schedule: price["schedule"] } }
    end
  end

  def packs(units)
    return units.map { |unit| [unit] } if @policy["kind"] == "unit"
    return [units] unless @policy["up_to"]

    limit = GateMile::Weight.parse(@policy["up_to"]).base
    return if units.any? { |unit| unit[:weight].nil? || unit[:weight] > limit }

    in_order = units.sort_by { |unit| [-unit[:weight], unit[:sku], -unit[:value]] }
    in_order.each_with_object([[]]) { |unit, list| list.last.sum { |one| one[:weight] } + unit[:weight] > limit ? list << [unit] : list.last << unit }
  end

  def measure(name, group)
    units = group[:units]
    case name
    when "value" then units.sum { |unit| unit[:value] }
    when "quantity" then units.size
    when "longest" then fixed?(group) ? 40 * GateMile::Length::UNITS["cm"] : units.map { |unit| unit[:sides]&.max }.then { |all| all.max if all.all? }
    when "volume" then fixed?(group) ? 24_000 * GateMile::Volume::UNITS["cm3"] : units.sum { |unit| unit[:sides]&.reduce(:*) || (return nil) }
    when "weight" then units.sum { |unit| unit[:weight] || (return nil) } + (fixed?(group) ? GateMile::Weight.parse("0.2 kg").base : 0)
    else billable(group)
    end
  end

  def fixed?(group) = group[:parcel] && @policy["kind"] == "fixed"

  def billable(group)
    packs = group[:parcel] ? [group[:units]] : packs(group[:units])
    packs&.sum do |units|
      parcel = { units: units, parcel: true }
      weight, volume = %w[weight volume].map { |name| measure(name, parcel) }
      return nil if weight.nil? || (@policy["divisor"] && volume.nil?)

      space = if @policy["divisor"]
                volume / (if @policy["per"] == "lb"
                            Rational(139 * GateMile::Volume::UNITS["in3"], GateMile::Weight::UNITS["lb"])
                          else
                            Rational(@policy["divisor"].to_i * GateMile::Volume::UNITS["cm3"], GateMile::Weight::UNITS["kg"])
                          end)
              else
                0
              end
      [weight, space].max
    end
  end

  def slow_price(group)
    slow_schedule(group[:schedule], group)&.round(half: :up)
  end

  # A price of nothing that comes of amounts of 0 alone; a percentage that comes to nothing was no amount of 0.
  def typed_zero?(plan, groups, prices)
    typed = groups.zip(prices).map { |group, price| price.zero? && !by_percentage?(group) }
    plan["combine"] == "lowest" ? typed.any? : typed.all?
  end

  def by_percentage?(group)
    return false unless group[:schedule]["kind"] == "steps"

    number = measure(group[:schedule]["measure"], group)
    at = stretch(group[:schedule], group[:schedule]["steps"].map { |step| step["at"] }, number)
    !group[:schedule]["steps"][at]["percent"].nil?
  end

  def slow_schedule(schedule, group)
    count = group[:units].size
    case schedule["kind"]
    when "flat" then minor(schedule["amount"]).to_r
    when "first" then minor(schedule["first"]) + (minor(schedule["additional"]) * (count - 1)).to_r
    when "steps" then slow_steps(schedule, group)
    else slow_grid(schedule, group)
    end
  end

  def slow_steps(schedule, group)
    number = measure(schedule["measure"], group) or return
    at = stretch(schedule, schedule["steps"].map { |step| step["at"] }, number)
    step = schedule["steps"][at]
    return if step["none"]

    amount = minor(step["amount"]).to_r
    if step["each"]
      above = number - base(schedule["measure"], step["at"])
      started = 0
      started += 1 while started * base(schedule["measure"], step["increment"]) < above
      amount += minor(step["each"]) * started
    end
    amount + (step["percent"] ? step["percent"].to_r / 100 * measure("value", group) : 0)
  end

  def slow_grid(schedule, group)
    axes = schedule.values_at("rows", "columns")
    numbers = axes.map { |axis| measure(axis["measure"], group) }
    return if numbers.any?(&:nil?)

    at = axes.zip(numbers).map { |axis, number| stretch(axis, axis["at"], number) }
    cell = schedule["cells"][at[0]][at[1]]
    cell.nil? || cell == "none" ? nil : minor(cell).to_r
  end

  def stretch(scale, boundaries, number)
    edges = scale["edges"] || (%w[value quantity].include?(scale["measure"]) ? "from" : "up_to")
    found = boundaries.each_index.select do |index|
      border = base(scale["measure"], boundaries[index])
      edges == "from" ? number >= border : number > border
    end
    found.last || 0
  end

  def base(measure, text)
    return text.to_i if measure == "quantity"
    return minor(text) if measure == "value"

    { "volume" => GateMile::Volume, "longest" => GateMile::Length }.fetch(measure, GateMile::Weight).parse(text).base
  end

  def combined(plan, groups, prices)
    case plan["combine"]
    when "highest" then prices.max
    when "lowest" then prices.min
    when "dearest_first" then groups.map { |group| chain(groups, group) }.then { |costs| dearest(groups, costs) }
    else prices.sum
    end
  end

  # The whole cart with one group's unit as the first one.
  def chain(groups, first)
    groups.sum { |group| minor(group[:schedule]["additional"]) * group[:units].size } +
      minor(first[:schedule]["first"]) - minor(first[:schedule]["additional"])
  end

  def dearest(groups, costs)
    top = groups.map { |group| minor(group[:schedule]["first"]) }.max
    costs.each_index.select { |at| minor(groups[at][:schedule]["first"]) == top }.map { |at| costs[at] }.min
  end

  def adjusted(plan, amount, typed, lines)
    before = amount
    if (handling = plan["handling"]) && (handling["fixed"] || handling["percent"])
      units = lines.flat_map { |line| line[:values].map { |value| line.merge(value: value) } }
      count = { "order" => 1, "unit" => units.size, "parcel" => (packs = packs(units)) ? packs.size : nil }[handling["per"]] or return
      added = (minor(handling["fixed"] || "0") * count) + (handling["percent"].to_s.to_r / 100 * amount)
      amount = [amount + added.round(half: :up), 0].max
    end
    chosen = typed && before.zero? && amount.zero?
    amount = [amount, minor(plan["minimum"])].max if plan["minimum"] && !chosen
    amount = [amount, minor(plan["maximum"])].min if plan["maximum"]
    plan["ending"] && !chosen ? ended(plan, amount) : amount
  end

  def ended(plan, amount)
    fits = ->(number) { number % 100 == minor(plan["ending"]) }
    up = amount
    up += 1 until fits.call(up)
    return up if plan["maximum"].nil? || up <= minor(plan["maximum"])

    down = amount
    down -= 1 until fits.call(down) || down.negative?
    down.positive? && (plan["minimum"].nil? || down >= minor(plan["minimum"])) ? down : amount
  end

  def minor(text) = (text.to_r * 100).to_i
end
