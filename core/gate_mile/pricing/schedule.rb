# frozen_string_literal: true

module GateMile
  # The kinds of schedules. Each answers `read`, `price(load, place)`, `gauges` and `dump`.
  module Schedule
    KINDS = { "flat" => Flat, "first" => FirstAdditional, "steps" => Steps, "grid" => Grid }.freeze

    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Flat, FirstAdditional, Steps, Grid, nil]
    def self.read(reader, currency)
      kind = reader.choice("kind", among: KINDS.keys) or return
      KINDS[kind].read(reader, currency).tap { reader.finish }
    end
  end
end
