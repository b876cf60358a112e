# frozen_string_literal: true

module GateMile
  # What an offer does to a price: free, a fixed price, an amount off or a percentage off; and how much it takes at
  # most.
  #
  # amount: {Money} of fixed and off; percent: {Percentage} of percent; most: {Money} or nil.
  class Effect < Value.of(:kind, :amount, :percent, :most)
    KINDS = %w[free fixed off percent].freeze

    # @param base [Integer] minor units of what it falls on
    # @return [Integer] how much of it goes: never more than all of it
    def takes(base)
      wished = case kind
               when :free then base
               when :fixed then [base - amount.minor, 0].max
               when :off then [amount.minor, base].min
               else percent.of_minor(base)
               end
      most ? [wished, most.minor].min : wished
    end

    # @param minor [Integer] that is left to pay
    # @return [Boolean] whether it is what the effect makes of a price: nothing, or the fixed amount; what is taken off
    #   leaves any price
    def leaves?(minor)
      case kind
      when :free then minor.zero?
      when :fixed then minor == amount.minor
      else true
      end
    end
  end
end
