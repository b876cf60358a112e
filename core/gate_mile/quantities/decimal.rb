# frozen_string_literal: true

module GateMile
  # Exact decimal numbers, read from and written to plain text such as "4.50"; never through a binary float.
  module Decimal
    PATTERN = /\A([+-])?(\d{1,15})(?:\.(\d{1,15}))?\z/
    # "1,5" is one and a half in half of the world and fifteen nowhere; "1,500" could be either, and is not guessed at.
    COMMA = /\A[+-]?\d+,\d{1,15}\z/
    private_constant :PATTERN, :COMMA

    # @param text [String] digits with at most one point, e.g. "12", "-0.5"; no exponent, no thousands separators
    # @return [Integer, Rational] the exact value, an Integer where it is whole
    # @raise [Malformed] :not_a_number, :decimal_comma (numbers: text, how it would be written with a point)
    def self.parse(text)
      match = PATTERN.match(text.to_s.strip) or raise no_number(text.to_s.strip)
      whole = Integer(match[2], 10)
      value = match[3] ? whole + Rational(Integer(match[3], 10), 10**match[3].length) : whole
      simplify(match[1] == "-" ? -value : value)
    end

    def self.no_number(text)
      return Malformed.new(:not_a_number) unless text.match?(COMMA)

      Malformed.new(:decimal_comma, text: text.tr(",", "."))
    end
    private_class_method :no_number

    # @param text [String]
    # @return [Integer] how many digits stand after the point, zeros at the end left out
    def self.places(text) = text.to_s.strip[/\.(\d*)\z/, 1].to_s.sub(/0+\z/, "").length

    # @param value [Integer, Rational]
    # @param places [Integer, nil] write exactly so many digits after the point; nil: as few as it takes, and nine where
    #   no finite number of digits writes it exactly
    # @return [String]
    def self.write(value, places: nil)
      return value.to_s if places.nil? && value.is_a?(Integer)

      places ||= places_of(value.denominator) || 9
      point(round(value * (10**places)), places)
    end

    # @param scaled [Integer] a number times 10 to the power of places
    # @param places [Integer]
    # @return [String] the number, with its point
    def self.point(scaled, places)
      return scaled.to_s if places.zero?
      return "-#{point(-scaled, places)}" if scaled.negative?

      text = scaled.to_s
      text = text.rjust(places + 1, "0") if text.length <= places
      text.insert(-places - 1, ".")
    end

    # How many decimals write a fraction of this denominator exactly: nil where it has a factor besides 2 and 5.
    def self.places_of(denominator)
      twos = fives = 0
      while denominator.even?
        denominator /= 2
        twos += 1
      end
      while (denominator % 5).zero?
        denominator /= 5
        fives += 1
      end
      [twos, fives].max if denominator == 1
    end
    private_class_method :places_of

    # @param value [Integer, Rational]
    # @return [Integer] the nearest whole number, half away from zero
    def self.round(value) = value.is_a?(Integer) ? value : value.round(half: :up)

    # @param numerator [Integer]
    # @param denominator [Integer] positive
    # @return [Integer] the nearest whole number, half away from zero
    def self.divide(numerator, denominator)
      return -divide(-numerator, denominator) if numerator.negative?

      ((numerator * 2) + denominator) / (denominator * 2)
    end

    # @param numerator [Integer]
    # @param denominator [Integer] positive
    # @return [Integer, Rational] exactly, an Integer where it is whole
    def self.quotient(numerator, denominator)
      whole, rest = numerator.divmod(denominator)
      rest.zero? ? whole : Rational(numerator, denominator)
    end

    # @param number [Integer, Rational]
    # @param size [Integer, Rational] positive
    # @return [Integer] how many of this size are begun
    def self.started(number, size) = -(-number).div(size)

    # @param value [Integer, Rational]
    # @return [Integer, Rational] the same number, as an Integer where it is whole
    def self.simplify(value) = value.is_a?(Rational) && value.denominator == 1 ? value.numerator : value
  end
end
