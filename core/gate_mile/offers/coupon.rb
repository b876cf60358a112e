# frozen_string_literal: true

module GateMile
  # A code that a shopper types. note: the merchant's own; period: {Period} in which it is taken.
  class Coupon < Value.of(:id, :code, :note, :active, :period)
  end
end
