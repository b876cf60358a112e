# frozen_string_literal: true

module Server
  # A product or variant of a book document as a row of the catalogue. The document has been read by the core: nothing
  # is checked again.
  class GoodsColumns
    # @param currency [GateMile::Currency]
    def initialize(currency)
      @currency = currency
    end

    # @param item [Hash] a product or variant
    # @param place [Hash] id, parent_id, family and position
    # @return [Hash] the row as the database holds it
    def row(item, place)
      { **place, **item.slice("sku", "name", "weight"), "weight_ng" => weight(item["weight"]),
                                                        "weight" => item["weight"],
                                                        "price_minor" => minor(item["price"]),
                                                        "cost_minor" => minor(item["cost"]),
                                                        **GateMile::Sides::NAMES.to_h do |side|
                                                          [side, item.dig("size", side)]
                                                        end, "shipping_class_id" => item["class"],
                                                        "ships" => item.fetch("ships", true) ? 1 : 0,
                                                        "hazardous" => item["hazardous"] ? 1 : 0,
                                                        "tags" => JSON.generate(item.fetch("tags", [])),
                                                        "tax_class_id" => item["tax_class"],
                                                        "packing" => item.fetch("packing",
                                                                                GateMile::Product::PACKING.first) }
    end

    private

    def minor(text) = text && GateMile::Money.parse(text, @currency).minor

    # Whole nanograms, rounded down, by which goods are sorted.
    def weight(text) = text && GateMile::Weight.parse(text).base.floor
  end
end
