# frozen_string_literal: true

module GateMile
  # A percentage, kept exactly as a fraction of whole numbers. It acts through the amount that it adds or takes: 12.5 %
  # of 9.96 is 1.25 (rounded half away from zero), so 12.5 % off leaves 8.71.
  class Percentage
    # @return [Integer, Rational] per hundred
    attr_reader :value
    # @return [Integer] so many of {#denominator} parts: 12.5 % are 1 of 8
    attr_reader :numerator
    # @return [Integer] positive
    attr_reader :denominator

    # @param text [String] e.g. "12.5"
    # @return [Percentage]
    # @raise [Malformed] :not_a_percentage
    def self.parse(text)
      new(Decimal.parse(text))
    rescue Malformed => e
      raise e.code == :decimal_comma ? e : Malformed.new(:not_a_percentage)
    end

    # @param value [Integer, Rational] per hundred
    def initialize(value)
      part = Rational(value, 100)
      @value = value
      @numerator = part.numerator
      @denominator = part.denominator
      freeze
    end

    NONE = new(0)

    # @return [Boolean]
    def zero? = numerator.zero?

    # @param money [Money]
    # @return [Money] so much of it, rounded once to the minor unit
    def of(money) = money.with_minor(of_minor(money.minor))

    # @param minor [Integer] minor units
    # @return [Integer] so much of it, rounded once, half away from zero
    def of_minor(minor) = Decimal.divide(minor * numerator, denominator)

    # @param minor [Integer]
    # @return [Integer, Rational] so much of it, exactly
    def exactly(minor) = Decimal.quotient(minor * numerator, denominator)

    # @param minor [Integer] without it
    # @return [Integer] with it, rounded once
    def added_to(minor) = Decimal.divide(minor * (denominator + numerator), denominator)

    # @param minor [Integer] with it
    # @return [Integer] without it, rounded once
    def taken_out_of(minor) = Decimal.divide(minor * denominator, denominator + numerator)

    # @param minor [Integer] without it
    # @return [Integer] the least with it of which at least so much is left without it
    def least_with(minor) = -((-minor * (denominator + numerator)) / denominator)

    # @param minor [Integer] with it
    # @return [Integer] the least without it that comes to at least so much with it
    def least_before(minor) = -((-minor * denominator) / (denominator + numerator))

    def ==(other) = other.is_a?(Percentage) && value == other.value
    alias eql? ==
    def hash = value.hash
    def to_s = Decimal.write(value)
  end
end
