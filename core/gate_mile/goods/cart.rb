# frozen_string_literal: true

module GateMile
  # What a shopper has in the basket and where it is to go.
  class Cart < Value.of(:lines, :destination)
    LINES = 500

    # @param hash [Hash] a cart document (docs/formats/cart.schema.json)
    # @param currency [Currency] the shop's
    # @return [Cart]
    # @raise [Invalid] with every problem of the document
    def self.parse(hash, currency)
      reader = Reader.new(hash)
      cart = new(lines: reader.list("lines", most: LINES) { |item| CartLine.read(item, currency) }.freeze,
                 destination: reader.object("destination", required: false)&.then { |item| Address.read(item) } ||
                              Address::UNKNOWN)
      reader.finish
      raise Invalid, reader.problems if reader.problems.any?

      cart
    end

    # @return [Hash] for JSON; {.parse} reads it back
    def dump = { "lines" => lines.map(&:dump), "destination" => destination.dump }
  end

  # What a list of lines comes to.
  #
  # value: {Money}; weight: {Weight} in the store's unit, or nil where one of them has none; quantity: units;
  # unweighed: SKUs of the lines without a weight.
  class Measures < Value.of(:lines, :value, :weight, :quantity, :unweighed)
    # @param lines [Array<Line>]
    # @param currency [Currency]
    # @param unit [String] a unit of {Weight}
    # @return [Measures]
    def self.of(lines, currency, unit)
      unweighed = lines.reject(&:weight).map(&:sku)
      new(lines: lines.size, value: lines.filter_map(&:value).sum(Money.zero(currency)),
          weight: (lines.sum(Weight.of(0, unit), &:weight) if unweighed.empty?),
          quantity: lines.sum(&:quantity), unweighed: unweighed)
    end

    # @return [Hash] for JSON
    def dump = { "value" => value.to_s, "weight" => weight&.to_s, "quantity" => quantity, "unweighed" => unweighed }
  end

  # The lines of one cart, told apart.
  #
  # lines: all; shipping: those that need shipping; staying: those that do not; measures: of the shipping ones.
  class Basket < Value.of(:lines, :shipping, :staying, :measures)
    # @param lines [Array<Line>]
    # @param currency [Currency]
    # @param unit [String] a unit of {Weight}
    # @return [Basket]
    def self.of(lines, currency, unit)
      shipping, staying = lines.partition(&:ships)
      new(lines: lines, shipping: shipping, staying: staying, measures: Measures.of(shipping, currency, unit))
    end
  end
end
