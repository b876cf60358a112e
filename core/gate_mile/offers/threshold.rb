# frozen_string_literal: true

module GateMile
  # How much a cart must come to: at least so much of one measure and, where that is said, less than so much.
  #
  # measure: one of MEASURES; from, below: {Boundary}, the second may be nil; basis: {Basis} of its own or nil: its
  # lines say whose value, weight or units count.
  class Threshold < Value.of(:measure, :from, :below, :basis)
    MEASURES = %w[value weight quantity].freeze

    # @param number [Integer, Rational] what the cart comes to, in the base units of the measure
    # @return [Symbol] :below it, :reached or :over the stretch
    def stand(number)
      return :below if number < from.base

      below && number >= below.base ? :over : :reached
    end

    # @param number [Integer, Rational]
    # @param store [Store]
    # @return [Money, Weight, Integer] so much of the measure
    def amount(number, store) = GaugeKind::ALL.fetch(measure).amount(number, store)

    # @return [Money, Weight, Integer] the least that reaches it
    def least(store) = amount(from.base, store)

    # So much of the measure as shoppers see it: a value that counts with or without tax, in the prices of the shop.
    # Goods of different tax come to different amounts; the largest of them is enough whatever they add.
    # @param amount [Money, Weight, Integer, nil]
    # @param store [Store]
    # @return [Money, Weight, Integer, nil]
    def in_prices(amount, store)
      return amount unless amount.is_a?(Money)

      with_tax = store.basis_for(basis).with_tax?
      return amount if with_tax == store.prices_include_tax

      rates = store.tax_classes.map(&:rate)
      rates = [store.usual_tax] if rates.empty?
      amount.with_minor(rates.map do |rate|
        with_tax ? rate.least_before(amount.minor) : rate.least_with(amount.minor)
      end.max)
    end
  end
end
