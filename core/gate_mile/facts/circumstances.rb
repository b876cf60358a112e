# frozen_string_literal: true

module GateMile
  # The facts of a cart in one zone: what single conditions are tested against.
  class Circumstances
    # @return [Facts]
    attr_reader :facts
    # @return [Zone]
    attr_reader :zone

    # @param facts [Facts]
    # @param zone [Zone]
    # @param delivery [Address] where in the zone, as far as it is known
    # @param ordinary [Lot, nil] the ordinary lines of the method that is looked at; nil for all that ship
    def initialize(facts, zone, delivery, ordinary: nil)
      @facts = facts
      @zone = zone
      @delivery = delivery
      @ordinary = ordinary
    end

    # @param which [String] "delivery" or "billing"
    # @return [Address]
    def address(which) = which == "billing" ? facts.cart.billing : @delivery

    # @param which [String]
    # @return [Place] the same, as it is compared
    def place(which)
      return @billing_place ||= Place.of(facts.cart.billing) if which == "billing"

      @place ||= Place.of(@delivery)
    end

    # @param measure [String] value, weight, quantity or longest
    # @param basis [Basis, nil] of a value, as far as the condition says
    # @return [Integer, Rational, nil] in base units
    def measure(measure, basis)
      return facts.total(measure, nil) unless measure == "value"

      whole = facts.store.basis_for(basis)
      return facts.total("value", whole) unless whole.lines == "ordinary"

      (@ordinary || facts.basket.shipping).value(whole)
    end

    # @param lot [Lot] the ordinary lines of a method
    # @return [Circumstances] the same, at that method
    def at_method(lot) = dup.tap { |own| own.ordinary = lot }

    protected

    attr_writer :ordinary
  end
end
