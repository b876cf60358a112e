# frozen_string_literal: true

module GateMile
  # Free or reduced shipping under conditions.
  #
  # name: the merchant's own; label: what the method is called where the offer acts and the price is what it makes of
  # it, or nil; label_more: what it is called where more than that is left to pay, or nil for its own name; threshold:
  # {Threshold} or nil; zones, method_ids, coupons: ids, nil for all (of coupons: none is asked for); groups:
  # {GroupChoice} or nil; promotions: "with" or "without" another one in the cart, nil where that does not matter;
  # period: {Period}; first: how many orders it is for, or nil; blocking, paying: {GoodsChoice} or nil, goods that keep
  # the cart out of it and goods that pay their own way; paying_count: whether these count towards the threshold;
  # effect: {Effect}; own_prices: whether it also falls on own prices and fees; hides_paid: whether methods that cost
  # something are hidden where it made one free; combines: with other offers; milepost: {Milepost} or nil.
  class Offer < Value.of(:id, :name, :active, :label, :label_more, :threshold, :zones, :method_ids, :groups, :coupons,
                         :promotions,
                         :period, :first, :blocking, :paying, :paying_count, :effect, :own_prices, :hides_paid,
                         :combines, :milepost)
    PROMOTIONS = %w[with without].freeze
    ORDERS = (1..1_000_000)

    def initialize(id: nil, **)
      @setting = { kind: "offer", id: id, field: "effect" }.freeze
      super
    end

    # @return [Hash] where a reckoning leads to
    attr_reader :setting

    LISTS = { "zone" => :zones, "method" => :method_ids, "coupon" => :coupons }.freeze
    private_constant :LISTS

    # Without something that goes. One that was limited to that is off from then on.
    # @param kind [String] "zone", "method", "class", "group" or "coupon"
    # @param id [String]
    # @return [Offer]
    def without(kind, id)
      left = narrowed(kind, id)
      with(**left, milepost: milepost&.without(id), active: active && !for_all?(left))
    end

    # @param minor [Integer] that is left to pay
    # @return [String, nil] what the method is called at that price, nil for its own name
    def label_at(minor) = effect.leaves?(minor) ? label : label_more

    # @param id [String] of a method
    # @return [Boolean]
    def names?(id) = method_ids.nil? || method_ids.include?(id)

    # @param id [String]
    # @return [Boolean]
    def in_zone?(id) = zones.nil? || zones.include?(id)

    private

    # The fields that may name it, as they are without it.
    def narrowed(kind, id)
      case kind
      when "class" then { blocking: blocking&.without_class(id), paying: paying&.without_class(id) }
      when "group" then { groups: groups&.without(id) }
      else
        ids = self[LISTS.fetch(kind)]
        ids &&= ids - [id]
        { LISTS.fetch(kind) => (ids unless ids && ids.empty?) }
      end
    end

    # Whether it was limited to what is gone, and would hold for all from then on.
    def for_all?(left)
      left.any? do |field, value|
        value.nil? && (field == :groups ? groups&.only : LISTS.value?(field) && self[field])
      end
    end
  end
end
