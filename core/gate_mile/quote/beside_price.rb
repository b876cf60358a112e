# frozen_string_literal: true

module GateMile
  # What a method's quote says beside its price: when it arrives, what is due at the border, what it costs the merchant.
  class BesidePrice
    # @param run [Run] that went through all steps
    def initialize(run)
      @run = run
    end

    # When it arrives, as the carrier or the merchant says, counted from the moment of the checkout.
    # @return [Hash] :days and :arrives, or nothing where that is not known
    def arrival
      days = promised
      return {} if days.nil? || @run.out? || @run.terms.nil?

      calendar = Calendar.new(@run.book.store.holidays)
      leaves = calendar.leaves(@run.method.delivery || Delivery.new(collection_days: Delivery::WEEKDAYS),
                               @run.terms.facts.local)
      { days: days, arrives: days.map { |count| calendar.after(leaves, count) } }
    end

    # What is due at the border of the zone, on the goods that ship.
    # @return [Array(Money, Boolean), nil] the amount, and whether the merchant bears it
    def duty
      rule = @run.terms&.zone&.duty
      return if rule.nil? || @run.out?

      goods = Money.new(@run.terms.facts.total("value", Duty::GOODS), @run.book.currency)
      [rule.on(goods, @run.price), rule.included]
    end

    # @return [Money, nil] what the ordinary lines cost the merchant, where that is said and can be worked out
    def cost
      return if @run.out? || @run.ordinary_lines.empty?
      return @run.live.cost if @run.live&.cost
      return if @run.rate.cost.nil?

      @run.rate.cost.price(@run.ordinary_lines, @run.basket, @run.place).amount
    end

    private

    def promised
      return @run.live.days if @run.live&.days && @run.rate.live.promise == "carrier"

      delivery = @run.method.delivery
      [delivery.least, delivery.most] if delivery&.least
    end
  end
end
