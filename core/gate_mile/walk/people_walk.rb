# frozen_string_literal: true

module GateMile
  # Each group with each class, each coupon, the minutes between which coupons are taken and methods are on offer.
  class PeopleWalk
    # A Monday on which hours are looked at.
    DAY = "2026-01-05"
    private_constant :DAY

    # @param book [Book]
    # @param base [Trial] an ordinary cart of a zone
    # @param offers [Array<Offer>]
    # @param here [Array<Rate>] of the zone
    def initialize(book, base, offers, here)
      @book = book
      @base = base
      @offers = offers
      @here = here
    end

    # @yieldparam trial [Trial]
    # @yieldparam reason [Hash]
    # @return [void]
    def each(&)
      people(&)
      @book.policies.coupons.each { |coupon| coupon(coupon, &) }
      clock(&)
    end

    private

    # Each group with each class.
    def people
      groups = [nil, *@book.policies.groups]
      groups.each do |group|
        yield(@base.with(group: group&.name), { code: :group, group_name: group&.name })
        @book.classes.each do |item|
          yield(@base.with(group: group&.name, goods: [of_class(item)]),
               { code: :class_group, name: item.name, group_name: group&.name })
        end
      end
    end

    def coupon(coupon)
      yield(@base.with(coupons: [coupon.code]),
           { code: :coupon, coupon: coupon.code, setting: { kind: "coupon", id: coupon.id, field: "code" } })
      met = @offers.select do |offer|
        offer.coupons&.include?(coupon.id)
      end.filter_map { |offer| OfferWalk.new(@book, offer, @base).met }
      met.each do |trial|
        sides(coupon.period).each do |side, at|
          yield(trial.with(coupons: [coupon.code], at: at),
               { code: :coupon_moment, coupon: coupon.code, side: side, at: at,
                 setting: { kind: "coupon", id: coupon.id, field: "starts" } })
        end
      end
    end

    def sides(period)
      { before: period.starts && Clockwork.shifted(period.starts, -1), first: period.starts,
        last: period.ends && Clockwork.shifted(period.ends, -1), after: period.ends }.compact
    end

    # The minutes at which a method opens, closes and passes its cutoff.
    def clock
      @here.map(&:method_id).uniq.each do |id|
        delivery = @book.shipping_method(id).delivery or next
        [delivery.opens, delivery.closes, delivery.cutoff].compact.each do |time|
          { before: -1, at: 0 }.each do |side, minutes|
            at = Clockwork.shifted("#{DAY}T#{time}", minutes)
            yield(@base.with(at: at),
                 { code: :hours, side: side, at: at, setting: { kind: "method", id: id, field: "delivery" } })
          end
        end
      end
    end

    def of_class(item) = @base.goods.first.with(name: "Goods of class #{item.name}", shipping_class: item.name)
  end
end
