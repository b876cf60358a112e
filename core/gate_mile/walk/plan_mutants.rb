# frozen_string_literal: true

module GateMile
  # Plans that differ from one in a single figure: each amount, percentage and bound of it a little higher.
  class PlanMutants
    # Changes that are tried, in minor units: the smallest that some cart shows is shown.
    STEPS = [1, 7, 50].freeze

    # @param plan [Plan]
    # @param currency [Currency]
    def initialize(plan, currency)
      @plan = plan
      @currency = currency
    end

    # @return [Array<Array<Plan>>] of each figure the plans with it changed by each of STEPS
    def list
      [*amounts, *percents, *edges, *adjustments, *parcels]
    end

    private

    # One after the other, by its place among all.
    def amounts
      count = 0
      @plan.map_amounts { |amount, _| amount.tap { count += 1 } }
      Array.new(count) { |wanted| STEPS.map { |by| with_amount(wanted, by) } }
    end

    def with_amount(wanted, by)
      at = -1
      @plan.map_amounts { |amount, _| (at += 1) == wanted ? raised(amount, by) : amount }
    end

    def raised(amount, by) = Money.new(amount.minor + by, @currency)

    def percents
      @plan.schedules.compact.grep(Steps).flat_map do |schedule|
        schedule.steps.each_index.select { |at| schedule.steps[at].percent }.map do |at|
          STEPS.map { |by| exchanged(schedule, more_percent(schedule, at, by)) }
        end
      end
    end

    # Each edge a little higher, and each increment, where that leaves the others in their order.
    def edges
      @plan.schedules.compact.flat_map do |schedule|
        case schedule
        when Steps then steps(schedule)
        when Grid then axis(schedule, :rows) + (schedule.columns.is_a?(Scale) ? axis(schedule, :columns) : [])
        else []
        end
      end
    end

    def steps(schedule)
      moved = axis(schedule, :scale)
      more = schedule.steps.each_index.select { |at| schedule.steps[at].increment }.map do |at|
        hairs(schedule.scale.gauge, schedule.steps[at].increment.base).map do |base|
          exchanged(schedule, increment(schedule, at, base))
        end
      end
      moved + more
    end

    def increment(schedule, at, base)
      steps = schedule.steps.dup
      steps[at] = steps[at].with(increment: Boundary.new(base: base, text: steps[at].increment.text))
      schedule.with(steps: steps)
    end

    def axis(schedule, name)
      scale = schedule[name]
      (1...scale.boundaries.size).map do |at|
        bases = hairs(scale.gauge, scale.boundaries[at].base).select do |base|
          scale.finish(at).nil? || base < scale.finish(at).base
        end
        bases.map { |base| exchanged(schedule, schedule.with(name => moved(scale, at, base))) }
      end
    end

    # A hair more, and three in a hundred.
    def hairs(gauge, base) = [base + gauge.hair, gauge.name == "quantity" ? base + 1 : base * Rational(103, 100)].uniq

    def moved(scale, at, base)
      boundaries = scale.boundaries.dup
      boundaries[at] = Boundary.new(base: base, text: boundaries[at].text)
      scale.with(boundaries: boundaries)
    end

    def more_percent(schedule, at, by)
      steps = schedule.steps.dup
      percent = steps[at].percent.value + Rational(by, 20)
      steps[at] = steps[at].with(percent: Percentage.new(percent))
      schedule.with(steps: steps)
    end

    def exchanged(schedule, other)
      return @plan.with(schedule: other) if @plan.classes.nil?

      of = ->(price) { price&.schedule.equal?(schedule) ? price.with(schedule: other) : price }
      @plan.with(classes: @plan.classes.with(list: @plan.classes.list.map(&of), others: of.call(@plan.classes.others)))
    end

    def adjustments
      own = @plan.adjustment
      fields = %i[fixed minimum maximum].select { |field| own[field] }
      found = fields.map { |field| STEPS.map { |by| adjusted(field => raised(own[field], by)) } }
      found << STEPS.map { |by| adjusted(percent: Percentage.new(own.percent.value + Rational(by, 20))) } if own.percent
      found << [adjusted(ending: nil)] if own.ending
      found
    end

    def adjusted(**fields) = @plan.with(adjustment: @plan.adjustment.with(**fields))

    # Where the next parcel begins.
    def parcels
      limit = @plan.parcels&.up_to or return []
      [STEPS.map do |by|
        @plan.with(parcels: @plan.parcels.with(up_to: Weight.new(limit.base + (by * Weight::UNITS["g"]), limit.unit)))
      end]
    end
  end
end
