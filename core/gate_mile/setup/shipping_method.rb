# frozen_string_literal: true

module GateMile
  # What the shopper chooses. Its code is stable and travels with the order to the back office; the private name is
  # the merchant's own, the promise is what the shopper reads about the delivery time. kind: "delivery" or
  # "collection"; address: lines of the place where goods are collected; hours: when, in the
  # merchant's words; delivery: {Delivery} or nil.
  class ShippingMethod < Value.of(:id, :code, :name, :private_name, :promise, :active, :kind, :address, :hours,
                                  :delivery)
    KINDS = %w[delivery collection].freeze
  end
end
