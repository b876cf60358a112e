# frozen_string_literal: true

module GateMile
  # What conditions look at: one cart at one moment, whatever its zone. What is worked out is kept.
  class Facts
    NONE = [].freeze
    private_constant :NONE

    # @return [Cart]
    attr_reader :cart
    # @return [Basket]
    attr_reader :basket
    # @return [Time]
    attr_reader :at
    # @return [Store]
    attr_reader :store
    # @return [String, nil] id of the customer group
    attr_reader :group
    # @return [Array<String>] ids of the coupons that are taken
    attr_reader :coupons
    # @return [Array<Hash>] what the cart names and the book does not take: field, code and why
    attr_reader :refused
    # @return [Array<Coupon>] that the cart names and that are over
    attr_reader :over

    # @param book [Book]
    # @param cart [Cart]
    # @param basket [Basket]
    # @param at [Time]
    def initialize(book, cart, basket, at)
      @store = book.store
      @cart = cart
      @basket = basket
      @at = at
      @refused = @over = NONE
      @group = find_group(book.policies)
      @coupons = find_coupons(book.policies)
    end

    # @param basket [Basket]
    # @return [Facts] the same of other goods
    def of(basket) = dup.tap { |facts| facts.basket = basket }

    # @return [GoodsSets] of all lines
    def goods = @goods ||= GoodsSets.new(basket.lines)

    # @return [GoodsSets] of the lines that ship
    def shipping_goods
      @shipping_goods ||= basket.shipping.equal?(basket.all) ? goods : GoodsSets.new(basket.shipping.lines)
    end

    # @return [Array<GoodsKind>] of the lines that ship, each kind once
    def shipping_kinds = @shipping_kinds ||= basket.shipping.lines.map(&:kind).uniq

    # @param measure [String] value, weight, quantity or longest
    # @param basis [Basis] a whole one: its lines say whose value counts, "all" or "shipping"
    # @return [Integer, Rational, nil] of the whole cart, in base units; nil where the goods do not say
    def total(measure, basis)
      return basket.shipping.longest if measure == "longest"

      lot = measure == "value" && basis.lines == "all" ? basket.all : basket.shipping
      lot.amount(measure, basis)
    end

    # @param measure [String] value, weight or quantity
    # @param basis [Basis] its lines say whose measure counts, whatever it is
    # @return [Integer, Rational, nil]
    def counted(measure, basis)
      (basis.lines == "all" ? basket.all : basket.shipping).amount(measure, basis)
    end

    # @param measure [String]
    # @param number [Integer, Rational, nil]
    # @return [String, nil] as people read it
    def written(measure, number)
      number && Gauge.new(measure, store.currency).write(number, Gauge.unit(measure, store))
    end

    # @return [Clock::Reading] what the store's clock shows
    def now = @now ||= store.clock.read(at)

    # @return [Integer] 1 for Monday to 7 for Sunday
    def weekday = now.weekday

    # @return [String] e.g. "2026-11-27"
    def date = @date ||= now.date.iso8601

    # @return [String] e.g. "18:00"
    def time = @time ||= now.time

    # @param offer [Offer]
    # @return [Integer] how many orders have used it
    def uses(offer) = cart.offer_uses.fetch(offer.id, 0)

    protected

    def basket=(basket)
      @basket = basket
      @goods = @shipping_goods = @shipping_kinds = nil
    end

    private

    def find_group(policies)
      return if cart.group.nil?

      found = policies.group_named(cart.group)
      @refused = [{ field: "group", code: cart.group, reason: :unknown }] if found.nil?
      found&.id
    end

    def find_coupons(policies)
      return NONE if cart.coupons.empty?

      cart.coupons.filter_map do |code|
        coupon = policies.coupon(code)
        reason = refusal(coupon)
        @refused += [{ field: "coupon", code: code, reason: reason }] if reason
        @over += [coupon] if reason == :late
        coupon.id if reason.nil?
      end.uniq
    end

    def refusal(coupon)
      return :unknown if coupon.nil?

      coupon.active ? coupon.period.outside(at) : :off
    end
  end
end
