# frozen_string_literal: true

module GateMile
  # How much a cart must come to: at least so much of one measure and, where that is said, less than so much.
  #
  # measure: one of MEASURES; from, below: {Boundary}, the second may be nil; basis: {Basis} of its own or nil: its
  # lines say whose value, weight or units count.
  class Threshold < Value.of(:measure, :from, :below, :basis)
    MEASURES = %w[value weight quantity].freeze

    # @param number [Integer, Rational] what the cart comes to, in the base units of the measure
    # @return [Symbol] :below it, :reached or :over the stretch
    def stand(number)
      return :below if number < from.base

      below && number >= below.base ? :over : :reached
    end

    # @param number [Integer, Rational]
    # @param store [Store]
    # @return [Money, Weight, Integer] so much of the measure
    def amount(number, store)
      case measure
      when "value" then Money.new(number, store.currency)
      when "weight" then Weight.new(Decimal.simplify(number), store.weight_unit)
      else number
      end
    end

    # @return [Money, Weight, Integer] the least that reaches it
    def least(store) = amount(from.base, store)
  end
end
