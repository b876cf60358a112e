# frozen_string_literal: true

module GateMile
  # Shares amounts out in whole numbers.
  module Discount
    # In proportion to weights, by largest remainder; the earlier one among equals.
    # @param total [Integer]
    # @param weights [Array<Integer>] none negative, some positive
    # @return [Array<Integer>] they sum up to the total
    def self.share(total, weights)
      sum = weights.sum
      shares = weights.map { |weight| weight * total / sum }
      places = weights.each_index.sort_by { |index| [(shares[index] * sum) - (weights[index] * total), index] }
      places.first(total - shares.sum).each { |index| shares[index] += 1 }
      shares
    end

    # Spreads a discount over amounts in proportion to them: whole minor units by largest remainder, the earlier one
    # among equals.
    # @param discount [Integer] minor units
    # @param amounts [Array<Integer>] minor units, none negative
    # @return [Array<Integer>] one share for each; they sum up to the discount, or to the amounts where it is larger
    def self.spread(discount, amounts)
      discount >= amounts.sum ? amounts : share(discount, amounts)
    end
  end
end
