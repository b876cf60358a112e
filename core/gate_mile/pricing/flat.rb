# frozen_string_literal: true

module GateMile
  # A schedule of one amount, whatever is in the load.
  class Flat < Value.of(:amount)
    # @return [Array<Gauge>] what it looks at
    def gauges = []

    # @return [Array<Scale>] what its prices change along
    def scales = []

    # @param load [Load]
    # @return [Priced]
    def price(load, _destination) = Priced.new(self, load, amount.minor)

    # @param pointer [String] where it stands
    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [Flat]
    def map_amounts(pointer) = with(amount: yield(amount, "#{pointer}/amount"))

    # @return [Symbol] what a reckoning says of it
    def code = :"schedule.flat"

    # @return [Boolean] whether a price of nothing was typed
    def chosen?(_priced) = true

    # @return [Hash]
    def figures(_priced) = {}
  end
end
