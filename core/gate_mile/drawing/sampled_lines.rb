# frozen_string_literal: true

module GateMile
  # The price lines of live rates. Carriers are asked at a few positions; the lines between these are an estimate.
  class SampledLines
    # Stretches between which carriers are asked.
    SAMPLES = 8
    private_constant :SAMPLES

    # @param book [Book]
    # @param scaled [ScaledCart]
    # @param most [Integer, Rational] where the axis ends
    # @param carriers [#answers]
    # @yieldparam rate [Rate]
    # @yieldparam position [Integer, Rational]
    # @yieldreturn [Visit] of the cart at that position
    def initialize(book, scaled, most, carriers, &visit)
      @book = book
      @scaled = scaled
      @most = most
      @carriers = carriers
      @visit = visit
      @sampled = {}
    end

    # Asks for all positions of all live rates at once.
    # @param rates [Array<Rate>] live ones of the cart's zone
    # @return [Hash{String => Array<Piece>}] by rate id
    def of(rates)
      positions = positions_to_sample
      asked = rates.product(positions).flat_map { |rate, at| @book.program(rate).requests(@visit.call(rate, at)) }
      @answers = @carriers.answers(asked.uniq)
      rates.to_h { |rate| [rate.id, levelled(positions.each_cons(2).map { |from, to| stretch(rate, from, to) })] }
    end

    private

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
      @sampled[[rate, at]] ||= @book.program(rate).quote(@visit.call(rate, at).with(answers: @answers))
    end
  end
end
