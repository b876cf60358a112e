# frozen_string_literal: true

module GateMile
  # A schedule of one amount, whatever is in the load.
  class Flat < Value.of(:amount)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Flat]
    def self.read(reader, currency) = new(amount: reader.money("amount", currency))

    # @return [Array<Gauge>] what it looks at
    def gauges = []

    # @return [Array<Scale>] what its prices change along
    def scales = []

    # @param _load [Load]
    # @return [Priced]
    def price(_load, _place)
      Priced.new(code: :"schedule.flat", amount: amount.minor, numbers: {}, chosen: amount.zero?)
    end

    # @return [Hash] for JSON
    def dump = { "kind" => "flat", "amount" => amount.to_s }
  end

  # What a schedule makes of one load, before it is rounded. amount: minor units; numbers: what went in; chosen: whether
  # it is nothing because somebody typed an amount of 0.
  class Priced < Value.of(:code, :amount, :numbers, :chosen)
  end
end
