# frozen_string_literal: true

module GateMile
  # All products of a book, by SKU. An edit of one product makes a catalogue that shares everything else with this one.
  class Catalogue
    include Enumerable

    EMPTY = {}.freeze
    private_constant :EMPTY

    # @param products [Enumerable<Product>] in the merchant's order; no SKU twice
    # @param shared [Hash{Symbol => Hash}] what it has from another one
    def initialize(products = [], shared: EMPTY)
      @products = shared.fetch(:products, EMPTY).dup
      @articles = shared.fetch(:articles, EMPTY).dup
      # Most carts write a SKU as the merchant does: these are found without folding it.
      @spelled = shared.fetch(:spelled, EMPTY).dup
      products.each { |product| put(product) }
      [@products, @articles, @spelled].each(&:freeze)
      @once = {}
      freeze
    end

    # @param sku [String] as typed
    # @return [Article, nil]
    def [](sku) = @spelled[sku] || @articles[Product.fold(sku)]

    # @yieldparam product [Product]
    def each(&) = @products.each_value(&)

    # @return [Enumerator<Article>] every product and every variant
    def articles = @articles.each_value

    # @return [Integer] products, without their variants
    def size = @products.size

    # What follows from the goods alone, worked out once whatever else of a setup is edited.
    # @param name [Symbol]
    # @yieldreturn [Object] that nobody changes
    # @return [Object]
    def once(name) = @once[name] ||= yield

    # @param removed [Array<String>] SKUs of products that go, or that come again in another form
    # @param products [Array<Product>] that come
    # @return [Catalogue] this one is left as it is
    def exchange(removed, products)
      keys = removed.map { |sku| Product.fold(sku) }
      gone = keys.filter_map { |key| @products[key] }.flat_map { |product| [product, *product.variants].map(&:sku) }
      folded = gone.map { |sku| Product.fold(sku) }
      Catalogue.new(products, shared: { products: without(@products, keys), articles: without(@articles, folded),
                                        spelled: without(@spelled, gone) })
    end

    private

    def without(hash, keys) = keys.empty? ? hash : hash.except(*keys)

    def put(product)
      @products[Product.fold(product.sku)] = product
      index(product.sku, Article.new(product))
      product.variants.each { |variant| index(variant.sku, Article.new(product, variant)) }
    end

    def index(sku, article)
      @articles[Product.fold(sku)] = article
      @spelled[sku] = article
    end
  end
end
