# frozen_string_literal: true

module GateMile
  # A point on a scale with its exact number. text: as it was written, its unit as the core writes it.
  class Boundary < Value.of(:base, :text)
    # @param gauge [Gauge]
    # @param text [Object]
    # @return [Boundary]
    # @raise [Malformed]
    def self.parse(gauge, text)
      base, written = gauge.read(text)
      new(base: base, text: written)
    end

    def to_s = text
  end
end
