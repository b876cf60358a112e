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
        bare = Lines.of(Cart.of(lines: [sent]), book.assortment).map { |line| line.of(treatments: [], ships: true) }
        visit = Visit.new(basket: Basket.new(bare, book.store), destination: Destination::SOMEWHERE)
        [quantity, book.programs_of(zone).to_h { |program| [program.rate.id, program.quote(visit).price] }]
      end
    end
  end
end
