# frozen_string_literal: true

module GateMile
  # Goods picked by what they are: any of these classes, tags or SKUs, or what bears the hazard mark. A product's SKU
  # stands for its variants too.
  class GoodsChoice < Value.of(:classes, :tags, :skus, :hazardous)
    MOST = 500

    def initialize(classes: nil, tags: nil, skus: nil, **)
      folded = [tags, skus].map { |list| list.to_a.to_set { |text| Product.fold(text) } }
      @wanted = { classes: classes.to_a.to_set, tags: folded.first, skus: folded.last }
      @asked = @wanted.transform_values(&:to_a).reject { |_, values| values.empty? }.to_a
      super
    end

    # @return [Boolean]
    def empty? = classes.empty? && tags.empty? && skus.empty? && !hazardous

    # @param id [String] of a class that goes
    # @return [GoodsChoice, nil] nil where it picked nothing else
    def without_class(id)
      return self unless classes.include?(id)

      left = with(classes: classes - [id])
      left unless left.empty?
    end

    # @param kind [GoodsKind]
    # @return [Boolean]
    def include?(kind)
      @wanted[:classes].include?(kind.shipping_class) || (hazardous && kind.hazardous) ||
        kind.skus.any? { |sku| @wanted[:skus].include?(sku) } || kind.tags.any? { |tag| @wanted[:tags].include?(tag) }
    end

    # @param goods [GoodsSets]
    # @return [Boolean] whether one of the lines is included
    def in?(goods)
      return true if hazardous && goods.hazardous?

      @asked.any? { |list, values| goods.any?(list, values) }
    end
  end
end
