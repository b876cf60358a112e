# frozen_string_literal: true

module GateMile
  # One variant of a product, e.g. a size. What it does not set itself (nil) is its product's.
  #
  # price: {Money}; cost: {Money} that one unit costs the merchant; weight: {Weight}; size: {Sides}; shipping_class: id;
  # treatments: ids of those that sit on it.
  class Variant < Value.of(:sku, :name, :price, :cost, :weight, :size, :shipping_class, :treatments)
  end
end
