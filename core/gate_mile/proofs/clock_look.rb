# frozen_string_literal: true

module GateMile
  # What the settings of a book make of the clock: moments that look alike to all of them lead to the same prices.
  class ClockLook
    FACTS = %w[weekday time date].freeze
    private_constant :FACTS

    # @param book [Book]
    def initialize(book)
      @clock = book.store.clock
      @periods = [*book.offers, *book.policies.coupons].select(&:active).map(&:period).reject(&:always?)
      @deliveries = book.methods_in_order.select(&:active).filter_map(&:delivery).select(&:limited?)
      @leaves = book.rules.select(&:active).flat_map do |rule|
        rule.tree.leaves.select do |leaf|
          FACTS.include?(leaf.fact)
        end
      end
    end

    # @return [Boolean] whether any setting looks at the clock
    def timed? = @periods.any? || @deliveries.any? || @leaves.any?

    # @param at [Time]
    # @return [Array] equal for moments that look alike
    def at(at)
      now = @clock.read(at)
      [@periods.map { |period| period.outside(at) }, @deliveries.map { |delivery| delivery.shut(now.minute) },
       @leaves.map { |leaf| holds?(leaf, now) }]
    end

    private

    def holds?(leaf, now)
      return leaf.of.include?(now.weekday) if leaf.fact == "weekday"

      leaf.inside?(leaf.fact == "date" ? now.date.iso8601 : now.time)
    end
  end
end
