# frozen_string_literal: true

module GateMile
  # The positions on an axis where a rate's price can change: where a measure meets a bound of its plan, of an offer or
  # of a rule, and where a parcel is full. Measures grow evenly along the axis, so measuring a load at two positions is
  # enough to know where it meets each bound.
  class TurningPoints
    # Breaks of one schedule that are looked at, at most.
    MOST = Steps::MOST
    # Units whose runs are looked at, at most: beyond, parcels with a limit are found to the gram.
    UNITS = 40
    # Positions that are all looked at where every unit can change something, at most.
    EACH = 200
    private_constant :MOST, :UNITS, :EACH

    # @param book [Book]
    # @param scaled [ScaledCart]
    # @param measure [String] one of {ScaledCart}::MEASURES
    # @param most [Integer, Rational] where the axis ends
    # @yieldparam position [Integer, Rational]
    # @yieldreturn [Facts] of the cart at that position
    def initialize(book, scaled, measure, most, &facts)
      @book = book
      @scaled = scaled
      @measure = measure
      @most = most
      @facts = facts
    end

    # @param rate [Rate]
    # @return [Array<Integer, Rational>] positions, in no order, some perhaps twice
    def of(rate) = rate.plan.nil? ? [] : term_breaks(rate) + plan_breaks(rate)

    # @param plan [Plan]
    # @return [Boolean] whether its price can change at every unit, and a minimum or a maximum begin or end anywhere.
    def slopes?(plan)
      by_units?(plan) || plan.adjustment.per == "unit" || plan.schedules.compact.any? do |schedule|
        schedule.is_a?(FirstAdditional) || (schedule.is_a?(Steps) && schedule.steps.any?(&:relative?))
      end
    end

    private

    # Positions where a measure meets a bound of an offer or a rule. What counts ordinary lines differs by rate.
    def term_breaks(rate)
      @term_breaks ||= breaks_of(watched_terms.reject do |_, basis, _|
        basis.lines == "ordinary"
      end) do |fact, basis, position|
        fact == "longest" ? @facts.call(position).total(fact, basis) : @facts.call(position).counted(fact, basis)
      end
      own = watched_terms.select { |_, basis, _| basis.lines == "ordinary" }
      return @term_breaks if own.empty?

      @term_breaks + breaks_of(own) do |fact, basis, position|
        fact == "longest" ? @facts.call(position).total(fact, basis) : ordinary(rate, position).amount(fact, basis)
      end
    end

    def breaks_of(terms)
      terms.flat_map do |bound, basis, fact|
        one, other = [@scaled.here, @scaled.here * 2].map { |position| yield fact, basis, position }
        rise = one && other && Rational(other - one, @scaled.here)
        rise.nil? || rise.zero? ? [] : [@scaled.here + ((bound - one) / rise)]
      end
    end

    # Every bound that an offer or a rule sets, with its basis and its fact.
    def watched_terms
      @watched_terms ||= begin
        thresholds = @book.offers.select(&:active).filter_map(&:threshold)
        conditions = @book.rules.select(&:active).flat_map { |rule| rule.tree.leaves }.grep(Condition::Measured)
        (thresholds.flat_map { |one| bounds([one.from, one.below], one.basis, one.measure) } +
          conditions.flat_map { |one| bounds([one.low, one.high], one.basis, one.fact) }).uniq
      end
    end

    def bounds(list, basis, fact) = list.compact.map { |bound| [bound.base, @book.store.basis_for(basis), fact] }

    def plan_breaks(rate)
      return [*@scaled.least..@most] if @measure == "quantity" && @most <= EACH && by_units?(rate.plan)

      two = [@scaled.here, @scaled.here * 2]
      one, other = two.map { |position| watched(rate, position) }
      alike = one.size == other.size ? one.zip(other) : []
      treated_breaks + packing_breaks(rate) + alike.flat_map { |pair| meets(two, *pair) }
    end

    def ordinary(rate, position) = @book.program(rate).ordinary_lines(@scaled.at(position))

    # Whether units or parcels are counted one by one, so that any unit can change something.
    def by_units?(plan)
      %w[unit parcel].include?(plan.group) || plan.adjustment.per == "parcel" ||
        plan.classes&.all&.any? { |price| price.charge == "unit" } ||
        plan.schedules.flat_map(&:gauges).any? { |gauge| gauge.name == "billable_weight" }
    end

    # Along weight parcels with a limit fill up sooner: where any run of units in a row comes to it exactly.
    def packing_breaks(rate)
      limit = (rate.plan.parcels || @book.store.parcels).up_to
      return [] if limit.nil? || @measure != "weight"

      runs(ordinary(rate, @scaled.here).lines).map { |sum| Rational(limit.base * @scaled.here, sum) }
    end

    # @return [Array<Rational>] what runs of units in a row weigh
    def runs(lines)
      units = lines.select(&:unit_weight).map { |line| [line.unit_weight.base, line] }
                   .sort_by { |each, line| [-each, line.order] }
                   .flat_map { |each, line| [each] * [line.quantity, UNITS].min }.first(UNITS)
      sums = units.each_index.flat_map do |from|
        units.drop(from).inject([]) { |list, each| list << ((list.last || 0) + each) }
      end
      sums.uniq.select(&:positive?)
    end

    def watched(rate, position)
      lot = ordinary(rate, position)
      lot.empty? ? [] : @book.program(rate).plan.watched(lot, @scaled.at(position))
    end

    def meets(positions, first, second)
      number, schedule = first
      rise = Rational(second.first - number, positions[1] - positions[0])
      return [] if rise.zero?

      last = number + (rise * (@most - positions[0]))
      schedule.breaks(last).first(MOST).map { |border| positions[0] + ((border - number) / rise) }
    end

    # Along quantity the steps of own prices count too.
    def treated_breaks
      return [] unless @measure == "quantity"

      @book.treatments.flat_map do |treatment|
        price = treatment.price
        price&.apart? ? [price.charge, *price.by_method.values].flat_map { |charge| charge.steps.map(&:first) } : []
      end
    end
  end
end
