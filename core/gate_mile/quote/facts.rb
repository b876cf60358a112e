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
    # @return [String, nil] id of the customer group
    attr_reader :group
    # @return [Array<String>] ids of the coupons that are taken
    attr_reader :coupons
    # @return [Array<Hash>] what the cart names and the book does not take: field, code and why
    attr_reader :refused

    # @param book [Book]
    # @param cart [Cart]
    # @param basket [Basket]
    # @param at [Time]
    def initialize(book, cart, basket, at)
      @book = book
      @cart = cart
      @basket = basket
      @at = at
      @refused = []
      @group = find_group
      @coupons = find_coupons
      @measured = {}
    end

    # @return [Store]
    def store = @book.store

    # @param basket [Basket]
    # @return [Facts] the same of other goods
    def of(basket) = Facts.new(@book, cart, basket, at)

    # @return [GoodsSets] of all lines
    def goods = @goods ||= GoodsSets.of(basket.lines.map { |line| GoodsKind.of(line) })

    # @return [GoodsSets] of the lines that ship
    def shipping_goods = @shipping_goods ||= GoodsSets.of(shipping_kinds)

    # @return [Array<GoodsKind>] of the lines that ship, each kind once
    def shipping_kinds = @shipping_kinds ||= basket.shipping.map { |line| GoodsKind.of(line) }.uniq

    # @param fact [String] value, weight, quantity or longest
    # @param basis [Basis, nil] of the value, nil for the store's
    # @return [Integer, Rational, nil] in base units; nil where the goods do not say
    def measure(fact, basis = nil)
      key = basis.nil? ? fact : [fact, basis]
      return @measured[key] if @measured.key?(key)

      @measured[key] = case fact
                       when "value" then value(basis)
                       when "longest" then longest
                       else amount(fact, basket.shipping)
                       end
    end

    # @param measure [String] value, weight or quantity
    # @param basis [Basis] of a value; its lines say whose: "all" or "shipping"
    # @return [Integer, Rational, nil] of the whole cart
    def total(measure, basis)
      key = [measure, basis.object_id]
      return @measured[key] if @measured.key?(key)

      @measured[key] = amount(measure, basis.lines == "all" ? basket.lines : basket.shipping, basis)
    end

    # @param measure [String] value, weight or quantity
    # @param lines [Array<Line>] those that count
    # @param basis [Basis] of values
    # @return [Integer, Rational, nil]
    def amount(measure, lines, basis = store.basis)
      case measure
      when "value" then lines.sum { |line| line.worth ? line.worth.in(basis).minor : 0 }
      when "weight" then lines.sum { |line| line.weight&.base || (return nil) }
      else lines.sum(&:quantity)
      end
    end

    # @param fact [String]
    # @param number [Integer, Rational, nil]
    # @return [String, nil] as people read it
    def written(fact, number)
      unit = { "weight" => store.weight_unit, "longest" => store.length_unit }[fact]
      number && Gauge.new(fact, store.currency).write(number, unit)
    end

    # @return [Time] what the store's clock shows, as if it were UTC
    def local = @local ||= LocalMoment.local(at, store.time_zone)

    # @return [Integer] 1 for Monday to 7 for Sunday
    def weekday = local.wday.zero? ? 7 : local.wday

    # @return [String] e.g. "2026-11-27"
    def date = @date ||= local.strftime("%Y-%m-%d")

    # @return [String] e.g. "18:00"
    def time = @time ||= local.strftime("%H:%M")

    # @param offer [Offer]
    # @return [Integer] how many orders have used it
    def uses(offer) = cart.offer_uses.fetch(offer.id, 0)

    private

    def find_group
      return if cart.group.nil?

      found = @book.policies.group_named(cart.group)
      @refused << { field: "group", code: cart.group, reason: :unknown } if found.nil?
      found&.id
    end

    def find_coupons
      return NONE if cart.coupons.empty?

      cart.coupons.filter_map do |code|
        coupon = @book.policies.coupon(code)
        reason = refusal(coupon)
        @refused << { field: "coupon", code: code, reason: reason } if reason
        coupon.id if reason.nil?
      end.uniq
    end

    def refusal(coupon)
      return :unknown if coupon.nil?

      coupon.active ? coupon.period.outside(at) : :off
    end

    def value(basis) = total("value", store.basis_for(basis))

    def longest
      sides = basket.shipping.map { |line| line.longest&.base }
      sides.max if sides.any? && sides.all?
    end
  end
end
