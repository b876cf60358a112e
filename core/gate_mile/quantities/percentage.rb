# frozen_string_literal: true

module GateMile
  # A percentage, kept exactly. It acts through the amount that it adds or takes: 12.5 % of 9.96 is 1.25 (rounded
  # half away from zero), so 12.5 % off leaves 8.71.
  class Percentage
    # @return [Integer, Rational] per hundred
    attr_reader :value

    # @param text [String] e.g. "12.5"
    # @return [Percentage]
    # @raise [Malformed] :not_a_percentage
    def self.parse(text)
      new(Decimal.parse(text))
    rescue Malformed => e
      raise e.code == :decimal_comma ? e : Malformed.new(:not_a_percentage)
    end

    def initialize(value)
      @value = value
      freeze
    end

    NONE = new(0)

    # @param money [Money]
    # @return [Money] so much of it, rounded once to the minor unit
    def of(money) = money * Rational(value, 100)

    def ==(other) = other.is_a?(Percentage) && value == other.value
    alias eql? ==
    def hash = value.hash
    def to_s = Decimal.write(value)
  end
end
