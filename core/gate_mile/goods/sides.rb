# frozen_string_literal: true

module GateMile
  # Outer dimensions of one unit: three {Length}s.
  class Sides < Value.of(:length, :width, :height)
    NAMES = %w[length width height].freeze

    # @param reader [Reader]
    # @return [Sides]
    def self.read(reader)
      sides = NAMES.to_h { |side| [side.to_sym, reader.parsed(side) { |text| Length.parse(text) }] }
      reader.finish
      new(**sides)
    end

    # @return [Length] the longest of the three
    def longest = [length, width, height].max_by(&:base)

    # @return [Hash] for JSON
    def dump = to_h.to_h { |side, measure| [side.to_s, measure.to_s] }
  end
end
