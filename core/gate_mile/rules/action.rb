# frozen_string_literal: true

module GateMile
  # What a rule does to methods.
  #
  # kind: one of KINDS; methods: ids, nil for all; amount: {Money} of price, add, off, floor and cap; percent:
  # {Percentage} that add and off may have in its place; text: of rename and message.
  class Action < Value.of(:kind, :methods, :amount, :percent, :text)
    KINDS = %w[hide only rename price add off floor cap message].freeze
    AMOUNTS = %i[price add off floor cap].freeze
    TEXTS = %i[rename message].freeze

    class << self
      # @param reader [Reader]
      # @param currency [Currency, nil]
      # @return [Action]
      def read(reader, currency)
        kind = reader.choice("kind", among: KINDS)&.to_sym
        methods = methods(reader, kind)
        text = reader.text("text", most: kind == :message ? 300 : Reader::NAME_LENGTH) if TEXTS.include?(kind)
        amount, percent = change(reader, kind, currency) if AMOUNTS.include?(kind)
        new(kind: kind, methods: methods, amount: amount, percent: percent, text: text)
      end

      private

      def methods(reader, kind)
        return (reader.problem("methods", :missing) if kind == :only) unless reader.given?("methods", read: true)

        reader.texts("methods", most: 500).tap { |ids| reader.problem("methods", :limit_empty) if ids.empty? }
      end

      def change(reader, kind, currency)
        relative = %i[add off].include?(kind)
        percent = relative && reader.given?("percent") ? reader.parsed("percent") { |text| percent(text, kind) } : nil
        amount = reader.money("amount", currency, required: !(relative && reader.given?("percent", read: true)))
        reader.problem("percent", :amount_or_percent) if amount && percent
        [amount, percent]
      end

      def percent(text, kind)
        Percentage.parse(text).tap do |found|
          raise Malformed, :zero unless found.value.positive?
          raise Malformed, :out_of_percent if kind == :off && found.value > 100
          raise Malformed.new(:out_of_range, least: 0, most: 1000) if found.value > 1000
        end
      end
    end

    # @param id [String] of a method
    # @return [Boolean] whether it does anything to it; "only" does so to all others
    def touches?(id) = kind == :only ? !methods.include?(id) : methods.nil? || methods.include?(id)

    # @return [Boolean] whether it takes methods away
    def hides? = %i[hide only].include?(kind)

    # @return [Boolean] whether it changes what a method costs, or takes it away
    def prices? = hides? || AMOUNTS.include?(kind)

    # @param price [Money]
    # @return [Money] what becomes of it, never less than nothing
    def on(price)
      case kind
      when :price then amount
      when :add then price + by(price)
      when :off then price - [by(price), price].min
      when :floor then [price, amount].max
      when :cap then [price, amount].min
      else price
      end
    end

    # @return [Hash] for JSON
    def dump
      { "kind" => kind.to_s, "methods" => methods, "amount" => amount&.to_s, "percent" => percent&.to_s,
        "text" => text }.compact
    end

    private

    def by(price) = percent ? percent.of(price) : amount
  end
end
