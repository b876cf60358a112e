# frozen_string_literal: true

module GateMile
  # Where a load goes, as a plan sees it: the address of the cart, or some place in a zone that the cart does not go to.
  class Destination
    # @param address [Address, nil] nil: somewhere in the zone
    def initialize(address)
      @address = address
    end

    SOMEWHERE = new(nil).freeze

    # @return [Address]
    def address = @address || Address::UNKNOWN

    # @return [Boolean]
    def known? = !@address.nil?

    # @param zones [Zones] sets of areas in the form of zones
    # @yieldparam landing [Landing] where it lies in one of them
    # @return [Object, Refusal] what the block makes of it
    def within(zones)
      return Refusal.new(:address_decides) unless known?

      landing = zones.land(@address)
      return yield(landing) if landing.status == :zone
      return Refusal.new(:outside_areas) if landing.status == :none

      Refusal.new(:address_open) { { field: landing.decides } }
    end
  end
end
