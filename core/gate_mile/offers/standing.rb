# frozen_string_literal: true

module GateMile
  # Whether an offer is open to one cart in one zone, before it is asked which method, and how much the cart comes to.
  class Standing
    CHECKS = %i[off zone group coupon promotions period uses blocked].freeze
    # Those that tell whether the cart could ever have it: only then a shopper hears how far it is.
    WHO = %i[off zone group coupon promotions period uses].freeze
    private_constant :CHECKS, :WHO

    # @return [Offer]
    attr_reader :offer

    # @param offer [Offer]
    # @param facts [Facts]
    # @param zone [Zone, nil] nil while it is not known
    def initialize(offer, facts, zone)
      @offer = offer
      @facts = facts
      @zone = zone
    end

    # @return [Boolean]
    def open? = CHECKS.all? { |check| send(check).nil? }

    # @return [Array<Hash>] everything that stands against it: code and what belongs to it
    def reasons = CHECKS.filter_map { |check| send(check) }

    # @return [Boolean] whether it is for this shopper at all
    def for_them? = WHO.all? { |check| send(check).nil? }

    # @return [Boolean] whether goods in the cart keep it out
    def blocked? = !blocked.nil?

    # @param ordinary [Array<Line>] the ordinary lines, where the threshold counts these
    # @return [Integer, Rational, nil] what the cart comes to along the threshold; nil where the goods do not say
    def amount(ordinary)
      basis = offer.threshold.basis || @facts.store.basis
      lines = { "all" => @facts.basket.lines, "shipping" => @facts.basket.shipping, "ordinary" => ordinary }
              .fetch(basis.lines)
      lines = lines.reject { |line| offer.paying.include?(line) } if offer.paying && !offer.paying_count
      @facts.amount(offer.threshold.measure, lines, basis)
    end

    private

    def off = offer.active ? nil : { code: :off }

    def zone
      return if offer.zones.nil? || @zone.nil? || offer.in_zone?(@zone.id)

      { code: :other_zone, zone: @zone.name }
    end

    def group
      return if offer.groups.nil? || offer.groups.include?(@facts.group)

      { code: :other_group, group: @facts.group }
    end

    def coupon
      return if offer.coupons.nil? || @facts.coupons.intersect?(offer.coupons)

      { code: :no_coupon, coupons: offer.coupons }
    end

    def promotions
      return if offer.promotions.nil? || (offer.promotions == "with") == @facts.cart.promotions.any?

      offer.promotions == "with" ? { code: :no_promotion } : { code: :promotion, names: @facts.cart.promotions }
    end

    def period
      case offer.period.outside(@facts.at)
      when :early then { code: :early, starts: offer.period.starts }
      when :late then { code: :late, ends: offer.period.ends }
      end
    end

    def uses
      return if offer.first.nil? || @facts.uses(offer) < offer.first

      { code: :used_up, first: offer.first, uses: @facts.uses(offer) }
    end

    def blocked
      return if offer.blocking.nil?

      names = @facts.basket.shipping.select { |line| offer.blocking.include?(line) }.map(&:label)
      names.empty? ? nil : { code: :blocked, names: names.uniq.first(5) }
    end
  end
end
