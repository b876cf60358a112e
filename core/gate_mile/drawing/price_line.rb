# frozen_string_literal: true

module GateMile
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
end
