# frozen_string_literal: true

module GateMile
  # What a shopper has in the basket and where it is to go.
  #
  # lines: {CartLine}s; destination, billing: {Address}; order_discount: {Money} off the whole order, or nil; group:
  # name of the customer group, nil for none; coupons: codes; promotions: names of other promotions in the cart;
  # offer_uses: how many orders have used an offer, by its id.
  class Cart < Value.of(:lines, :destination, :order_discount, :billing, :group, :coupons, :promotions, :offer_uses)
    LINES = 500
    CODES = 20

    # @param hash [Hash] a cart document (docs/formats/cart.schema.json)
    # @param currency [Currency] the shop's
    # @return [Cart]
    # @raise [Invalid] with every problem of the document
    def self.parse(hash, currency) = CartForms.parse(hash, currency)

    # What the core itself asks with, where nobody sent one.
    # @param parts [Hash]
    # @return [Cart]
    def self.of(**parts)
      new(destination: Address::UNKNOWN, billing: Address::UNKNOWN, coupons: [], promotions: [], offer_uses: {},
          **parts)
    end

    # @return [Hash] for JSON; {.parse} reads it back
    def dump = CartForms::CART.write(self)
  end
end
