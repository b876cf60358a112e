# frozen_string_literal: true

module GateMile
  # A line of a cart with everything known about it: so many of some {Goods}, and what they are worth.
  class Line
    # @return [Goods]
    attr_reader :goods
    # @return [Integer]
    attr_reader :quantity
    # @return [Integer] its position in the cart
    attr_reader :position

    # @param goods [Goods]
    # @param quantity [Integer]
    # @param position [Integer]
    def initialize(goods, quantity, position)
      @goods = goods
      @quantity = quantity
      @position = position
    end

    def sku = goods.sku
    def name = goods.name
    def unit_price = goods.unit_price
    def unit_weight = goods.unit_weight
    def size = goods.size
    def ships = goods.ships
    def shipping_class = goods.shipping_class
    def tags = goods.tags
    def hazardous = goods.hazardous
    def treatments = goods.treatments
    def kin = goods.kin
    def kind = goods.kind
    def packing = goods.catalogued.packing

    # @return [Boolean] false where the catalogue has no such product and the line brings no price of its own
    def known = !unit_price.nil?

    # @return [Integer, nil] minor units in the shop's prices before any discount; nil where there is no price
    def before = goods.unit_price && (goods.unit_price.minor * quantity)

    # @return [Integer, nil] the same after the line's own discount and its share of the order's
    def after = before

    # @param basis [Basis] a whole one
    # @return [Integer] minor units; a line without a price is worth nothing
    def minor(basis)
      if known
        goods.taxed(basis.after? ? after : before, basis.with_tax?)
      else
        0
      end
    end

    # @param basis [Basis] the store's
    # @return [Money, nil]
    def value(basis) = known ? unit_price.with_minor(minor(basis)) : nil

    # @return [Weight, nil] of all its units
    def weight = unit_weight && (unit_weight * quantity)

    # @return [Length, nil] the longest side of one unit
    def longest = size&.longest

    # @return [String] what to call it
    def label = name || sku

    # @return [String] its SKU, or its name where it has none
    def code = sku || name

    # @return [String, Integer] what tells its goods apart from others: its folded SKU or its position, never its name
    def identity = sku ? Product.fold(sku) : position

    # @return [Array] by which goods stand in an order that does not depend on the order of the lines
    def order = sku ? [Product.fold(sku), "", 0] : ["", label, position]

    # @param fields [Hash] of {Goods}
    # @return [Line] as many of goods that differ in these
    def of(**fields) = dup.tap { |line| line.goods = goods.with(**fields) }

    # @param units [Integer]
    # @return [Line] so many of the same
    def with_units(units)
      return Line.new(goods, units, position) if after.equal?(before)

      factor = Rational(units, quantity)
      DiscountedLine.new(goods, units, position, *[before, after].map { |minor| Decimal.round(minor * factor) })
    end

    protected

    attr_writer :goods
  end
end
