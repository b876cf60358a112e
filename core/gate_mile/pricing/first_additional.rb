# frozen_string_literal: true

module GateMile
  # A schedule of one amount for the first unit and another for each additional one.
  class FirstAdditional < Value.of(:first, :additional)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [FirstAdditional]
    def self.read(reader, currency)
      new(first: reader.money("first", currency), additional: reader.money("additional", currency))
    end

    # @return [Array<Gauge>]
    def gauges = []

    # @return [Array<Scale>] what its prices change along
    def scales = []

    # @param load [Load]
    # @return [Priced]
    def price(load, _place)
      Priced.new(code: :"schedule.first", amount: first.minor + (additional.minor * (load.quantity - 1)),
                 numbers: { first: first, additional: additional, more: load.quantity - 1 },
                 chosen: first.zero? && (additional.zero? || load.quantity == 1))
    end

    # @return [Hash] for JSON
    def dump = { "kind" => "first", "first" => first.to_s, "additional" => additional.to_s }
  end
end
