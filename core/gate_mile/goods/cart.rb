# frozen_string_literal: true

module GateMile
  # What a shopper has in the basket and where it is to go. order_discount: {Money} off the whole order, or nil.
  class Cart < Value.of(:lines, :destination, :order_discount)
    LINES = 500

    # @param hash [Hash] a cart document (docs/formats/cart.schema.json)
    # @param currency [Currency] the shop's
    # @return [Cart]
    # @raise [Invalid] with every problem of the document
    def self.parse(hash, currency)
      reader = Reader.new(hash)
      cart = new(lines: reader.list("lines", most: LINES) { |item| CartLine.read(item, currency) }.freeze,
                 destination: reader.object("destination", required: false)&.then { |item| Address.read(item) } ||
                              Address::UNKNOWN,
                 order_discount: reader.money("order_discount", currency, required: false))
      reader.finish
      raise Invalid, reader.problems if reader.problems.any?

      cart
    end

    # @return [Hash] for JSON; {.parse} reads it back
    def dump
      { "lines" => lines.map(&:dump), "destination" => destination.dump,
        "order_discount" => order_discount&.to_s }.compact
    end
  end
end
