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

    def initialize(classes: nil, tags: nil, skus: nil, **)
      folded = [tags, skus].map { |list| list.to_a.to_set { |text| Product.fold(text) } }
      @wanted = { classes: classes.to_a.to_set, tags: folded.first, skus: folded.last }
      @asked = @wanted.transform_values(&:to_a).reject { |_, values| values.empty? }.to_a
      super
    end

    # @return [Boolean]
    def empty? = classes.empty? && tags.empty? && skus.empty? && !hazardous

    # @param line [Line, GoodsKind]
    # @return [Boolean]
    def include?(line)
      kind = line.is_a?(GoodsKind) ? line : GoodsKind.of(line)
      @wanted[:classes].include?(kind.shipping_class) || (hazardous && kind.hazardous) ||
        kind.skus.any? { |sku| @wanted[:skus].include?(sku) } || kind.tags.any? { |tag| @wanted[:tags].include?(tag) }
    end

    # @param goods [GoodsSets]
    # @return [Boolean] whether one of the lines is included
    def in?(goods)
      return true if hazardous && goods.hazardous

      @asked.any? { |list, values| goods[list].intersect?(values) }
    end

    # @return [Hash] for JSON
    def dump
      { "classes" => classes, "tags" => tags, "skus" => skus, "hazardous" => (true if hazardous) }
        .reject { |_, value| value.nil? || value == [] }
    end
  end

  # What all lines of a cart are together.
  GoodsSets = Struct.new(:classes, :skus, :tags, :hazardous) do
    # @param kinds [Array<GoodsKind>]
    # @return [GoodsSets]
    def self.of(kinds)
      new(kinds.to_set(&:shipping_class), kinds.flat_map(&:skus).to_set, kinds.flat_map(&:tags).to_set,
          kinds.any?(&:hazardous))
    end
  end

  # What a line is to a {GoodsChoice}: most lines of a cart are alike.
  #
  # skus: its own and its product's; tags: both folded.
  GoodsKind = Struct.new(:shipping_class, :hazardous, :skus, :tags) do
    # @param line [Line]
    # @return [GoodsKind]
    def self.of(line)
      codes = [line.sku, line.kin].grep(String).map { |code| Product.fold(code) }.uniq
      new(line.shipping_class, line.hazardous == true, codes, line.tags.map { |tag| Product.fold(tag) })
    end
  end
end
