# frozen_string_literal: true

module GateMile
  # Something the shop sells.
  #
  # price: {Money} per unit; weight: {Weight} or nil where it is not known; size: three {Length}s or nil;
  # ships: false for what needs no shipping.
  class Product < Value.of(:sku, :name, :price, :weight, :size, :ships)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Product]
    def self.read(reader, currency)
      new(sku: reader.text("sku", most: 60), name: reader.text("name"), price: reader.money("price", currency),
          weight: reader.parsed("weight", required: false) { |text| Weight.parse(text) },
          size: reader.object("size", required: false)&.then { |item| read_size(item) },
          ships: reader.flag("ships", default: true))
    end

    def self.read_size(reader)
      %w[length width height].map { |side| reader.parsed(side) { |text| Length.parse(text) } }.tap { reader.finish }
    end
    private_class_method :read_size

    # @param code [String] a SKU, coupon, group, tag or class as typed
    # @return [String] the form in which codes are compared: trimmed and case-folded
    def self.fold(code) = code.strip.downcase(:fold)

    # @return [Hash] for JSON
    def dump
      { "sku" => sku, "name" => name, "price" => price.to_s, "weight" => weight&.to_s,
        "size" => size && %w[length width height].zip(size.map(&:to_s)).to_h, "ships" => ships }.compact
    end
  end
end
