# frozen_string_literal: true

module GateMile
  # One line of a cart as it was sent: what the line does not say itself comes from the catalogue. A line without a SKU
  # is goods that no catalogue knows; it has a name instead.
  #
  # unit_price: {Money}; discount: {Money} off the whole line; own: what it says itself of its goods, as {Own}, or nil.
  class CartLine < Value.of(:sku, :quantity, :unit_price, :discount, :own)
    QUANTITIES = (1..1_000_000)
    SKU = 60
    # A SKU that needs no trimming.
    NEAT = /\A[!-~](?:[ -~]*[!-~])?\z/

    # What a line says of its goods. shipping_class, tax_class: names, as codes are compared.
    class Own < Value.of(:name, :weight, :size, :shipping_class, :tags, :hazardous, :tax_class, :ships)
      NOTHING = new
    end

    # @param sku [String]
    # @param quantity [Integer]
    # @return [CartLine] one that says no more
    def self.short(sku, quantity) = allocate.short(sku, quantity)

    # Of a line that says no more all other fields are nil, and need not be set.
    def short(sku, quantity)
      @sku = sku
      @quantity = quantity
      freeze
    end

    # @return [String, nil]
    def name = own&.name
  end
end
