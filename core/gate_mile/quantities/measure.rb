# frozen_string_literal: true

module GateMile
  # A physical quantity kept exactly: a number of base units, and the unit it was written in. Two measures are equal
  # when their amounts are, whatever their units.
  class Measure
    include Comparable

    # A number and a unit share no character, so that nothing is read twice.
    PATTERN = /\A([+-]?[\d.,]+)\s*([[:alpha:]]+[23]?)?\z/
    # Characters; far more than the longest measure that can be written.
    LONGEST = 80
    private_constant :PATTERN, :LONGEST

    # @return [Integer, Rational] base units (nanograms of a {Weight}, nanometres of a {Length})
    attr_reader :base
    # @return [String] the unit it was written in
    attr_reader :unit

    class << self
      # @param text [String] a number and a unit in any case, e.g. "12 oz", "0.3 LB", "2.4m"
      # @param unit [String, nil] the unit meant where the text names none
      # @return [Measure]
      # @raise [Malformed] :not_a_measure, :unknown_unit (numbers: units), :negative, :too_large
      def parse(text, unit: nil)
        match = PATTERN.match(text.strip) if text.is_a?(String) && text.length <= LONGEST
        raise Malformed, :not_a_measure unless match

        named = (match[2] || unit).to_s.downcase
        value = number(match[1])
        raise Malformed.new(:unknown_unit, units: self::UNITS.keys.join(", ")) unless self::UNITS.key?(named)
        raise Malformed, :negative if value.negative?

        of(value, named).tap { |measure| raise Malformed, :too_large if measure.base > self::LIMIT }
      end

      # @param value [Integer, Rational] how many
      # @param unit [String] of which unit
      def of(value, unit) = new(Decimal.simplify(value * self::UNITS.fetch(unit)), unit)

      private

      def number(text)
        Decimal.parse(text)
      rescue Malformed => e
        raise e.code == :decimal_comma ? e : Malformed.new(:not_a_measure)
      end
    end

    def initialize(base, unit)
      @base = base
      @unit = unit
      freeze
    end

    def +(other) = self.class.new(Decimal.simplify(base + other.base), unit)
    def *(other) = self.class.new(Decimal.simplify(base * other), unit)
    def <=>(other) = other.instance_of?(self.class) ? base <=> other.base : nil
    def eql?(other) = other.instance_of?(self.class) && base == other.base
    def hash = [self.class, base].hash
    def zero? = base.zero?

    # @param unit [String] one of UNITS
    # @return [Integer, Rational] the exact number of that unit
    def in(unit) = Decimal.simplify(Rational(base) / self.class::UNITS.fetch(unit))

    # @param unit [String] the unit to write it in
    # @return [Measure] the same quantity, written in that unit
    def as(unit) = self.class.new(base, unit)

    # @return [String] e.g. "0.21 kg"; exact where the number has a finite decimal expansion, else to 9 places
    def to_s = "#{plain || Decimal.write(self.in(unit))} #{unit}"

    def inspect = "#<#{self.class.name} #{self}>"

    private

    # The short way for units that are a power of ten of base units.
    def plain
      return unless base.is_a?(Integer)

      size = self.class::UNITS.fetch(unit)
      places = (size - 1).to_s.length
      return unless size == 10**places

      whole, rest = base.divmod(size)
      rest.zero? ? whole.to_s : "#{whole}.#{rest.to_s.rjust(places, "0").sub(/0+\z/, "")}"
    end
  end

  # A weight, exact in nanograms. One avoirdupois pound is 0.45359237 kg by definition (the international yard and
  # pound agreement of 1959), so one ounce is 28 349 523 125 ng: a whole number.
  class Weight < Measure
    UNITS = { "kg" => 1_000_000_000_000, "g" => 1_000_000_000, "lb" => 453_592_370_000, "oz" => 28_349_523_125 }.freeze
    # 1000 tonnes
    LIMIT = UNITS["kg"] * 1_000_000
  end

  # A length, exact in nanometres. One inch is 25.4 mm by definition (the agreement of 1959).
  class Length < Measure
    UNITS = { "cm" => 10_000_000, "mm" => 1_000_000, "m" => 1_000_000_000, "in" => 25_400_000, "ft" => 304_800_000 }
            .freeze
    # One kilometre
    LIMIT = UNITS["m"] * 1000
  end

  # A volume, exact in cubic nanometres.
  class Volume < Measure
    UNITS = { "l" => 10**24, "ml" => 10**21, "cm3" => 10**21, "m3" => 10**27, "in3" => 25_400_000**3,
              "ft3" => 304_800_000**3 }.freeze
    # A thousand cubic metres
    LIMIT = UNITS["m3"] * 1000
  end
end
