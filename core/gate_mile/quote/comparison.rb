# frozen_string_literal: true

module GateMile
  # What the ordinary rates of a zone take for one product alone, whatever its treatments say: the figure that stands
  # beside an own price.
  module Comparison
    # @param book [Book]
    # @param sku [String] of something in the catalogue
    # @param zone [Zone]
    # @param quantities [Array<Integer>]
    # @return [Hash{Integer => Hash{String => Money, nil}}] by quantity, then by rate id; nil where there is no price
    def self.of(book, sku, zone, quantities)
      quantities.to_h do |quantity|
        sent = CartLine.new(sku: sku, quantity: quantity)
        lines = Lines.new(Cart.of(lines: [sent]), book).all
        basket = Basket.of_lines(lines.map { |line| line.with(treatments: [], ships: true) }, book.store)
        prices = book.rates_of(zone).to_h do |rate|
          [rate.id, Pipeline.run(book, basket, rate, nil, Destination::SOMEWHERE).price]
        end
        [quantity, prices]
      end
    end
  end
end
