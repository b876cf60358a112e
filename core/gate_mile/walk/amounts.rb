# frozen_string_literal: true

module GateMile
  # Puts measures of carts where they are wanted: the first goods bear what the cart has to come to.
  class Amounts
    # Sides of boxes in centimetres, of which a third one always comes out even.
    EVEN = [1, 2, 4, 5, 8, 10, 16, 20, 25, 40, 50, 80, 100].freeze
    CENTIMETRE = Length::UNITS["cm"]
    private_constant :EVEN, :CENTIMETRE

    # @param book [Book]
    # @param parcels [ParcelPolicy] by which goods become parcels
    def initialize(book, parcels = book.store.parcels)
      @book = book
      @parcels = parcels
    end

    # @param trial [Trial]
    # @param measure [String] a gauge's
    # @param base [Numeric] what the first goods come to, all units together; for the longest side, each of them
    # @param basis [Basis, nil] by which a value counts
    # @return [Trial, nil] nil where no cart comes to that
    def put(trial, measure, base, basis = nil)
      return if base > (GaugeKind::ALL[measure].largest || base)

      units = trial.goods.first.quantity
      case measure
      when "quantity" then trial.first(quantity: base) if base.between?(1, CartLine::QUANTITIES.max)
      when "billable_weight" then billable(trial, base, units)
      when "weight" then trial.first(weight: Rational(base, units))
      when "longest" then trial.first(sides: [base, 1, 1].map { |side| [side, base].min })
      when "volume" then trial.first(sides: sides(Rational(base, units)))
      else worth(trial, base, basis)&.then { |minor| trial.first(worth: minor) }
      end
    end

    # @param store_value [Integer] minor units by the basis
    # @return [Integer, nil] a price of one unit with which the first goods come to that; nil where tax leaves it out
    def worth(trial, store_value, basis)
      units = trial.goods.first.quantity
      guess = guess(Rational(store_value, units), whole(basis))
      [guess, guess - 1, guess + 1].find { |price| !price.negative? && counted(trial, price, basis) == store_value }
    end

    private

    # Above what a parcel may weigh it is volume that counts, where that does.
    def billable(trial, base, units)
      each = Rational(base - tare, units)
      return if each.negative?
      return trial.first(weight: each) if @parcels.divisor.nil? || @parcels.up_to.nil? || each <= @parcels.up_to.base

      space, mass = ParcelPolicy::PER.fetch(@parcels.per)
      trial.first(sides: roomy(trial.goods.first.sides.max, each * space * @parcels.divisor / mass))
    end

    # What the packing of a fixed parcel adds.
    def tare = @parcels.kind == :fixed ? @parcels.tare&.base || 0 : 0

    # Not less than a volume, and no longer than it is where that can be.
    def roomy(longest, volume)
      millimetre = Length::UNITS["mm"]
      third = (volume / (longest * longest) / millimetre).ceil * millimetre
      return [longest, longest, third] if third <= longest

      side = (Math.cbrt(volume) / millimetre).ceil * millimetre
      [side, side, side]
    end

    def whole(basis) = @book.store.basis_for(basis)

    # @return [Integer] what the first goods come to at a price
    def counted(trial, price, basis)
      basket = @book.basket(trial.with(goods: [trial.goods.first.with(worth: price)]).cart)
      (whole(basis).lines == "all" ? basket.all : basket.shipping).value(whole(basis))
    end

    def guess(minor, basis)
      with = @book.store.prices_include_tax
      return minor.round if basis.with_tax? == with

      factor = 1 + Rational(@book.store.tax_classes.first&.rate&.value || 0, 100)
      (with ? minor * factor : minor / factor).round
    end

    # Two even sides and what is left for the third.
    def sides(base)
      millilitres = Rational(base, CENTIMETRE**3)
      even = EVEN.min_by { |side| (side - Math.cbrt(millilitres)).abs }
      [Rational(millilitres, even * even) * CENTIMETRE, even * CENTIMETRE, even * CENTIMETRE].map do |side|
        Decimal.simplify(side)
      end
    end
  end
end
