# frozen_string_literal: true

module GateMile
  # A point at which something changes along a measure, and what stands right beside it.
  #
  # measure: a gauge's; base: in base units; text: as it is written; hair: base units to what stands beside it; setting:
  # whose point it is; basis: {Basis} of its own, or nil.
  class Edge < Value.of(:measure, :base, :text, :hair, :setting, :basis)
    # @param gauge [Gauge]
    # @param boundary [Boundary]
    # @return [Edge]
    def self.of(gauge, boundary, setting, basis = nil)
      new(measure: gauge.name, base: boundary.base, text: boundary.text, hair: gauge.hair, setting: setting,
          basis: basis)
    end

    # @return [Array<Array(Symbol, Numeric)>] at it, and right below and above, where carts can come to that
    def sides
      [[:below, base - hair], [:at, base], [:above, base + hair]].select { |_, number| number.positive? }
    end
  end
end
