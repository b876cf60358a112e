# frozen_string_literal: true

module GateMile
  # Something the shop sells.
  #
  # price: {Money} per unit; cost: {Money} that one costs the merchant, or nil; weight: {Weight} or nil where it is not
  # known; size: {Sides} or nil; shipping_class: id or nil; treatments: ids; ships: false for what needs no shipping;
  # tags: texts; hazardous: the hazard mark; tax_class: id, nil for the store's first; variants: {Variant}s;
  # packing: one of PACKING: any way round, "this side up", or each unit a parcel in a carton of its own.
  class Product < Value.of(:sku, :name, :price, :cost, :weight, :size, :shipping_class, :treatments, :ships, :tags,
                           :hazardous, :tax_class, :variants, :packing)
    TAGS = 30
    PACKING = %w[any upright carton].freeze
    VARIANTS = 500

    # @param code [String] a SKU, coupon, group, tag or class as typed
    # @return [String] the form in which codes are compared: trimmed and case-folded
    def self.fold(code)
      return code.strip.downcase if code.ascii_only?

      code.strip.unicode_normalize(:nfc).downcase(:fold).unicode_normalize(:nfc)
    end
  end
end
