# frozen_string_literal: true

module GateMile
  # Listens to a program while it prices, and keeps what it hears as steps.
  class Reckoning
    # @return [Array<ReckoningStep>]
    attr_reader :steps

    def initialize
      @steps = []
    end

    # @param step [Symbol] of {Program}
    # @param code [Symbol] what happened
    # @param amount [Money, nil] what came out
    # @param setting [Hash, nil] what caused it
    # @param numbers [Hash] what went in
    # @return [void]
    def note(step, code, amount: nil, setting: nil, **numbers)
      @steps << ReckoningStep.new(step: step, code: code, numbers: numbers, amount: amount, setting: setting)
    end
  end
end
