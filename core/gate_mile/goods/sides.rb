# frozen_string_literal: true

module GateMile
  # Outer dimensions of one unit: three {Length}s.
  class Sides < Value.of(:length, :width, :height)
    NAMES = %w[length width height].freeze

    def initialize(length: nil, width: nil, height: nil)
      sides = [length, width, height]
      @longest = sides.compact.max_by(&:base)
      @volume = sides.all? ? length.base * width.base * height.base : nil
      super
    end

    # @return [Length] the longest of the three
    attr_reader :longest

    # @return [Integer, Rational] base units of a {Volume}
    attr_reader :volume
  end
end
