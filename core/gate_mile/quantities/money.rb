# frozen_string_literal: true

module GateMile
  # An amount of money: a whole number of minor units of one currency. Sums of two currencies are refused.
  class Money
    include Comparable

    # The largest amount in minor units, either sign: far above any price, and safe in every number format it meets.
    LIMIT = 999_999_999_999

    # @return [Integer] minor units, e.g. pence
    attr_reader :minor
    # @return [Currency]
    attr_reader :currency

    # @param text [String] a decimal in major units, e.g. "4.50"; fewer decimals than the exponent are fine
    # @param currency [Currency]
    # @return [Money]
    # @raise [Malformed] :not_an_amount, :too_many_decimals (numbers: places), :too_large
    def self.parse(text, currency)
      plain(text, currency) || thorough(text, currency)
    end

    # What most amounts look like: with all decimals of their currency.
    PLAIN = /\A\d{1,9}(?:\.(\d{2,3}))?\z/
    private_constant :PLAIN

    # @return [Money, nil] nil where it has to be looked at more closely
    def self.plain(text, currency)
      return unless text.is_a?(String) && PLAIN.match(text)

      decimals = Regexp.last_match(1)
      return unless decimals ? decimals.length == currency.exponent : currency.exponent.zero?

      new(text.delete(".").to_i, currency)
    end

    def self.thorough(text, currency)
      value = read(text)
      raise Malformed.new(:too_many_decimals, places: currency.exponent) if Decimal.places(text) > currency.exponent

      minor = Decimal.round(value * (10**currency.exponent))
      raise Malformed, :too_large if minor.abs > LIMIT

      new(minor, currency)
    end

    def self.read(text)
      raise Malformed, :not_an_amount unless text.is_a?(String)

      Decimal.parse(text)
    rescue Malformed => e
      raise e.code == :decimal_comma ? e : Malformed.new(:not_an_amount)
    end
    private_class_method :plain, :thorough, :read

    # @param currency [Currency]
    # @return [Money]
    def self.zero(currency) = new(0, currency)

    # @param minor [Integer] minor units
    # @param currency [Currency]
    def initialize(minor, currency)
      @minor = minor
      @currency = currency
      freeze
    end

    def +(other) = Money.new(minor + same(other).minor, currency)
    def -(other) = Money.new(minor - same(other).minor, currency)

    # @param factor [Integer, Rational] exact
    # @return [Money] rounded to the minor unit, half away from zero
    def *(other) = Money.new(Decimal.round(minor * other), currency)

    def <=>(other) = other.is_a?(Money) && other.currency.equal?(currency) ? minor <=> other.minor : nil
    def eql?(other) = other.is_a?(Money) && self == other
    def hash = [minor, currency].hash
    # @param minor [Integer]
    # @return [Money] so much of the same currency
    def with_minor(minor) = Money.new(minor, currency)

    def zero? = minor.zero?
    def negative? = minor.negative?

    # @return [String] a decimal in major units with all decimals of the currency, e.g. "4.50"; {.parse} reads it back
    def to_s = Decimal.point(minor, currency.exponent)

    def inspect = "#<Money #{self} #{currency.code}>"

    private

    def same(other)
      return other if other.currency.equal?(currency)

      raise ArgumentError, "#{currency.code} and #{other.currency.code} do not add up"
    end
  end
end
