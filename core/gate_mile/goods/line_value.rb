# frozen_string_literal: true

module GateMile
  # What one line is worth, in the store's prices: before any discount, and after the line's own and its share of the
  # order's. Tax is added or taken out at the end and rounded once.
  #
  # before, after: {Money}; rate: {Percentage} of tax; with_tax: whether the two amounts contain it.
  class LineValue < Value.of(:before, :after, :rate, :with_tax)
    # @param basis [Basis]
    # @return [Money]
    def in(basis)
      amount = basis.discounts == "after" ? after : before
      wanted = basis.tax == "with"
      return amount if wanted == with_tax || rate.value.zero?

      factor = 1 + Rational(rate.value, 100)
      amount * (wanted ? factor : 1 / factor)
    end

    # Spreads a discount over amounts in proportion to them: whole minor units by largest remainder, the earlier one
    # among equals.
    # @param discount [Integer] minor units
    # @param amounts [Array<Integer>] minor units, none negative
    # @return [Array<Integer>] one share for each; they sum up to the discount, or to the amounts where it is larger
    def self.spread(discount, amounts)
      total = amounts.sum
      return amounts if discount >= total

      exact = amounts.map { |amount| Rational(amount * discount, total) }
      shares = exact.map(&:floor)
      places = exact.each_index.sort_by { |index| [shares[index] - exact[index], index] }
      places.first(discount - shares.sum).each { |index| shares[index] += 1 }
      shares
    end
  end
end
