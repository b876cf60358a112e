# frozen_string_literal: true

module GateMile
  # Goods picked by what they are: any of these classes, tags or SKUs, or what bears the hazard mark. A product's SKU
  # stands for its variants too.
  class GoodsChoice < Value.of(:classes, :tags, :skus, :hazardous)
    MOST = 500

    # @param reader [Reader]
    # @return [GoodsChoice]
    def self.read(reader)
      lists = %w[classes tags skus].to_h { |key| [key.to_sym, reader.texts(key, most: MOST)] }
      choice = new(**lists, hazardous: reader.flag("hazardous", default: false))
      reader.problem(nil, :no_goods) if reader.problems.empty? && choice.empty?
      reader.finish
      choice
    end

    def initialize(tags: nil, skus: nil, **)
      @folded = { tags: tags, skus: skus }.transform_values { |list| list.to_a.to_set { |text| Product.fold(text) } }
      super
    end

    # @return [Boolean]
    def empty? = classes.empty? && tags.empty? && skus.empty? && !hazardous

    # @param line [Line]
    # @return [Boolean]
    def include?(line)
      classes.include?(line.shipping_class) || (hazardous && line.hazardous == true) || sku?(line) || tag?(line)
    end

    # @return [Hash] for JSON
    def dump
      { "classes" => classes, "tags" => tags, "skus" => skus, "hazardous" => (true if hazardous) }
        .reject { |_, value| value.nil? || value == [] }
    end

    private

    def sku?(line)
      @folded[:skus].any? && [line.sku, line.kin].any? do |code|
        code.is_a?(String) && @folded[:skus].include?(Product.fold(code))
      end
    end

    def tag?(line) = @folded[:tags].any? && line.tags.any? { |tag| @folded[:tags].include?(Product.fold(tag)) }
  end
end
