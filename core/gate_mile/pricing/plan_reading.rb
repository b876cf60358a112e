# frozen_string_literal: true

module GateMile
  # What a plan makes of some lines. amount: {Money}, nil where there is none; refusals: {Refusal}s, all of them; steps:
  # what was reckoned on the way, as [code, amount, numbers].
  class Reading < Value.of(:amount, :refusals, :steps)
  end

  # Prices lines by a plan, step by step.
  class PlanReading
    # @param plan [Plan]
    # @param lines [Array<Line>]
    # @param basket [Basket]
    # @param place [Destination]
    def initialize(plan, lines, basket, place)
      store = basket.store
      @plan = plan
      @lines = lines
      @currency = store.currency
      @place = place
      @loads = basket.loads(lines, store.basis_for(plan.basis), plan.parcels || store.parcels, counted(basket))
      @steps = []
    end

    # @return [Reading]
    def read
      loads = @loads.by(@plan.group)
      return refused([loads]) if loads.is_a?(Refusal)

      @loads.stand_ins.each { |numbers| @steps << [:"parcels.stand_in", nil, numbers] } if @plan.parcelled?
      refusals, priced = groups(loads).partition { |item| item.is_a?(Refusal) }
      prices = priced.map { |load, times, schedule| price(load, times, schedule) }
      refusals += prices.grep(Refusal)
      refusals.any? ? refused(refusals) : finish(combined(prices), chosen?(prices))
    end

    # What the plan's schedules look at: numbers of loads, each with the scale that it is compared with.
    # @return [Array<Array(Numeric, #breaks)>]
    def watched
      loads = @loads.by(@plan.group)
      return [] if loads.is_a?(Refusal)

      groups(loads).grep_v(Refusal).flat_map do |load, _, schedule|
        schedule.scales.filter_map { |scale| [load.by(scale.gauge), scale] if load.by(scale.gauge) }
      end
    end

    private

    # Lines whose value a price for the whole cart looks at: the ordinary ones, unless the plan says otherwise.
    def counted(basket)
      { "all" => basket.lines, "shipping" => basket.shipping }.fetch(@plan.basis&.lines, @lines)
    end

    Price = Struct.new(:load, :times, :schedule, :amount, :chosen)
    private_constant :Price

    def refused(refusals) = Reading.new(refusals: refusals.uniq, steps: @steps)

    # @return [Array<Array(Load, Integer, Object), Refusal>] what is priced by which schedule, and how often it counts
    def groups(loads)
      @plan.classes ? by_class(loads) : loads.map { |load| [load, load.times, @plan.schedule] }
    end

    # Everything else is one load, however many classes there are in it.
    def by_class(loads)
      found = loads.map { |load| [load, @plan.classes.for(load)] }
      own, other = found.partition { |_, price| !price.equal?(@plan.classes.others) }
      rest = other.any? ? [[whole_of(other.map { |load,| load.group }, :others), other.first.last]] : []
      (own + rest).flat_map do |load, price|
        next [price] if price.is_a?(Refusal)

        price.charge == "unit" ? each_unit(load, price.schedule) : [[load, 1, price.schedule]]
      end
    end

    def whole_of(classes, group) = of_classes(classes).by("cart").first.with(group: group, classes: classes)

    def of_classes(classes) = @loads.with(@lines.select { |line| classes.include?(line.shipping_class) })

    # Charged for each unit, every unit is priced as if it were alone.
    def each_unit(load, schedule)
      of_classes(load.classes || [load.group]).by("unit").map do |unit|
        [unit.with(group: load.group), unit.times, schedule]
      end
    end

    # A group's price is rounded once.
    def price(load, times, schedule)
      found = schedule.price(load, @place)
      return found if found.is_a?(Refusal)

      amount = Money.new(Decimal.round(found.amount), @currency)
      @steps << [found.code, amount * times, { **found.numbers, **named(load), units: load.quantity, times: times,
                                                                               amount_of_one: amount }]
      Price.new(load, times, schedule, amount, found.chosen)
    end

    def named(load) = { label: load.label, class: load.group&.to_s }.compact

    def combined(prices)
      amount = case @plan.combine
               when "highest" then prices.map { |price| total(price) }.max
               when "lowest" then prices.map { |price| total(price) }.min
               when "dearest_first" then dearest_first(prices)
               else prices.map { |price| total(price) }.reduce(:+)
               end
      @steps << [:"plan.combine", amount, { how: @plan.combine, count: prices.sum(&:times) }] if told?(prices)
      amount
    end

    def told?(prices) = prices.size > 1 || prices.first.times > 1 || @plan.combine != "sum"

    # Highest and lowest look at each group once, however many of it there are.
    def total(price) = @plan.combine == "sum" ? price.amount * price.times : price.amount

    # The dearest first price once and every other unit at its additional price; among equal firsts the one whose
    # additional price is the highest, since that costs least.
    def dearest_first(prices)
      first = prices.map(&:schedule).max_by { |schedule| [schedule.first, schedule.additional] }
      every = prices.sum(Money.zero(@currency)) do |price|
        price.schedule.additional * (price.load.quantity * price.times)
      end
      first.first + every - first.additional
    end

    # A price of nothing was chosen where it comes of amounts of 0 that were typed, of all that counted.
    def chosen?(prices)
      return prices.any? { |price| price.chosen && price.amount.zero? } if @plan.combine == "lowest"

      prices.all?(&:chosen)
    end

    def finish(amount, chosen)
      count = handling_count
      return refused([count]) if count.is_a?(Refusal)

      adjusted = @plan.adjustment.apply(amount, count, chosen: chosen) do |code, after, numbers|
        @steps << [code, after, numbers]
      end
      Reading.new(amount: adjusted, refusals: [], steps: @steps)
    end

    def handling_count
      return 1 unless @plan.adjustment.handling?

      case @plan.adjustment.per
      when "unit" then @lines.sum(&:quantity)
      when "parcel" then @loads.parcel_count
      else 1
      end
    end
  end
end
