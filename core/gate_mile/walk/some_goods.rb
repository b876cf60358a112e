# frozen_string_literal: true

module GateMile
  # Goods of a walk's cart: so many of one kind, that no catalogue knows or that has a SKU in it.
  #
  # name; sku: or nil; quantity; worth: minor units of a unit, nil where the catalogue says; discount: minor units off
  # the line, or nil; weight: base units of a unit; sides: three, in base units; shipping_class: name, or nil; tags;
  # hazardous; ships: false for what needs no shipping.
  class SomeGoods < Value.of(:name, :sku, :quantity, :worth, :discount, :weight, :sides, :shipping_class, :tags,
                             :hazardous, :ships)
    # @param sku [String]
    # @param quantity [Integer]
    # @return [SomeGoods] of the catalogue, as it is
    def self.of(sku, quantity) = new(sku: sku, quantity: quantity)

    # @param currency [Currency]
    # @return [CartLine]
    def line(currency)
      CartLine.new(sku: sku, quantity: quantity, unit_price: worth && Money.new(worth, currency),
                   discount: discount && Money.new(discount, currency), own: own)
    end

    private

    def own
      given = CartLine::Own.new(name: (name unless sku), weight: weight && measure(Weight, weight, "kg", "g"),
                                size: sides && Sides.new(**Sides::NAMES.map(&:to_sym).zip(lengths).to_h),
                                shipping_class: shipping_class, tags: tags, hazardous: hazardous, ships: ships)
      given unless given == CartLine::Own::NOTHING
    end

    def lengths = sides.map { |side| measure(Length, side, "cm", "mm") }

    # In the larger unit where that is a short decimal, else in the smaller one.
    def measure(kind, base, larger, smaller)
      base = Decimal.simplify(base)
      even = (Rational(base * 1000) / kind::UNITS.fetch(larger)).denominator == 1
      kind.new(base, even ? larger : smaller)
    end
  end
end
