# frozen_string_literal: true

module GateMile
  # A physical quantity kept exactly: a number of base units, and the unit it was written in. Two measures are equal
  # when their amounts are, whatever their units.
  class Measure
    include Comparable

    # A number and a unit share no character, so that nothing is read twice.
    # What most measures look like: read the short way.
    PLAIN = /\A(\d{1,9})(?:\.(\d{1,6}))? ?([a-z]+[23]?)\z/
    PATTERN = /\A([+-]?[\d.,]+)\s*([[:alpha:]]+[23]?)?\z/
    # Characters; far more than the longest measure that can be written.
    LONGEST = 80
    private_constant :PLAIN, :PATTERN, :LONGEST

    # @return [Integer, Rational] base units: 125 ng of a {Weight}, 10 µm of a {Length}, the cube of that of a {Volume}
    attr_reader :base
    # @return [String] the unit it was written in
    attr_reader :unit

    class << self
      # @param units [Hash{String => Integer}] base units of each
      # @param part [Integer] how many parts make a base unit, of which units are a power of ten
      # @return [Hash{String => Integer}] digits after the point that write a part, for units that are a power of ten
      def places(units, part)
        parts = units.transform_values { |size| size * part }
        parts.transform_values do |size|
          size.to_s.length - 1
        end.select { |unit, places| parts[unit] == 10**places }.freeze
      end

      # @param text [String] a number and a unit in any case, e.g. "12 oz", "0.3 LB", "2.4m"
      # @param unit [String, nil] the unit meant where the text names none
      # @return [Measure]
      # @raise [Malformed] :not_a_measure, :unknown_unit (numbers: units), :negative, :too_large
      def parse(text, unit: nil)
        plain(text) || thorough(text, unit)
      end

      # @param value [Integer, Rational] how many
      # @param unit [String] of which unit
      def of(value, unit) = new(Decimal.simplify(value * self::UNITS.fetch(unit)), unit)

      private

      # @return [Measure, nil] nil where it has to be looked at more closely
      def plain(text)
        return unless text.is_a?(String)

        found = PLAIN.match(text) or return
        size = self::UNITS[unit = found[3]] or return
        part = found[2]
        base = if part then Decimal.quotient("#{found[1]}#{part}".to_i * size, 10**part.length)
               else found[1].to_i * size
               end
        new(base, unit) unless base > self::LIMIT
      end

      def thorough(text, unit)
        match = PATTERN.match(text.strip) if text.is_a?(String) && text.length <= LONGEST
        raise Malformed, :not_a_measure unless match

        named = (match[2] || unit).to_s.downcase
        value = number(match[1])
        raise Malformed.new(:unknown_unit, units: self::UNITS.keys.join(", ")) unless self::UNITS.key?(named)
        raise Malformed, :negative if value.negative?

        of(value, named).tap { |measure| raise Malformed, :too_large if measure.base > self::LIMIT }
      end

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

    # The short way for units of which a base unit is a decimal fraction.
    def plain
      return unless base.is_a?(Integer)

      places = self.class::PLACES[unit] or return
      return "0" if base.zero?

      shown = base * self.class::PART
      while places.positive? && (shown % 10).zero?
        shown /= 10
        places -= 1
      end
      Decimal.point(shown, places)
    end
  end
end
