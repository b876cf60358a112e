# frozen_string_literal: true

module GateMile
  # A schedule of one amount for the first unit and another for each additional one.
  class FirstAdditional < Value.of(:first, :additional)
    # @return [Array<Gauge>]
    def gauges = []

    # @return [Array<Scale>] what its prices change along
    def scales = []

    # @param load [Load]
    # @return [Priced]
    def price(load, _destination)
      Priced.new(self, load, first.minor + (additional.minor * (load.quantity - 1)))
    end

    # @param pointer [String] where it stands
    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [FirstAdditional]
    def map_amounts(pointer)
      with(first: yield(first, "#{pointer}/first"), additional: yield(additional, "#{pointer}/additional"))
    end

    # @return [Symbol]
    def code = :"schedule.first"

    # @return [Boolean] whether a price of nothing was typed: both amounts are, as far as they count
    def chosen?(_priced) = true

    # @param priced [Priced]
    # @return [Hash]
    def figures(priced) = { first: first, additional: additional, more: priced.load.quantity - 1 }
  end
end
