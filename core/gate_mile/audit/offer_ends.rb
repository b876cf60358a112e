# frozen_string_literal: true

module GateMile
  # Free shipping that ends again: by the end of its own stretch, or because a plan that it stands on ends above its
  # threshold.
  class OfferEnds
    # @param offer [Offer]
    # @param offers [Array<Offer>] all that are on
    # @param rates [Array<Rate>] that it acts on, with plans
    def initialize(offer, offers, rates)
      @offer = offer
      @offers = offers
      @rates = rates
    end

    # @return [Array<Finding>]
    def list
      below = @offer.threshold&.below
      return runs_out if below.nil?
      return [] if @offer.effect.kind != :free || taken_over?

      [finding(zone: @rates.first.zone, measure: @offer.threshold.measure,
               below: below.text)]
    end

    private

    def finding(zone:, **numbers)
      Finding.new(code: :offer_closes, harm: :warning, zone: zone, numbers: { offer: @offer.name, **numbers },
                  setting: { kind: "offer", id: @offer.id })
    end

    # Free from so much on, by a plan that ends above that.
    def runs_out
      return [] unless @offer.effect.kind == :free && @offer.threshold

      @rates.filter_map { |rate| ends_above(rate) }.first(1)
    end

    def ends_above(rate)
      wanted = @offer.threshold
      schedule = rate.plan.schedule
      return unless schedule.is_a?(Steps) && schedule.scale.gauge.name == wanted.measure && schedule.steps.last.closed?

      edge = schedule.scale.boundaries.last
      return if edge.base < wanted.from.base

      finding(zone: rate.zone, measure: wanted.measure, below: edge.text)
    end

    def taken_over?
      @offers.any? do |other|
        !other.equal?(@offer) && other.effect.kind == :free && [nil, @offer.zones].include?(other.zones) &&
          other.threshold && goes_on?(@offer.threshold, other.threshold)
      end
    end

    # Whether a stretch begins before another ends, and goes beyond its end.
    def goes_on?(before, after)
      after.measure == before.measure && after.from.base <= before.below.base &&
        (after.below.nil? || after.below.base > before.below.base)
    end
  end
end
