# frozen_string_literal: true

module GateMile
  # No price, and why. What belongs to the reason is put together when somebody asks for it.
  class Refusal
    # @return [Symbol]
    attr_reader :code

    # @param code [Symbol]
    # @yieldreturn [Hash] the numbers that belong to it; none without a block
    def initialize(code, &numbers)
      @code = code
      @work = numbers
    end

    # @return [Hash]
    def numbers = @numbers ||= @work ? @work.call : {}

    def ==(other) = other.is_a?(Refusal) && code == other.code && numbers == other.numbers
    alias eql? ==
    def hash = code.hash
  end
end
