# frozen_string_literal: true

module GateMile
  # What a plan makes of some lines. minor: minor units, nil where there is no price; refusals: {Refusal}s, all of them.
  class PlanPrice
    NONE = [].freeze
    private_constant :NONE

    attr_reader :minor, :refusals

    # @param minor [Integer, nil]
    # @param refusals [Array<Refusal>]
    def initialize(minor, refusals = NONE)
      @minor = minor
      @refusals = refusals
    end

    # @param refusals [Array<Refusal>]
    # @return [PlanPrice] none
    def self.refused(refusals) = new(nil, refusals.size > 1 ? refusals.uniq : refusals)
  end
end
