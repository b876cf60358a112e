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

    # Shares a total out in proportion to weights, in whole numbers by largest remainder; the earlier one among equals.
    # @param total [Integer]
    # @param weights [Array<Integer>] none negative, some positive
    # @return [Array<Integer>] they sum up to the total
    def self.share(total, weights)
      sum = weights.sum
      exact = weights.map { |weight| Rational(weight * total, sum) }
      shares = exact.map(&:floor)
      places = exact.each_index.sort_by { |index| [shares[index] - exact[index], index] }
      places.first(total - shares.sum).each { |index| shares[index] += 1 }
      shares
    end

    # Spreads a discount over amounts in proportion to them: whole minor units by largest remainder, the earlier one
    # among equals.
    # @param discount [Integer] minor units
    # @param amounts [Array<Integer>] minor units, none negative
    # @return [Array<Integer>] one share for each; they sum up to the discount, or to the amounts where it is larger
    def self.spread(discount, amounts)
      total = amounts.sum
      return amounts if discount >= total

      share(discount, amounts)
    end
  end
end
