# frozen_string_literal: true

module GateMile
  # Carts that come to the least and to the most that a plan takes, where it has such bounds.
  class BoundsWalk
    # Doublings on the way to a maximum.
    DOUBLINGS = 24
    private_constant :DOUBLINGS

    # @param book [Book]
    # @param rate [Rate] with a plan
    # @param base [Trial] an ordinary cart of its zone
    # @param amounts [Amounts]
    def initialize(book, rate, base, amounts)
      @book = book
      @rate = rate
      @base = base
      @amounts = amounts
    end

    # @yieldparam trial [Trial]
    # @yieldparam reason [Hash]
    # @return [void]
    def each
      yield least, { code: :least } if plan.adjustment.minimum
      return unless plan.adjustment.maximum

      measures.each { |measure| reached(measure)&.then { |trial| yield trial, { code: :most, measure: measure } } }
    end

    private

    def plan = @rate.plan
    def schedules = plan.schedules.compact
    def least = @base.first(worth: 1, weight: Gauge.new("weight", @book.currency).hair)
    def measures = ["quantity", *schedules.flat_map(&:gauges).map(&:name), ("value" if shares?)].compact.uniq
    def shares? = schedules.grep(Steps).any? { |steps| steps.steps.any?(&:relative?) }

    # The first of ever larger carts that comes to the maximum.
    def reached(measure)
      hair = Gauge.new(measure, @book.currency).hair
      (0..DOUBLINGS).each do |power|
        found = @amounts.put(@base, measure, hair * (2**power), plan.basis) or next
        price = @book.program(@rate).plan.price(*lot(found)).minor or next
        return found if price >= plan.adjustment.maximum.minor
      end
      nil
    end

    def lot(trial)
      basket = @book.basket(trial.cart)
      [basket.shipping, basket, Destination.new(trial.destination)]
    end
  end
end
