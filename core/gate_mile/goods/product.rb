# frozen_string_literal: true

module GateMile
  # One variant of a product, e.g. a size. What it does not set itself (nil) is its product's.
  #
  # price: {Money}; cost: {Money} that one unit costs the merchant; weight: {Weight}; size: {Sides}; shipping_class: id;
  # treatments: ids of those that sit on it.
  class Variant < Value.of(:sku, :name, :price, :cost, :weight, :size, :shipping_class, :treatments)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Variant]
    def self.read(reader, currency)
      new(**Product.read_own(reader, currency, price_required: false))
    end

    # @return [Hash] for JSON
    def dump = Product.dump_own(self).compact
  end

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

    class << self
      # @param reader [Reader]
      # @param currency [Currency]
      # @return [Product]
      def read(reader, currency)
        own = read_own(reader, currency, price_required: true)
        variants = reader.list("variants", required: false, most: VARIANTS) { |item| Variant.read(item, currency) }
        new(**own, variants: variants, tags: read_tags(reader), ships: reader.flag("ships", default: true),
                   hazardous: reader.flag("hazardous", default: false),
                   packing: reader.choice("packing", among: PACKING, default: PACKING.first),
                   tax_class: reader.text("tax_class", required: false))
      end

      # What products and variants both may say.
      # @param reader [Reader]
      # @param currency [Currency]
      # @param price_required [Boolean]
      # @return [Hash]
      def read_own(reader, currency, price_required:)
        { sku: reader.text("sku", most: 60), name: reader.text("name"),
          price: reader.money("price", currency, required: price_required),
          cost: reader.money("cost", currency, required: false),
          weight: reader.parsed("weight", required: false) { |text| Weight.parse(text) },
          size: reader.object("size", required: false)&.then { |item| Sides.read(item) },
          shipping_class: reader.text("class", required: false),
          treatments: reader.texts("treatments", most: 100) }
      end

      # @param reader [Reader]
      # @return [Array<String>] without the same tag twice
      def read_tags(reader) = reader.texts("tags", most: TAGS, longest: 40).uniq { |tag| fold(tag) }

      # @param item [Product, Variant]
      # @return [Hash] what both say, for JSON
      def dump_own(item)
        { "sku" => item.sku, "name" => item.name, "price" => item.price&.to_s, "cost" => item.cost&.to_s,
          "weight" => item.weight&.to_s,
          "size" => item.size&.dump, "class" => item.shipping_class,
          "treatments" => (item.treatments if item.treatments.any?) }
      end

      # @param code [String] a SKU, coupon, group, tag or class as typed
      # @return [String] the form in which codes are compared: trimmed and case-folded
      def fold(code) = code.strip.downcase(:fold)
    end

    # @return [Hash] for JSON
    def dump
      { **Product.dump_own(self), "ships" => ships, "tags" => (tags if tags.any?),
                                  "hazardous" => (true if hazardous), "tax_class" => tax_class,
                                  "packing" => (packing unless packing == PACKING.first),
                                  "variants" => (variants.map(&:dump) if variants.any?) }.compact
    end
  end
end
