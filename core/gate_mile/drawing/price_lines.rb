# frozen_string_literal: true

module GateMile
  # The price lines of all rates of a book for one cart.
  class PriceLines
    # Breaks of one schedule that are looked at, at most.
    MOST = Steps::MOST
    # Units whose runs are looked at, at most: beyond, parcels with a limit are found to the gram.
    UNITS = 40

    # @param book [Book]
    # @param cart [Cart]
    # @param measure [String] one of {ScaledCart}::MEASURES
    # @param most [Integer, Rational] where the axis ends
    # @param line [Integer] place of the line whose units change, along quantity
    # @param at [Time] the moment of the checkout
    # @param carriers [#answers, nil] whom live rates of the cart's zone are sampled by
    # @param stop [#call] says true where no more may be looked at; lines that are not whole by then are told as
    #   unlooked
    def initialize(book, cart, measure, most, at:, line: 0, carriers: nil, stop: -> { false })
      @carriers = carriers
      @stop = stop
      @book = book
      @most = most
      @scaled = ScaledCart.new(book, cart, measure, line)
      @measure = measure
      @here = book.zones.land(cart.destination).zone
      @destination = Destination.new(cart.destination)
      @facts = Facts.new(book, cart, @scaled.at(@scaled.here), at) if @scaled.drawn?
      @terms = {}
      @bands = {}
    end

    # @param rates [Array<Rate>]
    # @return [Hash{String => Array<Piece>}] by rate id; nothing at all where the cart has none of the measure
    def of(rates = @book.rates)
      return {} unless @scaled.drawn?

      sampled = asked(rates)
      # Where the cart goes comes first.
      drawn = rates.sort_by.with_index { |rate, at| [here?(rate) ? 0 : 1, at] }
                   .to_h { |rate| [rate.id, sampled[rate.id] || drawn(rate)] }
      rates.to_h { |rate| [rate.id, drawn.fetch(rate.id)] }
    end

    # Positions at which a rate's price can be another than just before or behind.
    # @param rate [Rate]
    # @param from [Integer]
    # @param upto [Integer]
    # @return [Array<Integer>] whole positions between these
    def turns(rate, from, upto)
      return [] if rate.plan.nil? || !@scaled.drawn?

      destination = here?(rate) ? @destination : Destination::SOMEWHERE
      return [*from..upto] if slopes?(rate.plan)

      near = candidates(rate, destination).flat_map { |at| [at.ceil - 1, at.floor, at.ceil, at.floor + 1] }
      [@scaled.here - 1, @scaled.here + 1, *near].grep(from..upto).uniq
    end

    # Raised inside where no more may be looked at.
    class Stopped < StandardError
    end
    private_constant :Stopped

    # Stretches between which carriers are asked.
    SAMPLES = 8

    private

    def here?(rate) = @here&.id == rate.zone

    def asked(rates)
      live = @carriers ? rates.select { |rate| rate.live && here?(rate) } : []
      live.empty? ? {} : samples(live)
    end

    # Asks for all positions of all live rates at once.
    def samples(rates)
      positions = positions_to_sample
      asked = rates.product(positions).flat_map do |rate, at|
        @book.program(rate).requests(visit(@destination, terms(rate.zone, @destination, at)))
      end
      @answers = @carriers.answers(asked.uniq)
      rates.to_h { |rate| [rate.id, levelled(positions.each_cons(2).map { |from, to| stretch(rate, from, to) })] }
    end

    # Neighbours of one level price are one stretch.
    def levelled(pieces)
      pieces.slice_when do |one, other|
        !one.level? || !other.level? || one.price != other.price || one.causes != other.causes
      end.map { |same| same.first.with(to: same.last.to) }
    end

    def positions_to_sample
      even = (0..SAMPLES).map { |step| @scaled.least + ((@most - @scaled.least) * Rational(step, SAMPLES)) }
      even = even.map(&:round) if @scaled.whole?
      (even + [@scaled.here]).grep(@scaled.least..@most).uniq.sort
    end

    def stretch(rate, from, to)
      first, last = [from, to].map { |at| sampled(rate, at) }
      known = first.price && last.price
      Piece.new(from: from, to: to, from_in: true, to_in: true, price: first.price,
                last: known ? last.price : first.price, status: first.status,
                causes: first.causes.map(&:code).uniq, sampled: true)
    end

    def sampled(rate, at)
      (@sampled ||= {})[[rate, at]] ||=
        @book.program(rate).quote(visit(@destination, terms(rate.zone, @destination, at)).with(answers: @answers))
    end

    def drawn(rate)
      raise Stopped if @stop.call

      line(rate).pieces
    rescue Stopped
      [Piece.new(from: @scaled.least, to: @most, from_in: true, to_in: true, status: :unlooked, causes: [])]
    end

    def line(rate)
      destination = here?(rate) ? @destination : Destination::SOMEWHERE
      PriceLine.new(@scaled, @most, candidates(rate, destination)) { |position| ask(rate, destination, position) }
    end

    # Where an offer may hide what costs money, the other methods of the zone have a say.
    def ask(rate, destination, position)
      raise Stopped if @stop.call

      terms = terms(rate.zone, destination, position)
      return run(rate, destination, terms) unless hiding?(rate.zone)

      @bands[[rate.zone, position]] ||= Quote.hidden_by_offers(
        @book.rates_of(terms.zone).map { |other| run(other, destination, terms) }
      ).to_h { |quote| [quote.rate, quote] }
      @bands[[rate.zone, position]].fetch(rate.id)
    end

    def run(rate, destination, terms) = @book.program(rate).quote(visit(destination, terms))

    def visit(destination, terms) = Visit.of(terms, destination)

    def terms(zone, destination, position)
      @terms[[zone, position]] ||= Terms.new(@book, facts(position), @book.zone(zone), destination.address)
    end

    def facts(position) = (@positions ||= {})[position] ||= @facts.of(@scaled.at(position))

    def hiding?(zone)
      @book.offers.any? { |offer| offer.active && offer.hides_paid && offer.in_zone?(zone) }
    end

    # Every load's measure grows evenly with the position, so two looks at it say where it meets each boundary.
    def candidates(rate, destination)
      return [] if rate.plan.nil?

      term_breaks(rate, destination) + plan_candidates(rate, destination)
    end

    # Where a measure that an offer or a rule looks at meets a bound of it: of ordinary lines those of the rate.
    def term_breaks(rate, _destination)
      @term_breaks ||= breaks_of(watched_terms.reject do |_, basis, _|
        basis.lines == "ordinary"
      end) do |fact, basis, position|
        fact == "longest" ? facts(position).total(fact, basis) : facts(position).counted(fact, basis)
      end
      own = watched_terms.select { |_, basis, _| basis.lines == "ordinary" }
      return @term_breaks if own.empty?

      @term_breaks + breaks_of(own) do |fact, basis, position|
        fact == "longest" ? facts(position).total(fact, basis) : ordinary(rate, position).amount(fact, basis)
      end
    end

    def breaks_of(terms)
      terms.flat_map do |bound, basis, fact|
        one, other = [@scaled.here, @scaled.here * 2].map { |position| yield fact, basis, position }
        rise = one && other && Rational(other - one, @scaled.here)
        rise.nil? || rise.zero? ? [] : [@scaled.here + ((bound - one) / rise)]
      end
    end

    # Bounds, each with the basis by which and the fact at which it is looked.
    def watched_terms
      @watched_terms ||= begin
        thresholds = @book.offers.select(&:active).filter_map(&:threshold)
        conditions = @book.rules.select(&:active).flat_map { |rule| rule.tree.leaves }.grep(Condition::Measured)
        (thresholds.flat_map { |one| bounds([one.from, one.below], one.basis, one.measure) } +
          conditions.flat_map { |one| bounds([one.low, one.high], one.basis, one.fact) }).uniq
      end
    end

    def bounds(list, basis, fact) = list.compact.map { |bound| [bound.base, @book.store.basis_for(basis), fact] }

    def plan_candidates(rate, destination)
      return [*@scaled.least..@most] if @measure == "quantity" && @most <= 200 && by_units?(rate.plan)

      two = [@scaled.here, @scaled.here * 2]
      one, other = two.map { |position| watched(rate, destination, position) }
      alike = one.size == other.size ? one.zip(other) : []
      treated_breaks + packing_breaks(rate, destination) + alike.flat_map { |pair| meets(two, *pair) }
    end

    def ordinary(rate, position) = @book.program(rate).ordinary_lines(@scaled.at(position))

    # Whether units or parcels are counted one by one, so that any unit can change something.
    def by_units?(plan)
      %w[unit parcel].include?(plan.group) || plan.adjustment.per == "parcel" ||
        plan.classes&.all&.any? { |price| price.charge == "unit" } ||
        plan.schedules.flat_map(&:gauges).any? { |gauge| gauge.name == "billable_weight" }
    end

    # Whether its price can change at every unit, and a minimum or a maximum begin or end anywhere.
    def slopes?(plan)
      by_units?(plan) || plan.adjustment.per == "unit" || plan.schedules.compact.any? do |schedule|
        schedule.is_a?(FirstAdditional) || (schedule.is_a?(Steps) && schedule.steps.any?(&:relative?))
      end
    end

    # Along weight parcels with a limit fill up sooner: where any run of units in a row comes to it exactly.
    def packing_breaks(rate, _destination)
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

    def watched(rate, _destination, position)
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
