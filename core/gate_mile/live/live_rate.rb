# frozen_string_literal: true

module GateMile
  # How a rate asks carriers.
  #
  # services: [carrier id, service code], in the merchant's order; answer: which one counts, one of ANSWERS; own: what
  # the rate's own plan is for: "fallback" (where the ladder says so) or "instead" (it counts wherever it gives a
  # price); adjustment: {Adjustment} whose handling is the markup; ladder: {Fallback}s by trouble; promise: "carrier" or
  # "merchant", whose days are told.
  class LiveRate < Value.of(:services, :answer, :own, :adjustment, :ladder, :promise)
    ANSWERS = %w[cheapest fastest first].freeze
    OWN = %w[fallback instead].freeze
    PROMISES = %w[carrier merchant].freeze
    # In the order in which the ladder is read.
    TROUBLES = %w[silent refused unusable].freeze

    # What happens in trouble. kind: :none (not available), :amount or :plan.
    class Fallback < Value.of(:kind, :amount)
      KINDS = %w[none amount plan].freeze
      NONE = new(kind: :none)
    end

    # @param id [String] of a carrier that goes
    # @return [LiveRate, nil] nil where it asked no other
    def without_carrier(id)
      left = services.reject { |carrier, _| carrier == id }
      with(services: left) unless left.empty?
    end

    # Which answer counts: by price, then the sooner one, then the higher in the list; or by days first; or by the list.
    # @param answers [Array] in any order
    # @yieldparam one [Object] of them
    # @yieldreturn [Array] its {Money}, its days or nil, and its place in the list of services
    # @return [Object, nil]
    def first_of(answers)
      answers.min_by do |one|
        price, days, at = yield(one)
        latest = days&.last || Float::INFINITY
        case answer
        when "cheapest" then [price.minor, latest, at]
        when "fastest" then [latest, price.minor, at]
        else [at]
        end
      end
    end

    # @return [Boolean] whether it needs the rate's own plan
    def plan_in_ladder? = ladder.each_value.any? { |fallback| fallback.kind == :plan }
  end
end
