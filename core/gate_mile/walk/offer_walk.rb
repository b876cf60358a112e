# frozen_string_literal: true

module GateMile
  # Carts that stand on both sides of every condition of an offer, all others of it being met.
  class OfferWalk
    WEEK = 7
    # How many customer groups are tried on each side of a threshold.
    GROUPS = 6
    private_constant :WEEK, :GROUPS

    # @param book [Book]
    # @param offer [Offer]
    # @param base [Trial] an ordinary cart of a zone in which it holds
    def initialize(book, offer, base)
      @book = book
      @offer = offer
      @base = base
      @amounts = Amounts.new(book)
      @setting = { kind: "offer", id: offer.id, field: "threshold" }
    end

    # @yieldparam trial [Trial]
    # @yieldparam reason [Hash]
    # @return [void]
    def each(&)
      met = self.met or return
      yield met, reason(:met)
      thresholds(met, &)
      people(met, &)
      clock(met, &)
      goods(met, &)
      promotions(met, &)
      uses(met, &)
    end

    # @return [Trial, nil] a cart that has all it asks for; nil where there is none
    def met
      return @met if defined?(@met)

      trial = @base.with(group: group, coupons: coupons, at: moment,
                         promotions: (["Another promotion"] if @offer.promotions == "with"))
      @met = @offer.threshold ? put(trial, @offer.threshold.from.base) : trial
    end

    # @return [Array<Edge>] of its threshold
    def edges
      threshold = @offer.threshold or return []
      gauge = Gauge.new(threshold.measure, @book.currency)
      [threshold.from, threshold.below].compact.map { |edge| Edge.of(gauge, edge, @setting, threshold.basis) }
    end

    private

    def reason(code, **numbers) = { code: code, setting: @setting, offer: @offer.name, **numbers }.compact
    def put(trial, number) = @amounts.put(trial, @offer.threshold.measure, number, @offer.threshold.basis)

    def group
      groups = [nil, *@book.policies.groups]
      groups.find { |one| @offer.groups.nil? || @offer.groups.include?(one&.id) }&.name
    end

    def coupons
      named = @offer.coupons.to_a.filter_map { |id| @book.policies.coupons.find { |one| one.id == id } }
      (named.select(&:active).first(1) + named.first(1)).first(1).map(&:code)
    end

    # A working day at noon while it lasts, where there is one.
    def moment
      period = @offer.period
      return if period.always?

      noons(period).find { |at| lasts?(period, at) } || period.starts || Clockwork.shifted(period.ends, -1)
    end

    def noons(period)
      first = period.starts ? Date.iso8601(period.starts[0, 10]) + 1 : Date.iso8601(period.ends[0, 10]) - WEEK
      (first..(first + WEEK)).reject { |day| day.saturday? || day.sunday? }.map { |day| "#{day.iso8601}T12:00" }
    end

    def lasts?(period, at) = (period.starts.nil? || at >= period.starts) && (period.ends.nil? || at < period.ends)

    def thresholds(met, &)
      edges.each do |edge|
        edge.sides.each do |side, number|
          put(met, number)&.then do |trial|
            yield trial, reason(:threshold, side: side, measure: edge.measure, figure: edge.text)
            others(trial, side, edge, &)
          end
        end
      end
      otherwise(met, &) if @offer.threshold&.measure == "value"
    end

    # The same for every other group: other offers and rules may act there.
    def others(trial, side, edge)
      [nil, *@book.policies.groups].map do |one|
        one&.name
      end.reject { |name| name == trial.group }.first(GROUPS).each do |name|
        yield trial.with(group: name), reason(:threshold, side: side, measure: edge.measure, figure: edge.text)
      end
    end

    # What counts shows where it is not the same: a discount, goods that need no shipping.
    def otherwise(met)
      from = @offer.threshold.from.base
      yield met.first(discount: 1), reason(:discounted, figure: @offer.threshold.from.text)
      less = put(met, from - 1) or return
      yield less.beside(SomeGoods.new(name: "A download", quantity: 1, worth: 100,
                                      ships: false)), reason(:unshipped,
                                                             figure: @offer.threshold.from.text)
    end

    def people(met)
      [nil, *@book.policies.groups].each do |one|
        yield met.with(group: one&.name), reason(:group, group_name: one&.name)
      end
      return if @offer.coupons.nil?

      yield met.with(coupons: []), reason(:no_coupon)
      @book.policies.coupons.each { |one| yield met.with(coupons: [one.code]), reason(:coupon, coupon: one.code) }
    end

    def clock(met)
      { before: @offer.period.starts && Clockwork.shifted(@offer.period.starts, -1), first: @offer.period.starts,
        last: @offer.period.ends && Clockwork.shifted(@offer.period.ends, -1), after: @offer.period.ends }.compact
        .each { |side, at| yield met.with(at: at), reason(:moment, side: side, at: at) }
    end

    # Goods that block it, or pay their own way, beside those that reach it.
    def goods(met)
      [[@offer.blocking, :blocked], [@offer.paying, :pays_own_way]].each do |choice, code|
        next if choice.nil?

        SomeGoodsOf.choice(@book, choice, met.goods.first).each do |one|
          yield met.beside(one.with(quantity: 1)), reason(code, name: one.shipping_class || one.tags&.first || one.sku)
        end
      end
    end

    def promotions(met)
      return if @offer.promotions.nil?

      yield met.with(promotions: met.promotions ? nil : ["Another promotion"]), reason(:promotion)
    end

    def uses(met)
      return if @offer.first.nil?

      { last: @offer.first - 1, after: @offer.first }.each do |side, count|
        yield met.with(uses: { @offer.id => count }), reason(:uses, side: side, count: count)
      end
    end
  end
end
