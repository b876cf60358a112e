# frozen_string_literal: true

module GateMile
  # A schedule of one amount, whatever is in the cart.
  class Flat < Value.of(:amount)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Flat]
    def self.read(reader, currency) = new(amount: reader.money("amount", currency))

    # @return [nil] a flat amount needs no carrier's answer
    def request(_basket) = nil

    # @return [Money]
    def price(_lines) = amount

    # @return [Boolean] a flat amount is the same for every weight
    def needs_weight? = false

    # @return [Symbol] how the reckoning calls it
    def code = :"schedule.flat"

    # @return [Hash] for JSON
    def dump = { "kind" => "flat", "amount" => amount.to_s }
  end
end
