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
      # @param reader [Reader] of the plan
      # @param currency [Currency]
      # @return [Adjustment]
      def read(reader, currency)
        limits = %w[minimum maximum].map { |key| reader.money(key, currency, required: false) }
        reader.problem("minimum", :above_maximum, maximum: limits[1].to_s) if limits.all? && limits[0] > limits[1]
        new(**handling(reader.object("handling", required: false), currency), minimum: limits[0], maximum: limits[1],
                                                                              ending: ending(reader, currency))
      end

      private

      def handling(reader, currency)
        return { per: "order" } if reader.nil?

        read = { fixed: reader.money("fixed", currency, required: false, signed: true),
                 percent: reader.parsed("percent", required: false) { |text| percent(text) },
                 per: reader.choice("per", among: PER, default: "order") }
        reader.finish
        read
      end

      def percent(text)
        Percentage.parse(text).tap { |found| raise Malformed, :out_of_hundred unless found.value.between?(-100, 100) }
      end

      def ending(reader, currency)
        found = reader.money("ending", currency, required: false) or return
        found.minor < round(currency) ? found : reader.problem("ending", :ending_large)
      end

      # @return [Integer] minor units of the round amounts that an ending stands behind
      def round(currency) = 10**[currency.exponent, 2].max
      public :round
    end

    # @param amount [Money] what stands
    # @param count [Integer] orders, units or parcels that handling is for
    # @param chosen [Boolean] whether an amount of nothing is one that was typed, rather than what became of a
    #   percentage
    # @yieldparam code [Symbol] of a step that did something
    # @yieldparam amount [Money] what stands after it
    # @yieldparam numbers [Hash]
    # @return [Money]
    def apply(amount, count, chosen: false, &tell)
      chosen &&= amount.zero?
      amount = handled(amount, count, &tell)
      # A zero that somebody chose is left alone; one that handling made is no more than a low price.
      return capped(amount, &tell) if chosen && amount.zero?

      ended(capped(raised(amount, &tell), &tell), &tell)
    end

    # @return [Boolean]
    def handling? = !(fixed.nil? && percent.nil?)

    # @return [Hash] for JSON, parts of a plan
    def dump
      handling = { "fixed" => fixed&.to_s, "percent" => percent&.to_s, "per" => per }.compact
      { "handling" => (handling if handling?), "minimum" => minimum&.to_s, "maximum" => maximum&.to_s,
        "ending" => ending&.to_s }
    end

    private

    def handled(amount, count)
      return amount unless handling?

      share = percent ? Rational(percent.value, 100) * amount.minor : 0
      added = Decimal.round((fixed ? fixed.minor * count : 0) + share)
      after = Money.new([amount.minor + added, 0].max, amount.currency)
      yield :"adjust.handling", after, { fixed: fixed, count: count, per: per, percent: percent&.to_s, of: amount,
                                         added: Money.new(added, amount.currency) }
      after
    end

    def raised(amount)
      return amount if minimum.nil? || amount >= minimum

      yield :"adjust.minimum", minimum, { from: amount }
      minimum
    end

    def capped(amount)
      return amount if maximum.nil? || amount <= maximum

      yield :"adjust.maximum", maximum, { from: amount }
      maximum
    end

    def ended(amount)
      return amount if ending.nil?

      after = up(amount)
      after = down(amount) if maximum && after > maximum
      return amount if after.nil? || after == amount

      yield :"adjust.ending", after, { from: amount, ending: ending }
      after
    end

    def round = Adjustment.round(ending.currency)

    def up(amount) = amount.with_minor(amount.minor + ((ending.minor - amount.minor) % round))

    # Never down to nothing, nor below the minimum.
    def down(amount)
      lower = amount.minor - ((amount.minor - ending.minor) % round)
      amount.with_minor(lower) if lower.positive? && (minimum.nil? || lower >= minimum.minor)
    end
  end
end
