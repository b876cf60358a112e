# frozen_string_literal: true

module GateMile
  # Whole numbers without an order that anything could fall in with, and always the same ones: nothing is left to chance
  # (a linear congruential generator; multiplier and increment from Knuth's MMIX, from memory).
  class Spread
    MULTIPLIER = 6_364_136_223_846_793_005
    INCREMENT = 1_442_695_040_888_963_407
    BITS = 64
    # The upper half is told: lower bits follow each other in short rounds.
    TOLD = 32
    private_constant :MULTIPLIER, :INCREMENT, :BITS, :TOLD

    # @param from [Integer] where they begin
    def initialize(from)
      @state = from
      below(2)
    end

    # @param limit [Integer]
    # @return [Integer] from 0 to just before the limit
    def below(limit)
      @state = ((@state * MULTIPLIER) + INCREMENT) % (1 << BITS)
      ((@state >> TOLD) * limit) >> TOLD
    end

    # @param most [Integer]
    # @return [Integer] up to that, mostly a small part of it
    def little(most) = below(most + 1) * below(1001) * below(1001) / 1_000_000

    # @param list [Array]
    # @return [Object] one of it
    def of(list) = list[below(list.size)]

    # @param list [Array]
    # @param most [Integer]
    # @return [Array] so many of it at most, each once
    def some(list, most)
      return list if list.size <= most

      list = list.dup
      Array.new(most) do |at|
        at + below(list.size - at)
      end.each_with_index { |from, at| list[at], list[from] = list[from], list[at] }
      list.first(most)
    end
  end
end
