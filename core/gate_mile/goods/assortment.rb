# frozen_string_literal: true

module GateMile
  # What cart lines can be of: the articles of a catalogue with their class, tax and treatments. Each is looked at once,
  # when it is first in a cart.
  class Assortment
    NONE = [].freeze
    # What goods are of which nobody says anything.
    UNKNOWN = Product.new(ships: true, tags: NONE, hazardous: false, packing: Product::PACKING.first)
    private_constant :NONE, :UNKNOWN

    # @return [Store]
    attr_reader :store

    # @param catalogue [Catalogue]
    # @param treatments [Treatments]
    # @param store [Store]
    def initialize(catalogue, treatments, store)
      @catalogue = catalogue
      @treatments = treatments
      @store = store
      @known = {}.compare_by_identity
    end

    # @param sent [CartLine]
    # @param position [Integer] of the line
    # @return [Goods]
    def goods(sent, position)
      article = sent.sku && @catalogue[sent.sku]
      return made(sent, article, position) if article.nil? || sent.own || sent.unit_price || sent.sku != article.sku

      @known[article] ||= made(sent, article, position)
    end

    private

    def made(sent, article, position)
      own = sent.own || CartLine::Own::NOTHING
      known = article || UNKNOWN
      shipping_class, unknown = class_of(own, known)
      kin = article ? article.product.sku : (sent.sku && Product.fold(sent.sku)) || position
      tags = own.tags || known.tags
      hazardous = said(own.hazardous, known.hazardous)
      Goods.new(sku: sent.sku, name: own.name || known.name, unit_price: sent.unit_price || known.price,
                tax: tax(own, known), with_tax: @store.prices_include_tax, unit_weight: own.weight || known.weight,
                size: own.size || known.size, ships: said(own.ships, known.ships), shipping_class: shipping_class,
                tags: tags, hazardous: hazardous, treatments: @treatments.on(article, shipping_class), kin: kin,
                unknown: unknown, catalogued: known,
                kind: GoodsKind.of(sent.sku, kin, shipping_class, tags, hazardous))
    end

    def said(flag, otherwise) = flag.nil? ? otherwise : flag

    # @return [Array(String, Array<String>)] the class that counts, and what the line names and the book has not
    def class_of(own, known)
      unknown = []
      shipping_class = own.shipping_class ? named_class(own.shipping_class, unknown) : known.shipping_class
      unknown << "tax_class" if own.tax_class && @store.tax_class_named(own.tax_class).nil?
      [shipping_class, unknown]
    end

    def named_class(name, unknown)
      found = @treatments.class_named(name)
      unknown << "class" if found.nil?
      found&.id
    end

    def tax(own, known)
      found = own.tax_class ? @store.tax_class_named(own.tax_class) : @store.tax_class(known.tax_class)
      found ? found.rate : @store.usual_tax
    end
  end
end
