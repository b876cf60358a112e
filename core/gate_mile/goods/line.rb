# frozen_string_literal: true

module GateMile
  # A cart line with everything known about it.
  #
  # unit_price: {Money}, or nil where neither line nor catalogue has a price; worth: {LineValue}, value: {Money} by
  # the store's basis, both nil then too; weight: {Weight} of all its units, or nil where it is not known; size:
  # {Sides} of one unit, or nil; ships: whether it needs shipping; known: false where the catalogue has no such
  # product and the line brings no price of its own; shipping_class: id or nil; treatments: what reaches it, as
  # {Placed}; goods: what tells its goods apart from others, its folded SKU or its place in the cart, never its name;
  # kin: what its units count together with; unknown: which of "class" and "tax_class" the line names and
  # the book has not; packing: as of a {Product}.
  class Line < Value.of(:sku, :name, :quantity, :unit_price, :worth, :value, :weight, :size, :ships, :known,
                        :shipping_class, :tags, :hazardous, :treatments, :goods, :kin, :unknown, :packing)
    # @return [String] what to call it
    def label = name || sku

    # @return [String] its SKU, or its name where it has none
    def code = sku || name

    # @return [Array] by which goods stand in an order that does not depend on the order of the lines
    def order = goods.is_a?(String) ? [goods, "", 0] : ["", label, goods]

    # @return [Length, nil] the longest side of one unit
    def longest = size&.longest

    # @param units [Integer]
    # @param store [Store]
    # @return [Line] so many of the same
    def with_units(units, store)
      factor = Rational(units, quantity)
      own = worth && LineValue.new(before: worth.before * factor, after: worth.after * factor, rate: worth.rate,
                                   with_tax: worth.with_tax)
      with(quantity: units, worth: own, value: own&.in(store.basis), weight: weight&.*(factor))
    end

    # @return [Hash] for JSON
    def dump
      { "sku" => sku, "name" => name, "quantity" => quantity, "unit_price" => unit_price&.to_s,
        "value" => value&.to_s, "weight" => weight&.to_s, "longest" => longest&.to_s, "ships" => ships,
        "known" => known, "class" => shipping_class, "unknown" => unknown }
    end
  end
end
