# frozen_string_literal: true

module GateMile
  # One offer beside another: whether it makes the same methods cheaper wherever the other holds, so that the other
  # never counts.
  class OfferRival
    # @param one [Offer]
    # @param other [Offer]
    # @param offers [Array<Offer>] both among them, in the merchant's order
    def initialize(one, other, offers)
      @one = one
      @other = other
      @higher = offers.index(one) < offers.index(other)
    end

    # @return [Boolean]
    def always_wins?
      !@one.equal?(@other) && !@other.combines && open? && places? && threshold? && cheaper?
    end

    private

    # Whether it is for everybody, at any time.
    def open?
      [@one.groups, @one.coupons, @one.promotions, @one.first, @one.blocking, @one.paying].all?(&:nil?) &&
        @one.period.always?
    end

    def places?
      [[@one.zones, @other.zones], [@one.method_ids, @other.method_ids]].all? do |all, some|
        all.nil? || (some && (some - all).empty?)
      end
    end

    # Whether it is reached wherever the other is.
    def threshold?
      mine = @one.threshold or return true
      its = @other.threshold or return false
      mine.measure == its.measure && mine.below.nil? && mine.basis == its.basis && mine.from.base <= its.from.base
    end

    # Whether it always leaves less to pay, or as little and stands higher.
    def cheaper?
      mine = @one.effect
      its = @other.effect
      return false if mine.most
      return its.kind != :free || @higher if mine.kind == :free

      mine.kind == its.kind && less?(mine, its)
    end

    def less?(mine, its)
      left = case mine.kind
             when :fixed then mine.amount <=> its.amount
             when :off then its.amount <=> mine.amount
             else its.percent.value <=> mine.percent.value
             end
      left.negative? || (left.zero? && @higher)
    end
  end
end
