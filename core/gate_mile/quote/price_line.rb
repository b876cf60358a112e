# frozen_string_literal: true

module GateMile
  # A stretch of a price line. from, to: positions, both inside it where from_in and to_in say so; price, last:
  # {Money} at its beginning and at its end, nil where there is none; status and causes: as of a {MethodQuote}, or the
  # status :unlooked where nobody has looked; sampled:
  # whether only its ends are known, because carriers were asked there.
  class Piece < Value.of(:from, :to, :from_in, :to_in, :price, :last, :status, :causes, :sampled)
    # @return [Boolean]
    def level? = price == last
  end

  # The whole price of one rate along a measure of a cart, through everything that applies: its pieces, found by
  # asking for quotes at every position where something can change, beside it, and wherever two answers are not
  # explained by a level or an even slope between them. On a slope each group's price is rounded by itself, so it
  # may leave the straight line by a minor unit for each group.
  class PriceLine
    # What is answered at one position.
    Answer = Struct.new(:status, :price, :causes)

    SIXTEENTHS = [0, 1, 2, 4, 6, 8, 10, 12, 14, 15, 16].freeze
    # With more known points than so many, one look between two of them has to do.
    CROWD = 250
    private_constant :SIXTEENTHS, :CROWD

    # @param scaled [ScaledCart]
    # @param most [Integer, Rational] the last position
    # @param candidates [Array<Integer, Rational>] positions where the price can change
    # @yieldparam position [Integer, Rational]
    # @yieldreturn [MethodQuote]
    def initialize(scaled, most, candidates, &ask)
      @scaled = scaled
      @most = most
      @ask = ask
      @answers = {}
      @points = points(candidates)
    end

    # @return [Array<Piece>] ascending, without a gap between them
    def pieces
      atoms = [point(@points.first)]
      @points.each_cons(2) do |from, to|
        atoms.concat(between(from, to))
        atoms << point(to)
      end
      merged(atoms)
    end

    private

    def whole? = @scaled.whole?

    def points(candidates)
      near = whole? ? candidates.flat_map { |at| [at.floor, at.ceil] } : candidates
      [@scaled.least, *near, @most].grep(@scaled.least..@most).uniq.sort
    end

    def answer(at)
      @answers[at] ||= @ask.call(at).then do |quote|
        Answer.new(quote.status, quote.price, quote.causes.map(&:code).uniq)
      end
    end

    def point(at) = piece(at, at, true, true, answer(at), answer(at))

    def piece(from, to, from_in, to_in, first, last)
      Piece.new(from: from, to: to, from_in: from_in, to_in: to_in, price: first.price, last: last.price,
                status: first.status, causes: first.causes)
    end

    # What lies between two positions, both left out.
    def between(from, to)
      whole? ? whole_between(from + 1, to - 1) : parts_between(from, to)
    end

    def whole_between(first, last)
      return [] if first > last
      return [point(first)] if first == last

      middle = (first + last) / 2
      if level?([first, middle, (middle + last) / 2, last]) || even?(first, last)
        return [piece(first, last, true, true, answer(first), answer(last))]
      end

      whole_between(first, middle) + whole_between(middle + 1, last)
    end

    # Between two positions a price by weight is level; what is not is looked at to the gram.
    def parts_between(from, to)
      middle = Rational(from + to, 2)
      if @points.size > CROWD || to - from <= Weight::UNITS["g"] || level?(probes(from, to))
        return [piece(from, to, false, false, answer(middle), answer(middle))]
      end

      parts_between(from, middle) + [point(middle)] + parts_between(middle, to)
    end

    def probes(from, to)
      sixteenth = Rational(to - from, 16)
      [from + sixteenth, from + (sixteenth * 8), to - sixteenth]
    end

    def level?(positions) = positions.map { |at| answer(at) }.uniq.size == 1

    # A slope is looked at in more places: a minimum or a maximum may bend it anywhere.
    def even?(first, last)
      positions = SIXTEENTHS.map { |part| first + ((last - first) * part / 16) }.uniq
      answers = positions.map { |at| answer(at) }
      return false unless answers.all?(&:price) && answers.map(&:status).uniq.size == 1

      straight?(positions, answers.map { |found| found.price.minor })
    end

    def straight?(positions, prices)
      rise = Rational(prices.last - prices.first, positions.last - positions.first)
      positions.zip(prices).all? do |at, price|
        (price - prices.first - (rise * (at - positions.first))).abs <= 1
      end
    end

    # Level neighbours with the same answer are one piece; so are single positions of an even slope.
    def merged(atoms)
      level = atoms.each_with_object([]) do |atom, list|
        before = list.last
        same = before&.level? && atom.level? && told(before) == told(atom)
        same ? list[-1] = joined(before, atom) : list << atom
      end
      whole? ? sloped(level) : level
    end

    def told(piece) = [piece.status, piece.price, piece.causes]
    def joined(first, second) = first.with(to: second.to, to_in: second.to_in, last: second.last)

    def sloped(pieces)
      pieces.slice_when { |before, after| !chained?(before, after) }.flat_map do |run|
        run.size > 2 && rises(run).uniq.size == 1 ? [joined(run.first, run.last)] : run
      end
    end

    def chained?(before, after)
      [before, after].all? { |piece| piece.from == piece.to && piece.price } && before.status == after.status
    end

    def rises(run) = run.each_cons(2).map { |before, after| after.price.minor - before.price.minor }
  end

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
      @place = Destination.new(cart.destination)
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

      place = here?(rate) ? @place : Destination::SOMEWHERE
      return [*from..upto] if slopes?(rate.plan)

      near = candidates(rate, place).flat_map { |at| [at.ceil - 1, at.floor, at.ceil, at.floor + 1] }
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
        pipeline(rate, @place, terms(rate.zone, @place, at)).requests
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
      (@sampled ||= {})[[rate, at]] ||= pipeline(rate, @place, terms(rate.zone, @place, at), @answers).call
    end

    def drawn(rate)
      raise Stopped if @stop.call

      line(rate).pieces
    rescue Stopped
      [Piece.new(from: @scaled.least, to: @most, from_in: true, to_in: true, status: :unlooked, causes: [])]
    end

    def line(rate)
      place = here?(rate) ? @place : Destination::SOMEWHERE
      PriceLine.new(@scaled, @most, candidates(rate, place)) { |position| ask(rate, place, position) }
    end

    # Where an offer may hide what costs money, the other methods of the zone have a say.
    def ask(rate, place, position)
      raise Stopped if @stop.call

      terms = terms(rate.zone, place, position)
      return run(rate, place, terms) unless hiding?(rate.zone)

      @bands[[rate.zone, position]] ||= Quote.hidden_by_offers(
        @book.rates_of(terms.zone).map { |other| run(other, place, terms) }
      ).to_h { |quote| [quote.rate, quote] }
      @bands[[rate.zone, position]].fetch(rate.id)
    end

    def run(rate, place, terms) = pipeline(rate, place, terms).call

    def pipeline(rate, place, terms, answers = nil)
      Pipeline.new(Run.new(@book, terms.facts.basket, rate, answers, place, terms: terms, told: false))
    end

    def terms(zone, place, position)
      @terms[[zone, position]] ||= Terms.new(@book, facts(position), @book.zone(zone), place.address)
    end

    def facts(position) = (@positions ||= {})[position] ||= @facts.of(@scaled.at(position))

    def hiding?(zone)
      @book.offers.any? { |offer| offer.active && offer.hides_paid && offer.in_zone?(zone) }
    end

    # Every load's measure grows evenly with the position, so two looks at it say where it meets each boundary.
    def candidates(rate, place)
      return [] if rate.plan.nil?

      term_breaks(rate, place) + plan_candidates(rate, place)
    end

    # Where a measure that an offer or a rule looks at meets a bound of it: of ordinary lines those of the rate.
    def term_breaks(rate, place)
      @term_breaks ||= breaks_of(watched_terms.reject do |_, basis, _|
        basis.lines == "ordinary"
      end) do |fact, basis, position|
        fact == "longest" ? facts(position).measure(fact) : facts(position).total(fact, basis)
      end
      own = watched_terms.select { |_, basis, _| basis.lines == "ordinary" }
      return @term_breaks if own.empty?

      @term_breaks + breaks_of(own) do |fact, basis, position|
        facts(position).amount(fact, ordinary(rate, place, position), basis)
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

    def plan_candidates(rate, place)
      return [*@scaled.least..@most] if @measure == "quantity" && @most <= 200 && by_units?(rate.plan)

      two = [@scaled.here, @scaled.here * 2]
      one, other = two.map { |position| watched(rate, place, position) }
      alike = one.size == other.size ? one.zip(other) : []
      treated_breaks + packing_breaks(rate, place) + alike.flat_map { |pair| meets(two, *pair) }
    end

    def ordinary(rate, place, position)
      Pipeline.new(Run.new(@book, @scaled.at(position), rate, nil, place)).ordinary_lines
    end

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
    def packing_breaks(rate, place)
      limit = (rate.plan.parcels || @book.store.parcels).up_to
      return [] if limit.nil? || @measure != "weight"

      runs(ordinary(rate, place, @scaled.here)).map { |sum| limit.base * @scaled.here / sum }
    end

    # @return [Array<Rational>] what runs of units in a row weigh
    def runs(lines)
      units = lines.select(&:weight).map { |line| [Rational(line.weight.base, line.quantity), line] }
                   .sort_by { |each, line| [-each, line.order] }
                   .flat_map { |each, line| [each] * [line.quantity, UNITS].min }.first(UNITS)
      sums = units.each_index.flat_map do |from|
        units.drop(from).inject([]) { |list, each| list << ((list.last || 0) + each) }
      end
      sums.uniq.select(&:positive?)
    end

    def watched(rate, place, position)
      ordinary = ordinary(rate, place, position)
      ordinary.empty? ? [] : PlanReading.new(rate.plan, ordinary, @scaled.at(position), place).watched
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
