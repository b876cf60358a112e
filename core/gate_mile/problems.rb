# frozen_string_literal: true

module GateMile
  # One thing that is wrong with what was given: where (a JSON Pointer, RFC 6901), what (a code) and the numbers
  # that belong to it. Sentences are made outside the core.
  Problem = Value.of(:pointer, :code, :numbers)

  # Raised where a book or a cart can't be read; it carries every problem that was found, not only the first.
  class Invalid < StandardError
    # @return [Array<Problem>] at least one
    attr_reader :problems

    def initialize(problems)
      @problems = problems
      super(problems.map { |problem| "#{problem.pointer.empty? ? "/" : problem.pointer}: #{problem.code}" }.join(", "))
    end
  end

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
