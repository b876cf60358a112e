# frozen_string_literal: true

module GateMile
  # What one SKU stands for: a product, or a variant with everything that it has from its product.
  class Article
    # Fields that a variant may set itself, and those that are always its product's.
    OWN = (Variant.fields - %i[sku name treatments]).freeze
    SHARED = (Product.fields - Variant.fields - %i[variants]).freeze

    # @return [Product]
    attr_reader :product
    # @return [Variant, nil] nil for the product itself
    attr_reader :variant

    attr_reader :sku, :name, *OWN, *SHARED

    # @param product [Product]
    # @param variant [Variant, nil]
    def initialize(product, variant = nil)
      own = variant || product
      @product = product
      @variant = variant
      @sku = own.sku
      @name = own.name
      fill(own, product)
      freeze
    end

    # Written out: a catalogue has twenty thousand of them.
    class_eval <<~RUBY, __FILE__, __LINE__ + 1
      def fill(own, product)
        #{OWN.map { |field| "@#{field} = own.#{field} || product.#{field}" }.join("; ")}
        #{SHARED.map { |field| "@#{field} = product.#{field}" }.join("; ")}
      end
    RUBY
    private :fill
  end
end
