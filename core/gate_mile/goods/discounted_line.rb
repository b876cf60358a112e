# frozen_string_literal: true

module GateMile
  # A line of which a discount takes something, its own or its share of the order's.
  class DiscountedLine < Line
    # @return [Integer] minor units in the shop's prices before any discount
    attr_reader :before
    # @return [Integer] the same after it
    attr_reader :after

    # @param goods [Goods] that have a price
    # @param quantity [Integer]
    # @param position [Integer]
    # @param before [Integer]
    # @param after [Integer]
    def initialize(goods, quantity, position, before, after)
      super(goods, quantity, position)
      @before = before
      @after = after
    end
  end
end
