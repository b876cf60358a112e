# frozen_string_literal: true

module GateMile
  # All products of a book, by SKU. An edit of one product makes a catalogue that shares everything else with this one.
  class Catalogue
    include Enumerable

    EMPTY = {}.freeze
    private_constant :EMPTY

    # @param products [Enumerable<Product>] in the merchant's order; no SKU twice
    def initialize(products = [], by_sku: EMPTY, articles: EMPTY)
      @products = by_sku.dup
      @articles = articles.dup
      products.each { |product| put(product) }
      @products.freeze
      @articles.freeze
      freeze
    end

    # @param sku [String] as typed
    # @return [Article, nil]
    def [](sku) = @articles[Product.fold(sku)]

    # @yieldparam product [Product]
    def each(&) = @products.each_value(&)

    # @return [Enumerator<Article>] every product and every variant
    def articles = @articles.each_value

    # @return [Integer] products, without their variants
    def size = @products.size

    # @param removed [Array<String>] SKUs of products that go, or that come again in another form
    # @param products [Array<Product>] that come
    # @return [Catalogue] this one is left as it is
    def exchange(removed, products)
      keys = removed.map { |sku| Product.fold(sku) }
      gone = keys.filter_map { |key| @products[key] }.flat_map { |product| skus(product) }
      Catalogue.new(products, by_sku: keys.any? ? @products.except(*keys) : @products,
                              articles: gone.any? ? @articles.except(*gone) : @articles)
    end

    private

    def put(product)
      @products[Product.fold(product.sku)] = product
      @articles[Product.fold(product.sku)] = Article.new(product)
      product.variants.each { |variant| @articles[Product.fold(variant.sku)] = Article.new(product, variant) }
    end

    def skus(product) = [product, *product.variants].map { |item| Product.fold(item.sku) }
  end
end
