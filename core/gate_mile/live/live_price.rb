# frozen_string_literal: true

module GateMile
  # What a live rate makes of some lines. minor: minor units, nil where there is no price; refusals: {Refusal}s, why
  # not; cost: {Money} that the carriers take, where an answer counts; days: [least, most] that the carrier promises, or
  # nil; age: seconds since the answer that counts, or nil.
  class LivePrice < Value.of(:minor, :refusals, :cost, :days, :age)
    # @param refusal [Refusal]
    # @return [LivePrice] none
    def self.refused(refusal) = new(refusals: [refusal])
  end
end
