# frozen_string_literal: true

module GateMile
  # A length, exact in hundredths of a millimetre. One inch is 25.4 mm by definition (the agreement of 1959): a whole
  # number of these, as a quarter of it is. What is written more finely is an exact fraction of one.
  class Length < Measure
    UNITS = { "cm" => 1000, "mm" => 100, "m" => 100_000, "in" => 2540, "ft" => 30_480 }.freeze
    PART = 1
    PLACES = places(UNITS, PART)
    # One kilometre
    LIMIT = UNITS["m"] * 1000
  end
end
