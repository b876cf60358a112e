# frozen_string_literal: true

module GateMile
  # All amounts of a plan raised or lowered at once: percent first, then an amount. A chosen zero stays zero, and
  # nothing falls below zero.
  class PriceChange
    # One amount that changes: where it stands in the plan's document, what it was, what it becomes.
    Amount = Struct.new(:pointer, :before, :after)

    # @return [Array<Amount>]
    attr_reader :amounts

    # @param percent [Percentage] of either sign
    # @param amount [Money] of either sign
    def initialize(percent, amount)
      @percent = percent
      @amount = amount
      @amounts = []
    end

    # @param plan [Plan]
    # @return [Plan] another one; {#amounts} grows by what differs
    def of(plan)
      plan.map_amounts do |before, pointer|
        after = changed(before)
        @amounts << Amount.new(pointer, before, after) unless after == before
        after
      end
    end

    private

    def changed(before)
      return before if before.zero?

      after = before + @percent.of(before) + @amount
      after.negative? ? Money.zero(@amount.currency) : after
    end
  end
end
