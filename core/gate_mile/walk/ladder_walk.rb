# frozen_string_literal: true

module GateMile
  # What a live rate makes of an answer, and of each kind of trouble.
  class LadderWalk
    # @param live [LiveRate]
    # @return [String, nil] the first trouble in which the rate's own plan counts, one of {MadeUp::KINDS}
    def self.plan_after(live)
      live.ladder.find { |_, step| step.kind == :plan }&.first&.to_s if live.own == "fallback"
    end

    # @param rates [Array<Rate>] live ones
    # @param base [Trial] an ordinary cart of their zone
    def initialize(rates, base)
      @rates = rates
      @base = base
    end

    # @yieldparam trial [Trial]
    # @yieldparam reason [Hash]
    # @yieldparam carriers [String] what carriers are supposed to say
    # @return [void]
    def each
      @rates.product(MadeUp::KINDS).each do |rate, kind|
        setting = { kind: "rate", id: rate.id, field: "live" }
        yield @base, { code: :carriers, carriers: kind, setting: setting }, kind
      end
    end
  end
end
