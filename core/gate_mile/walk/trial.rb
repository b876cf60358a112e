# frozen_string_literal: true

module GateMile
  # A cart of a walk while it is put together. Each change makes another one.
  #
  # goods: {SomeGoods}; destination, billing: {Address} or nil; group: name or nil; coupons: codes; promotions: names;
  # uses: by id of an offer; at: a moment on the store's clock, nil for whenever; currency: {Currency}.
  class Trial < Value.of(:goods, :destination, :billing, :group, :coupons, :promotions, :uses, :at, :currency)
    # @return [Cart]
    def cart
      Cart.of(lines: goods.map { |one| one.line(currency) }, destination: destination || Address::UNKNOWN,
              billing: billing || Address::UNKNOWN, group: group, coupons: coupons || [], promotions: promotions || [],
              offer_uses: uses || {})
    end

    # @return [Hash] document of the cart
    def document = cart.dump

    # @param fields [Hash] of the first goods
    # @return [Trial]
    def first(**fields) = with(goods: [goods.first.with(**fields), *goods.drop(1)])

    # @param more [Array<SomeGoods>]
    # @return [Trial]
    def beside(*more) = with(goods: goods + more)

    # @return [Array] equal for trials that are the same cart at the same moment
    def key = [document, at]
  end
end
