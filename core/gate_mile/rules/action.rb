# frozen_string_literal: true

module GateMile
  # What a rule does to methods.
  #
  # kind: one of KINDS; method_ids: ids, nil for all; amount: {Money} of price, add, off, floor and cap; percent:
  # {Percentage} that add and off may have in its place; text: of rename and message.
  class Action < Value.of(:kind, :method_ids, :amount, :percent, :text)
    KINDS = %w[hide only rename price add off floor cap message].freeze
    AMOUNTS = %i[price add off floor cap].freeze
    TEXTS = %i[rename message].freeze

    # @param id [String] of a method
    # @return [Boolean] whether it does anything to it; "only" does so to all others
    def touches?(id) = kind == :only ? !method_ids.include?(id) : method_ids.nil? || method_ids.include?(id)

    # @return [Boolean] whether it takes methods away
    def hides? = %i[hide only].include?(kind)

    # @return [Boolean] whether it changes what a method costs, or takes it away
    def prices? = hides? || AMOUNTS.include?(kind)

    # @param minor [Integer] a price
    # @return [Integer] what becomes of it, never less than nothing
    def on(minor)
      case kind
      when :price then amount.minor
      when :add then minor + by(minor)
      when :off then [minor - by(minor), 0].max
      when :floor then [minor, amount.minor].max
      when :cap then [minor, amount.minor].min
      else minor
      end
    end

    # @param id [String] of a method that goes
    # @return [Action, nil] nil where it named no other
    def without_method(id)
      return self unless method_ids&.include?(id)

      left = method_ids - [id]
      with(method_ids: left) unless left.empty?
    end

    private

    def by(minor) = percent ? percent.of_minor(minor) : amount.minor
  end
end
