# frozen_string_literal: true

module GateMile
  # Raised by the quantities when a text does not say an amount, a weight, a length or a percentage.
  class Malformed < StandardError
    # @return [Symbol] what is wrong, e.g. :not_a_number, :too_many_decimals
    attr_reader :code
    # @return [Hash] the numbers that belong to it
    attr_reader :numbers

    def initialize(code, **numbers)
      @code = code
      @numbers = numbers
      super(code.to_s)
    end
  end
end
