# frozen_string_literal: true

module GateMile
  # One amount that a merchant has typed, with the amounts that it can be held against.
  #
  # amount: {Money}; name: what the merchant knows it by, a rate or an offer; what: which of its amounts, one of WHAT;
  # at: the edge at which it stands, or nil; setting: where it is; zone: id, or nil; beside: by where they are, one of
  # PLACES, the amounts of the same kind there, as minor units; between: {Range} of minor units in which it would go up
  # with them, or nil.
  class Figure < Value.of(:amount, :name, :what, :at, :setting, :zone, :beside, :between)
    WHAT = %i[flat first additional step each cell class others handling minimum maximum fallback threshold cap amount
              rule].freeze
    # The same schedule, the same method in other zones, other methods of the zone, other classes of the plan, the
    # prices that it falls on, the prices of goods, what carriers took in the zone, what orders paid by the method.
    PLACES = %i[schedule zones methods classes prices goods carriers orders].freeze
    # So many times its neighbours no figure of a shop is on purpose; so many times is one sign of two.
    ABSURD = 40
    FAR = 8
    # How far neighbours may lie apart to say anything.
    SPREAD = 6
    # A point that was lost or moved makes a figure so many times as large.
    SHIFTS = [10, 100].freeze
    # How near to a neighbour a figure comes that has its point put back.
    NEAR = (Rational(3, 5)..Rational(5, 3))
    private_constant :ABSURD, :FAR, :SPREAD, :SHIFTS, :NEAR

    # What speaks against it. place: one of PLACES; times: how many times its nearest neighbour it is, or the neighbour
    # is it; near: the neighbours, as minor units.
    Sign = Struct.new(:place, :times, :near)

    # @return [Sign, nil] the strongest sign against it; nil where there is neither an absurd one nor two of any kind
    def doubt
      found = signs
      worst = found.max_by(&:times) or return
      worst if worst.times >= ABSURD || found.size > 1 || (worst.near.size > 1 && meant(worst))
    end

    # @param sign [Sign]
    # @return [Money, nil] what was probably meant: the figure with its point elsewhere, near its neighbours
    def meant(sign)
      SHIFTS.flat_map { |shift| [Rational(amount.minor, shift), Rational(amount.minor * shift)] }
            .select { |minor| minor.denominator == 1 && near?(minor, sign) }
            .min_by { |minor| (minor - middle(sign.near)).abs }&.then { |minor| amount.with_minor(minor.to_i) }
    end

    private

    def near?(minor, sign)
      return false if between && sign.place == :schedule && !between.cover?(minor)

      sign.near.any? { |one| NEAR.cover?(Rational(minor, one)) }
    end

    def signs
      return [] unless amount.minor.positive?

      PLACES.filter_map do |place|
        near = beside.fetch(place, []).select(&:positive?)
        times = times(near)
        Sign.new(place, times, near) if times && times >= FAR
      end
    end

    # @return [Rational, nil] nil where the neighbours do not agree among themselves
    def times(near)
      return if near.empty?

      least, most = near.minmax
      return if near.size > 1 && most > least * SPREAD

      amount.minor > most ? Rational(amount.minor, most) : Rational(least, amount.minor)
    end

    def middle(near) = near.sort[near.size / 2]
  end
end
