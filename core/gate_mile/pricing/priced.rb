# frozen_string_literal: true

module GateMile
  # What a schedule makes of one load. The schedule tells on demand how it came about.
  class Priced
    # @return [#figures] the schedule
    attr_reader :schedule
    # @return [Load]
    attr_reader :load
    # @return [Object, nil] where in the schedule it stands, as the schedule says that
    attr_reader :at
    # @return [Integer] minor units of one load, rounded once
    attr_reader :minor

    # @param schedule [Flat, FirstAdditional, Steps, Grid]
    # @param load [Load]
    # @param amount [Integer, Rational] minor units, exactly
    # @param at [Object, nil]
    def initialize(schedule, load, amount, at = nil)
      @schedule = schedule
      @load = load
      @minor = Decimal.round(amount)
      @exactly = amount
      @at = at
    end

    # @return [Integer] minor units of all loads like it
    def total = minor * load.times

    # @return [Boolean] whether it is nothing because somebody typed an amount of 0
    def chosen? = @exactly.zero? && schedule.chosen?(self)

    # @return [Hash] the numbers that went in
    def figures = schedule.figures(self)
  end
end
