# frozen_string_literal: true

module GateMile
  # What a number of units costs when it is priced apart from the cart: an amount for each, or steps.
  #
  # counting: :unit (one step from 1), :graduated (each unit pays the amount of its own step) or :whole (all units pay
  # the amount of the step that was reached); steps: [[from, {Money}]], ascending, the first from 1.
  class Charge < Value.of(:counting, :steps)
    KINDS = %w[unit graduated whole].freeze
    MOST = 100

    # @param units [Integer]
    # @return [Array<Array(Integer, Money)>] how many units pay which amount each
    def parts(units)
      return [[units, steps.reverse_each.find { |from,| from <= units }.last]] unless counting == :graduated

      steps.each_with_index.filter_map do |(from, amount), index|
        upto = steps[index + 1]&.first
        count = [units, upto ? upto - 1 : units].min - from + 1
        [count, amount] if count.positive?
      end
    end

    # @param units [Integer] at least 1
    # @return [Money]
    def price(units) = parts(units).map { |count, amount| amount * count }.reduce(:+)
  end
end
