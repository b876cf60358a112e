# frozen_string_literal: true

module GateMile
  # What an offer does to a price: free, a fixed price, an amount off or a percentage off; and how much it takes at
  # most.
  #
  # amount: {Money} of fixed and off; percent: {Percentage} of percent; most: {Money} or nil.
  class Effect < Value.of(:kind, :amount, :percent, :most)
    KINDS = %w[free fixed off percent].freeze

    # @param reader [Reader]
    # @param currency [Currency, nil]
    # @return [Effect]
    def self.read(reader, currency)
      kind = reader.choice("kind", among: KINDS)
      effect = new(kind: kind&.to_sym,
                   amount: (reader.money("amount", currency) if %w[fixed off].include?(kind)),
                   percent: (percent(reader) if kind == "percent"),
                   most: reader.money("most", currency, required: false))
      %w[amount most].each { |key| reader.problem(key, :zero) if effect[key]&.zero? }
      reader.finish
      effect
    end

    def self.percent(reader)
      reader.parsed("percent") do |text|
        Percentage.parse(text).tap do |found|
          raise Malformed, :zero unless found.value.positive?
          raise Malformed, :out_of_percent if found.value > 100
        end
      end
    end
    private_class_method :percent

    # @param base [Money] what it falls on
    # @return [Money] how much of it goes: never more than all of it
    def takes(base)
      wished = case kind
               when :free then base
               when :fixed then base - [amount, base].min
               when :off then [amount, base].min
               else percent.of(base)
               end
      most ? [wished, most].min : wished
    end

    # @param price [Money] that is left to pay
    # @return [Boolean] whether it is what the effect makes of a price: nothing, or the fixed amount; what is taken off
    #   leaves any price
    def leaves?(price)
      case kind
      when :free then price.zero?
      when :fixed then price == amount
      else true
      end
    end

    # @return [Hash] for JSON
    def dump
      { "kind" => kind.to_s, "amount" => amount&.to_s, "percent" => percent&.to_s, "most" => most&.to_s }.compact
    end
  end
end
