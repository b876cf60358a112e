# frozen_string_literal: true

module GateMile
  # What one line of a cart is of: everything that is known about it but how many.
  #
  # unit_price: {Money}, or nil where neither line nor catalogue has a price; tax: {Percentage}; with_tax: whether
  # prices contain it; unit_weight: {Weight}, or nil where it is not known; size: {Sides}, or
  # nil; ships: whether it needs
  # shipping; shipping_class: id or nil; treatments: what reaches it, as {Placed}; kin: what its units count together
  # with; unknown: which of "class" and "tax_class" the line names and the book has not; catalogued: the {Article} that
  # they are, or a {Product} of which nothing is known; kind: {GoodsKind}.
  class Goods < Value.of(:sku, :name, :unit_price, :tax, :with_tax, :unit_weight, :size, :ships, :shipping_class, :tags,
                         :hazardous, :treatments, :kin, :unknown, :catalogued, :kind)
    # @param minor [Integer] what so much of it is worth in the shop's prices
    # @param wanted [Boolean] with tax
    # @return [Integer] the same with or without tax, rounded once
    def taxed(minor, wanted)
      return minor if wanted == with_tax || tax.zero?

      wanted ? tax.added_to(minor) : tax.taken_out_of(minor)
    end
  end
end
