# frozen_string_literal: true

module GateMile
  # A volume, exact in cubes of the unit of {Length}: a thousand cubic metres stay within a machine word.
  class Volume < Measure
    UNITS = { "l" => 10_000**3, "ml" => 1000**3, "cm3" => 1000**3, "m3" => 100_000**3, "in3" => 2540**3,
              "ft3" => 30_480**3 }.freeze
    PART = 1
    PLACES = places(UNITS, PART)
    # A thousand cubic metres
    LIMIT = UNITS["m3"] * 1000
  end
end
