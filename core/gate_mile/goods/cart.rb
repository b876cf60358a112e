# frozen_string_literal: true

module GateMile
  # What a shopper has in the basket and where it is to go.
  #
  # order_discount: {Money} off the whole order, or nil; billing: {Address}; group: name of the customer group, nil for
  # none; coupons: codes; promotions: names of other promotions in the cart; offer_uses: how many orders have used an
  # offer, by its id.
  class Cart < Value.of(:lines, :destination, :order_discount, :billing, :group, :coupons, :promotions, :offer_uses)
    LINES = 500
    CODES = 20

    # @param hash [Hash] a cart document (docs/formats/cart.schema.json)
    # @param currency [Currency] the shop's
    # @return [Cart]
    # @raise [Invalid] with every problem of the document
    def self.parse(hash, currency)
      reader = Reader.open(hash)
      cart = new(lines: reader.list("lines", most: LINES) { |item| CartLine.read(item, currency) }.freeze,
                 destination: address(reader, "destination"), billing: address(reader, "billing"),
                 order_discount: reader.money("order_discount", currency, required: false),
                 group: reader.text("group", required: false, most: 60),
                 coupons: reader.texts("coupons", most: CODES, longest: 60),
                 promotions: reader.texts("promotions", most: CODES),
                 offer_uses: uses(reader))
      reader.finish
      raise Invalid, reader.problems if reader.problems.any?

      cart
    end

    def self.address(reader, key)
      reader.object(key, required: false)&.then { |item| Address.read(item) } || Address::UNKNOWN
    end

    def self.uses(reader)
      given = reader.object("offer_uses", required: false) or return {}
      given.names.to_h { |id| [id, given.whole(id, 0..1_000_000_000).to_i] }
    end
    private_class_method :address, :uses

    # What the core itself asks with, where nobody sent one.
    # @param parts [Hash]
    # @return [Cart]
    def self.of(**parts)
      new(destination: Address::UNKNOWN, billing: Address::UNKNOWN, coupons: [], promotions: [], offer_uses: {},
          **parts)
    end

    # @return [Hash] for JSON; {.parse} reads it back
    def dump
      { "lines" => lines.map(&:dump), "destination" => destination.dump, "order_discount" => order_discount&.to_s,
        "billing" => billing.dump, "group" => group, "coupons" => coupons, "promotions" => promotions,
        "offer_uses" => offer_uses }.reject { |key, value| value.nil? || (key != "lines" && value.empty?) }
    end
  end
end
