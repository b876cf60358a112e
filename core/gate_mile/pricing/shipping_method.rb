# frozen_string_literal: true

module GateMile
  # What the shopper chooses. Its code is stable and travels with the order to the back office; the private name is
  # the merchant's own, the promise is what the shopper reads about the delivery time.
  class ShippingMethod < Value.of(:id, :code, :name, :private_name, :promise, :active)
    # @param reader [Reader]
    # @return [ShippingMethod]
    def self.read(reader)
      new(id: reader.text("id"), code: reader.text("code", most: 40), name: reader.text("name"),
          private_name: reader.text("private_name", required: false),
          promise: reader.text("promise", required: false), active: reader.flag("active", default: true))
    end

    # @return [Hash] for JSON
    def dump
      { "id" => id, "code" => code, "name" => name, "private_name" => private_name, "promise" => promise,
        "active" => active }.compact
    end
  end
end
