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

    # @return [Boolean] whether the cart passes the gate of one that {OfferIndex} found: what was asked there is not
    #   asked again
    def passes? = (promotions || period || blocked).nil?

    # @return [Boolean] whether it is not used up
    def left? = uses.nil?

    # @return [Array<Hash>] everything that stands against it: code and what belongs to it
    def reasons = CHECKS.filter_map { |check| send(check) }

    # @return [Boolean] whether it is for this shopper at all
    def for_them? = WHO.all? { |check| send(check).nil? }

    # @return [Boolean] whether goods in the cart keep it out
    def blocked? = !blocked.nil?

    # @param ordinary [Lot]
    # @return [Boolean] whether its threshold is reached at one method: alike at every method, unless it counts ordinary
    #   lines
    def reached?(ordinary)
      return true if offer.threshold.nil?
      return stand(ordinary) == :reached if basis.lines == "ordinary"

      @reached = stand(ordinary) == :reached if @reached.nil?
      @reached
    end

    # What is missing to the threshold at one method: the same outcome at every method, unless it counts ordinary lines.
    # @param ordinary [Lot]
    # @return [Outcome, nil] nil where it is reached, or there is none
    def lack(ordinary)
      return if offer.threshold.nil?
      return measured(ordinary) if basis.lines == "ordinary"

      @lack = measured(ordinary) unless defined?(@lack)
      @lack
    end

    # @param ordinary [Lot] the ordinary lines, where the threshold counts these
    # @return [Integer, Rational, nil] what the cart comes to along the threshold; nil where the goods do not say
    def amount(ordinary)
      return counted(ordinary).amount(offer.threshold.measure, basis) unless uncounted?

      Lot.new(counted(ordinary).lines.reject do |line|
        offer.paying.include?(line.kind)
      end).amount(offer.threshold.measure, basis)
    end

    private

    def basis = @basis ||= @facts.store.basis_for(offer.threshold.basis)

    def counted(ordinary)
      case basis.lines
      when "all" then @facts.basket.all
      when "ordinary" then ordinary
      else @facts.basket.shipping
      end
    end

    # Whether goods that pay their own way are left out of the threshold.
    def uncounted? = offer.paying && !offer.paying_count

    # @return [Symbol, nil] nil where the goods do not say
    def stand(ordinary) = amount(ordinary)&.then { |number| offer.threshold.stand(number) }

    def measured(ordinary)
      wanted = offer.threshold
      number = amount(ordinary)
      return Outcome.new(offer, :unknown) { { measure: wanted.measure } } if number.nil?

      case wanted.stand(number)
      when :over then Outcome.new(offer, :over) { { here: here(number), below: wanted.below.text } }
      when :below
        Outcome.new(offer, :below) do
          { here: here(number), from: wanted.from.text, measure: wanted.measure,
            remaining: here(wanted.from.base - number) }
        end
      end
    end

    def here(number) = offer.threshold.amount(number, @facts.store)

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

      # A coupon that was typed but has expired: say when it ended, not that it is missing.
      over = @facts.over.find { |coupon| offer.coupons.include?(coupon.id) }
      return { code: :coupon_over, coupon: over.code, ends: over.period.ends } if over

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
      return if offer.blocking.nil? || !offer.blocking.in?(@facts.shipping_goods)

      names = @facts.basket.shipping.lines.select { |line| offer.blocking.include?(line.kind) }.map(&:label)
      { code: :blocked, names: names.uniq.first(5) }
    end
  end
end
