# frozen_string_literal: true

module GateMile
  # What a plan does to the combined price, in this order: handling, minimum, maximum, ending.
  #
  # fixed: {Money} of either sign, or nil; percent: {Percentage} of what stands, of either sign, or nil; per:
  # "order", "unit" or "parcel", what the fixed part is for; minimum, maximum: {Money} or nil; ending: {Money} less
  # than a hundred minor units (or a thousand, where the currency has three decimals), what a price should end in,
  # or nil.
  class Adjustment < Value.of(:fixed, :percent, :per, :minimum, :maximum, :ending)
    PER = %w[order unit parcel].freeze
    NONE = new(per: "order")

    class << self
      private

      # @return [Integer] minor units of the round amounts that an ending stands behind
      def round(currency) = 10**[currency.exponent, 2].max
      public :round
    end

    # @param minor [Integer] what stands, in minor units
    # @param count [Integer] orders, units or parcels that handling is for
    # @param currency [Currency]
    # @param chosen [Boolean] whether an amount of nothing is one that was typed, rather than what became of a
    #   percentage
    # @param listener [#call, nil] hears of each step that did something: its code, the {Money} after it, numbers
    # @return [Integer] minor units
    def apply(minor, count, currency, chosen: false, listener: nil)
      chosen &&= minor.zero?
      tell = listener && ->(code, after, numbers) { listener.call(code, Money.new(after, currency), numbers) }
      minor = handled(minor, count, currency, tell)
      # A zero that somebody chose is left alone; one that handling made is no more than a low price.
      return capped(minor, tell) if chosen && minor.zero?

      ended(capped(raised(minor, tell), tell), tell)
    end

    # @return [Boolean]
    def handling? = !(fixed.nil? && percent.nil?)

    private

    def handled(minor, count, currency, tell)
      return minor unless handling?

      added = Decimal.round((fixed ? fixed.minor * count : 0) + (percent ? percent.exactly(minor) : 0))
      after = [minor + added, 0].max
      tell&.call(:"adjust.handling", after,
                 { fixed: fixed, count: count, per: per, percent: percent&.to_s, of: Money.new(minor, currency),
                   added: Money.new(added, currency) })
      after
    end

    def raised(minor, tell)
      return minor if minimum.nil? || minor >= minimum.minor

      tell&.call(:"adjust.minimum", minimum.minor, { from: minimum.with_minor(minor) })
      minimum.minor
    end

    def capped(minor, tell)
      return minor if maximum.nil? || minor <= maximum.minor

      tell&.call(:"adjust.maximum", maximum.minor, { from: maximum.with_minor(minor) })
      maximum.minor
    end

    def ended(minor, tell)
      return minor if ending.nil?

      after = up(minor)
      after = down(minor) if maximum && after > maximum.minor
      return minor if after.nil? || after == minor

      tell&.call(:"adjust.ending", after, { from: ending.with_minor(minor), ending: ending })
      after
    end

    def round = Adjustment.round(ending.currency)

    def up(minor) = minor + ((ending.minor - minor) % round)

    # Never down to nothing, nor below the minimum.
    def down(minor)
      lower = minor - ((minor - ending.minor) % round)
      lower if lower.positive? && (minimum.nil? || lower >= minimum.minor)
    end
  end
end
