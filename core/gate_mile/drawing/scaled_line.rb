# frozen_string_literal: true

module GateMile
  # A line whose price is scaled: by the store's own basis it is worth exactly the value it was given, by any other one
  # in proportion, rounded once.
  class ScaledLine < DiscountedLine
    # @param line [Line] that has a price
    # @param factor [Rational]
    # @param basis [Basis] the store's
    # @param amount [Integer] minor units by it
    def initialize(line, factor, basis, amount)
      super(line.goods, line.quantity, line.position, line.before, line.after)
      @factor = factor
      @basis = basis
      @amount = amount
    end

    # @param basis [Basis]
    # @return [Integer] minor units
    def minor(basis)
      same = basis.after? == @basis.after? && basis.with_tax? == @basis.with_tax?
      same ? @amount : Decimal.round(super * @factor)
    end
  end
end
