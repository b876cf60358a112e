# frozen_string_literal: true

module GateMile
  # What the shopper chooses. Its code is stable and travels with the order to the back office; the private name is
  # the merchant's own, the promise is what the shopper reads about the delivery time. kind: "delivery" or
  # "collection"; address: lines of the place where goods are collected; hours: when, in the
  # merchant's words; delivery: {Delivery} or nil.
  class ShippingMethod < Value.of(:id, :code, :name, :private_name, :promise, :active, :kind, :address, :hours,
                                  :delivery)
    KINDS = %w[delivery collection].freeze

    # @param reader [Reader]
    # @return [ShippingMethod]
    def self.read(reader)
      new(id: reader.text("id"), code: reader.text("code", most: 40), name: reader.text("name"),
          private_name: reader.text("private_name", required: false),
          promise: reader.text("promise", required: false), active: reader.flag("active", default: true),
          kind: reader.choice("kind", among: KINDS, default: KINDS.first),
          address: reader.text("address", required: false, most: 300),
          hours: reader.text("hours", required: false),
          delivery: reader.object("delivery", required: false)&.then { |item| Delivery.read(item) })
    end

    # @return [Hash] for JSON
    def dump
      { "id" => id, "code" => code, "name" => name, "private_name" => private_name, "promise" => promise,
        "active" => active, "kind" => (kind unless kind == KINDS.first), "address" => address, "hours" => hours,
        "delivery" => delivery&.dump }.compact
    end
  end
end
