# frozen_string_literal: true

module GateMile
  # One line of a cart as it was sent: what the line does not say itself comes from the catalogue. A line without a SKU
  # is goods that no catalogue knows; it has a name instead.
  #
  # discount: {Money} off the whole line; shipping_class, tax_class: names, as codes are compared.
  class CartLine < Value.of(:sku, :quantity, :name, :unit_price, :discount, :weight, :size, :shipping_class, :tags,
                            :hazardous, :tax_class, :ships)
    QUANTITIES = (1..1_000_000)

    class << self
      # @param reader [Reader]
      # @param currency [Currency]
      # @return [CartLine]
      def read(reader, currency)
        sku = reader.text("sku", most: 60, required: false)
        name = reader.text("name", required: false)
        reader.problem("sku", :sku_or_name) unless sku || name
        new(sku: sku, quantity: reader.whole("quantity", QUANTITIES), name: name,
            unit_price: reader.money("unit_price", currency, required: false),
            discount: reader.money("discount", currency, required: false), **goods(reader))
      end

      private

      def goods(reader)
        { weight: reader.parsed("weight", required: false) { |text| Weight.parse(text) },
          size: reader.object("size", required: false)&.then { |item| Sides.read(item) },
          shipping_class: reader.text("class", required: false, most: 60),
          tags: (Product.read_tags(reader) if reader.given?("tags", read: true)),
          hazardous: maybe(reader, "hazardous"), tax_class: reader.text("tax_class", required: false, most: 60),
          ships: maybe(reader, "ships") }
      end

      def maybe(reader, key) = reader.given?(key, read: true) ? reader.flag(key) : nil
    end

    # @return [Hash] for JSON
    def dump
      { "sku" => sku, "quantity" => quantity, "name" => name, "unit_price" => unit_price&.to_s,
        "discount" => discount&.to_s, "weight" => weight&.to_s, "size" => size&.dump, "class" => shipping_class,
        "tags" => tags, "hazardous" => hazardous, "tax_class" => tax_class, "ships" => ships }.compact
    end
  end
end
