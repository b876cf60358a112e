# frozen_string_literal: true

module GateMile
  # What one SKU stands for: a product, or a variant with everything that it has from its product.
  class Article
    # @return [Product]
    attr_reader :product
    # @return [Variant, nil] nil for the product itself
    attr_reader :variant

    # @param product [Product]
    # @param variant [Variant, nil]
    def initialize(product, variant = nil)
      @product = product
      @variant = variant
      freeze
    end

    def sku = (variant || product).sku
    def name = (variant || product).name

    # Fields that a variant may set itself.
    %i[price cost weight size shipping_class].each do |field|
      define_method(field) { (variant && variant[field]) || product[field] }
    end

    %i[ships tags hazardous tax_class packing].each { |field| define_method(field) { product[field] } }
  end
end
