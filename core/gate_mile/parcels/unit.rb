# frozen_string_literal: true

module GateMile
  # Units of one line that are worth the same, so many times: what parcels are made of.
  class Unit
    # @return [Line]
    attr_reader :line
    # @return [Integer] minor units of one
    attr_reader :value
    # @return [Integer] how many
    attr_reader :times

    # Single units, so many times each: a line's value that does not divide gives the first ones a minor unit more.
    # @param lot [Lot]
    # @param basis [Basis] of their value
    # @return [Array<Unit>]
    def self.of(lot, basis)
      lot.lines.each_with_object([]) do |line, found|
        each, more = line.minor(basis).divmod(line.quantity)
        found << new(line, each + 1, more) if more.positive?
        found << new(line, each, line.quantity - more) if more < line.quantity
      end
    end

    # @param line [Line]
    # @param value [Integer]
    # @param times [Integer]
    def initialize(line, value, times)
      @line = line
      @value = value
      @times = times
    end

    # @return [Unit] one alone
    def one = times == 1 ? self : self.class.new(line, value, 1)

    # @return [String]
    def label = line.label

    # @return [Sides, nil] nil where it is not known
    def sides = line.size

    # @return [Integer, Rational, nil] base units of one, nil where it is not known; the next ones alike
    def weight = line.unit_weight&.base

    def volume = sides&.volume
    def longest = sides&.longest&.base

    # A unit of which a weight or a size is stated, where it has none of its own.
    class Stated < Unit
      # @param unit [Unit]
      # @param weight [Weight, nil]
      # @param sides [Sides, nil]
      def initialize(unit, weight, sides)
        super(unit.line, unit.value, unit.times)
        @weight = weight
        @sides = sides
      end

      def sides = super || @sides
      def weight = super || @weight&.base
    end
  end
end
