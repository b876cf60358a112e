# frozen_string_literal: true

module GateMile
  # Raised where a book or a cart can't be read; it carries every problem that was found, not only the first.
  class Invalid < StandardError
    # @return [Array<Problem>] at least one
    attr_reader :problems

    def initialize(problems)
      @problems = problems
      super(problems.map { |problem| "#{problem.pointer.empty? ? "/" : problem.pointer}: #{problem.code}" }.join(", "))
    end
  end
end
