# frozen_string_literal: true

module GateMile
  # A weight, exact in units of 125 nanograms. One avoirdupois pound is 0.45359237 kg by definition (the international
  # yard and pound agreement of 1959), so one ounce is 28 349 523 125 ng: a whole number of such units, and no larger
  # unit divides ounce and gram alike. What a thousand shops send in a year stays within a machine word.
  class Weight < Measure
    NANOGRAMS = 125
    UNITS = { "kg" => 1_000_000_000_000, "g" => 1_000_000_000, "lb" => 453_592_370_000, "oz" => 28_349_523_125 }
            .transform_values { |nanograms| nanograms / NANOGRAMS }.freeze
    PART = NANOGRAMS
    PLACES = places(UNITS, PART)
    # 1000 tonnes
    LIMIT = UNITS["kg"] * 1_000_000

    # @return [Integer] whole nanograms, rounded down
    def nanograms = (base * NANOGRAMS).floor
  end
end
