# frozen_string_literal: true

module GateMile
  # Weights that are possible and hardly meant: twenty-five tonnes for a shackle are grams typed as kilograms.
  module Doubt
    # What one unit hardly weighs more than, in a parcel or on a pallet.
    HARDLY = Weight.of(1000, "kg")
    SMALLER = { "kg" => "g", "lb" => "oz" }.freeze
    private_constant :SMALLER

    # @param weight [Weight, nil] of one unit
    # @return [Weight, nil] the weight itself where it is to be doubted
    def self.of(weight) = (weight if weight && weight > HARDLY)

    # @param weight [Weight] in doubt
    # @return [Weight, nil] what was probably meant: the same number of the smaller unit
    def self.meant(weight)
      smaller = SMALLER[weight.unit] and Weight.of(weight.in(weight.unit), smaller)
    end
  end
end
