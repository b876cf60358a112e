# frozen_string_literal: true

module GateMile
  # What goods are to a {GoodsChoice}: most lines of a cart are alike.
  #
  # skus: their own and their product's; tags: both folded.
  class GoodsKind < Value.of(:shipping_class, :hazardous, :skus, :tags)
    # @param sku [String, nil]
    # @param kin [Object] the product's SKU, or something that is none
    # @param shipping_class [String, nil] id
    # @param tags [Array<String>]
    # @param hazardous [Boolean, nil]
    # @return [GoodsKind]
    def self.of(sku, kin, shipping_class, tags, hazardous)
      codes = [sku, kin].grep(String).map { |code| Product.fold(code) }.uniq
      new(shipping_class: shipping_class, hazardous: hazardous == true, skus: codes,
          tags: tags.map { |tag| Product.fold(tag) })
    end
  end
end
