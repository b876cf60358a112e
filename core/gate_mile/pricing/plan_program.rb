# frozen_string_literal: true

module GateMile
  # A plan made ready for one store: it prices the ordinary lines of a cart. Lines are grouped into loads, each load has
  # its price by a schedule, the prices are combined, and what comes out is adjusted. Who wants to hear how it came
  # about passes a listener; without one nothing of it is put together.
  class PlanProgram
    # @return [Plan]
    attr_reader :plan
    # @return [View]
    attr_reader :view

    # @param plan [Plan]
    # @param store [Store]
    def initialize(plan, store)
      @plan = plan
      @view = View.of(plan, store)
      @currency = store.currency
      @adjustment = plan.adjustment
      @handling_per = @adjustment.per if @adjustment.handling?
      @parcelled = plan.parcelled?
    end

    # @param lot [Lot] ordinary lines, at least one
    # @param basket [Basket] that they are part of
    # @param destination [Destination]
    # @param listener [#call, nil] hears of each step: its code, a {Money} or nil, numbers
    # @return [PlanPrice]
    def price(lot, basket, destination, listener = nil)
      loads = loads(lot, basket)
      return PlanPrice.refused([loads]) if loads.is_a?(Refusal)

      priced = loads.map { |load| load.is_a?(Refusal) ? load : load.price(destination) }
      tell(lot, priced, listener) if listener
      return PlanPrice.refused(refusals(loads, priced)) if priced.any?(Refusal)

      minor = combined(priced, listener)
      count = handling_count(lot)
      return PlanPrice.refused([count]) if count.is_a?(Refusal)

      PlanPrice.new(@adjustment.apply(minor, count, @currency, chosen: minor.zero? && chosen?(priced),
                                                               listener: listener))
    end

    # What the plan's schedules look at: numbers of loads, each with the scale that it is compared with.
    # @param lot [Lot]
    # @param basket [Basket]
    # @return [Array<Array(Numeric, #breaks)>]
    def watched(lot, basket)
      loads = loads(lot, basket)
      return [] if loads.is_a?(Refusal)

      loads.grep_v(Refusal).flat_map do |load|
        load.schedule.scales.filter_map { |scale| [load.by(scale.gauge), scale] if load.by(scale.gauge) }
      end
    end

    private

    # @return [Array<Load, Refusal>, Refusal] what is priced
    def loads(lot, basket)
      case plan.group
      when "cart" then [Load.new(plan.schedule, lot, view, view.counted_of(lot, basket))]
      when "class" then by_class(lot)
      when "product"
        lot.by_product.map { |one| Load.new(plan.schedule, one, view, one, one.lines.first.label) }
      when "unit" then view.units(lot).map { |unit| Load::OfUnit.new(plan.schedule, unit, view) }
      else of_parcels(lot)
      end
    end

    def of_parcels(lot)
      parcels = view.parcels(lot)
      return parcels if parcels.is_a?(Refusal)

      parcels.map { |parcel| Load::OfParcel.new(plan.schedule, parcel, lot, view) }
    end

    # Everything else is one load, however many classes there are in it, and comes last.
    def by_class(lot)
      others = []
      own = lot.by_class.flat_map do |group, goods|
        price = plan.classes.of_class(group)
        next [Refusal.new(price) { { names: goods.names, class: group } }] if price.is_a?(Symbol)
        next (others << group) && [] if price.equal?(plan.classes.others)

        charged(goods, price, group)
      end
      others.empty? ? own : own + charged(lot.of_classes(others), plan.classes.others, :others)
    end

    # Charged for each unit, every unit is priced as if it were alone.
    def charged(lot, price, group)
      return [Load.new(price.schedule, lot, view, lot, nil, group)] unless price.charge == "unit"

      view.units(lot).map { |unit| Load::OfUnit.new(price.schedule, unit, view, group) }
    end

    # What nothing prices is told first.
    def refusals(loads, priced)
      loads.grep(Refusal) | priced.grep(Refusal)
    end

    def tell(lot, priced, listener)
      @view.stand_ins(lot).each { |numbers| listener.call(:"parcels.stand_in", nil, numbers) } if @parcelled
      priced.grep(Priced).each { |one| tell_priced(one, listener) }
    end

    def tell_priced(one, listener)
      load = one.load
      named = { label: load.label, class: load.group&.to_s }.compact
      numbers = { **one.figures, **named, units: load.quantity, times: load.times, amount_of_one: money(one.minor) }
      listener.call(one.schedule.code, money(one.total), numbers)
    end

    def combined(priced, listener)
      minor = together(priced)
      if listener && (priced.size > 1 || priced.first.load.times > 1 || plan.combine != "sum")
        listener.call(:"plan.combine", money(minor), { how: plan.combine, count: priced.sum { |one| one.load.times } })
      end
      minor
    end

    # Highest and lowest look at each load once, however many of it there are.
    def together(priced)
      case plan.combine
      when "highest" then priced.map(&:minor).max
      when "lowest" then priced.map(&:minor).min
      when "dearest_first" then dearest_first(priced)
      else priced.sum(&:total)
      end
    end

    # The dearest first price once and every other unit at its additional price; among equal firsts the one whose
    # additional price is the highest, since that costs least.
    def dearest_first(priced)
      first = priced.map(&:schedule).max_by { |schedule| [schedule.first, schedule.additional] }
      every = priced.sum { |one| one.schedule.additional.minor * one.load.quantity * one.load.times }
      first.first.minor + every - first.additional.minor
    end

    # A price of nothing was chosen where it comes of amounts of 0 that were typed, of all that counted.
    def chosen?(priced) = plan.combine == "lowest" ? priced.any?(&:chosen?) : priced.all?(&:chosen?)

    def handling_count(lot)
      case @handling_per
      when "unit" then lot.quantity
      when "parcel" then view.parcel_count(lot)
      else 1
      end
    end

    def money(minor) = Money.new(minor, @currency)
  end
end
