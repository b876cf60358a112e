# frozen_string_literal: true

module GateMile
  # One line of a cart as it was sent: what the line does not say itself comes from the catalogue.
  class CartLine < Value.of(:sku, :quantity, :name, :unit_price, :weight, :ships)
    QUANTITIES = (1..1_000_000)

    # @param reader [Reader]
    # @param currency [Currency]
    # @return [CartLine]
    def self.read(reader, currency)
      new(sku: reader.text("sku", most: 60), quantity: reader.whole("quantity", QUANTITIES),
          name: reader.text("name", required: false),
          unit_price: reader.money("unit_price", currency, required: false),
          weight: reader.parsed("weight", required: false) { |text| Weight.parse(text) },
          ships: reader.given?("ships") ? reader.flag("ships") : nil.tap { reader.flag("ships", default: true) })
    end

    # @return [Hash] for JSON
    def dump
      { "sku" => sku, "quantity" => quantity, "name" => name, "unit_price" => unit_price&.to_s,
        "weight" => weight&.to_s, "ships" => ships }.compact
    end
  end

  # A cart line with everything known about it.
  #
  # unit_price, value: {Money}, or nil where neither line nor catalogue has a price; weight: {Weight} of all its
  # units, or nil where it is not known; ships: whether it needs shipping; known: false where the catalogue has no
  # such product and the line brings no price of its own.
  class Line < Value.of(:sku, :name, :quantity, :unit_price, :value, :weight, :ships, :known)
    # @param sent [CartLine]
    # @param product [Product, nil] from the catalogue
    # @return [Line]
    def self.of(sent, product)
      unit_price = sent.unit_price || product&.price
      weight = sent.weight || product&.weight
      new(sku: sent.sku, name: sent.name || product&.name, quantity: sent.quantity, unit_price: unit_price,
          value: unit_price && (unit_price * sent.quantity), weight: weight && (weight * sent.quantity),
          ships: sent.ships.nil? ? product.nil? || product.ships : sent.ships, known: !unit_price.nil?)
    end

    # @return [Hash] for JSON
    def dump
      { "sku" => sku, "name" => name, "quantity" => quantity, "unit_price" => unit_price&.to_s,
        "value" => value&.to_s, "weight" => weight&.to_s, "ships" => ships, "known" => known }
    end
  end
end
