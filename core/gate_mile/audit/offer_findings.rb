# frozen_string_literal: true

module GateMile
  # What is wrong with offers: those that can never apply or apply where nobody would want it, texts that do not say
  # what they do, and carts that pay more for an item than it is worth. Goods are looked at one product at a time: so
  # many units of one as reach the threshold.
  class OfferFindings
    # Products that are looked at for one offer, spread over all; units of one that are looked at, at most.
    SAMPLE = 40
    UNITS = 5000
    # A shipping cost above this share of the order's value is far more than a threshold brings, where costs of goods
    # are not known.
    SHARE = Rational(1, 2)

    # @param book [Book]
    # @param at [Time] of the audit: offers may have ended by then
    def initialize(book, at)
      @book = book
      @at = at
      @offers = book.offers.select(&:active)
      @samples = book.zones.samples
      @goods = Alone.goods(book)
    end

    # @return [Array<Finding>]
    def list
      return [] if @book.offers.empty? && @book.policies.coupons.empty?

      @offers.flat_map { |offer| of(offer) } + pays_more + coupons
    end

    private

    def of(offer)
      return [finding(:offer_over, :note, offer, ends: offer.period.ends)] if offer.period.outside(@at) == :late

      return [finding(:offer_never, :warning, offer, reason: :no_rate)] if rates_of(offer).empty?

      rates = rates_of(offer).select(&:plan)
      [*OfferTexts.new(@book, offer).list, *coupon_off(offer), *OfferEnds.new(offer, @offers, rates).list,
       *slipping(offer), *tried(offer, rates)]
    end

    def finding(code, harm, offer, cart = nil, zone: nil, **numbers)
      Finding.new(code: code, harm: harm, zone: zone, numbers: { offer: offer.name, **numbers }, cart: cart,
                  setting: { kind: "offer", id: offer.id })
    end

    def rates_of(offer)
      @book.rates_in_use.select { |rate| offer.in_zone?(rate.zone) && offer.names?(rate.method_id) }
    end

    # Nobody can have a coupon that is off, or over.
    def coupon_off(offer)
      return [] if offer.coupons.nil?

      named = offer.coupons.filter_map { |id| @book.policies.coupons.find { |one| one.id == id } }
      dead = named.reject { |one| one.active && one.period.outside(@at) != :late }
      return [] if named.empty? || dead.size < named.size

      [finding(:offer_coupon_off, :warning, offer, coupons: dead.map(&:code))]
    end

    # Goods without a class go by an offer that leaves classes out.
    def slipping(offer)
      named = [offer.blocking, offer.paying].compact.flat_map(&:classes)
      loose = named.empty? ? [] : @goods.reject(&:shipping_class)
      loose.empty? ? [] : [finding(:offer_unclassed, :warning, offer, count: loose.size, names: names(loose))]
    end

    def names(articles) = articles.first(GoodsFindings::SHOWN).map(&:name)

    # Carts of one product that just reach the threshold.
    def tried(offer, rates)
      bare = bare(offer)
      return [] if rates.empty?

      found = attempts(bare, rates)
      never_best = beaten(offer)
      return never_best if never_best
      return gains_nothing(offer, found) || unreached(offer) if found.none?(&:acted)

      offer.effect.kind == :free && offer.threshold ? [*dear(offer, found.select(&:acted))] : []
    end

    def attempts(bare, rates)
      rates.group_by(&:zone).flat_map do |zone, list|
        sample.filter_map { |article| attempt(bare, article, @book.zone(zone), list) }
      end
    end

    Attempt = Struct.new(:article, :cart, :zone, :acted, :cost, :brings, :value, :states)
    private_constant :Attempt

    # With the others beside it, it is never the one that counts.
    def beaten(offer)
      by = @offers.find { |other| OfferRival.new(other, offer, @offers).always_wins? }
      by && [finding(:offer_beaten, :warning, offer, by: by.name)]
    end

    # It is reached, and what it makes of the price is never less than the price.
    def gains_nothing(offer, attempts)
      states = attempts.flat_map(&:states).uniq
      return if states.empty? || states != [:no_gain]

      [finding(:offer_no_gain, :warning, offer, attempts.first.cart, zone: attempts.first.zone.id,
                                                                     amount: offer.effect.amount)]
    end

    # The book with this offer alone, whoever asks.
    def bare(offer)
      open = offer.with(groups: nil, coupons: nil, promotions: nil, first: nil, period: Period.new)
      @book.with(policies: Policies.new(groups: [], coupons: [], offers: [open], rules: []))
    end

    def sample = @sample ||= by_price.each_slice([@goods.size / SAMPLE, 1].max).map(&:first)

    # @return [Array<Article>] with a price, the cheapest first
    def by_price
      @book.catalogue.once(:by_price) do
        priced = @goods.select(&:price)
        priced.each_with_index.sort_by { |article, at| (article.price.minor * priced.size) + at }.map(&:first).freeze
      end
    end

    def attempt(bare, article, zone, rates)
      offer = bare.offers.first
      units = units(offer.threshold, article) or return
      document = document(article, units, zone)
      cart = Cart.parse(document, @book.currency)
      terms = Terms.new(bare, Facts.new(bare, cart, bare.basket(cart), @at), zone, cart.destination)
      found = rates.map { |rate| run(bare, terms, rate) }
      acted = found.find { |quote| quote.available? && quote.acted.any? }
      Attempt.new(article, document, zone, !acted.nil?, acted && cost(acted), brings(article, units),
                  article.price * units, found.select(&:available?).flat_map { |quote| quote.outcomes.map(&:state) })
    end

    def run(book, terms, rate)
      book.program(rate).quote(Visit.of(terms, Destination.new(terms.circumstances.address("delivery"))))
    end

    def document(article, units, zone)
      { "lines" => [{ "sku" => article.sku, "quantity" => units }],
        "destination" => @samples.of(zone)&.then { |address| Documents.write(address) } || {} }
    end

    # @return [Integer, nil] the fewest units that reach it
    def units(threshold, article)
      return 1 if threshold.nil?

      each = case threshold.measure
             when "value" then article.price.minor
             when "weight" then article.weight&.base
             else 1
             end
      return if each.nil? || each.zero?

      count = (Rational(threshold.from.base) / each).ceil
      count if count <= UNITS
    end

    # What the method costs the merchant, or where that is not said what it would take.
    def cost(quote)
      quote.cost || quote.outcomes.filter_map { |one| one.numbers[:base] if one.acted? }.first
    end

    def brings(article, units) = article.cost && ((article.price - article.cost) * units)

    # Goods that no catalogue knows reach it too: without goods to try nothing is said.
    def unreached(offer)
      return [] if sample.empty?

      reason = offer.blocking && sample.all? { |article| spoilt?(offer, article) } ? :all_spoil : :no_goods
      [finding(reason == :all_spoil ? :offer_spoilt : :offer_never, :warning, offer, reason: reason)]
    end

    def spoilt?(offer, article)
      cart = Cart.of(lines: [CartLine.new(sku: article.sku, quantity: 1)])
      @book.basket(cart).lines.any? { |line| offer.blocking.include?(line.kind) }
    end

    # Goods that cost far more to ship than a cart of them brings.
    def dear(offer, attempts)
      lost = attempts.select { |one| one.cost && one.cost.minor > (one.brings&.minor || (one.value.minor * SHARE)) }
      worst = lost.max_by { |one| one.cost.minor - (one.brings || one.value).minor } or return []
      [finding(:offer_loss, :warning, offer, worst.cart, zone: worst.zone.id, name: worst.article.name,
                                                         count: lost.map(&:article).uniq.size, cost: worst.cost,
                                                         brings: worst.brings, value: worst.value)]
    end

    # A cart that an offer made cheap, and one more item that costs more in shipping than it is worth.
    def pays_more
      @offers.select { |offer| (offer.blocking || offer.threshold&.below) && offer.period.outside(@at) != :late }
             .filter_map { |offer| dearer(offer) }
    end

    def dearer(offer)
      bare = bare(offer)
      rates_of(offer).group_by(&:zone).each_key do |zone|
        worst = worst_step(bare, offer, @book.zone(zone)) or next
        more, cart, item = worst
        return finding(:pays_more, :warning, offer, cart, zone: zone, name: item.name, price: item.price, more: more)
      end
      nil
    end

    def worst_step(bare, offer, zone)
      base = cheap_cart(bare, offer, zone) or return
      before = cheapest(bare, base)
      spoiling(offer).filter_map do |item|
        cart = base.merge("lines" => base["lines"] + [{ "sku" => item.sku, "quantity" => 1 }])
        after = cheapest(bare, cart) or next
        more = after - before
        [more, cart, item] if more > item.price
      end.max_by { |more, _, item| more.minor - item.price.minor }
    end

    # A cart of one product on which the offer acts.
    def cheap_cart(bare, offer, zone)
      good = sample.reject { |article| offer.blocking && spoilt?(offer, article) }
      carts = good.lazy.filter_map do |article|
        units(offer.threshold, article)&.then { |count| document(article, count, zone) }
      end
      carts.find { |cart| acts?(bare, cart) }
    end

    def spoiling(offer)
      return by_price.first(SAMPLE) if offer.blocking.nil?

      by_price.lazy.select { |article| spoilt?(offer, article) }.first(SAMPLE)
    end

    def acts?(book, document)
      book.quote(Cart.parse(document, @book.currency), at: @at).method_quotes.any? do |one|
        one.available? && one.acted.any?
      end
    end

    def cheapest(book, document)
      book.quote(Cart.parse(document, @book.currency), at: @at).method_quotes.filter_map(&:price).min
    end

    # Coupons that nothing asks for.
    def coupons
      used = @book.offers.flat_map { |offer| offer.coupons.to_a }
      used += @book.rules.flat_map { |rule| rule.tree.leaves }.select { |leaf| leaf.fact == "coupon" }.flat_map(&:of)
      @book.policies.coupons.reject { |coupon| used.include?(coupon.id) }.map do |coupon|
        Finding.new(code: :coupon_unused, harm: :note, numbers: { coupon: coupon.code },
                    setting: { kind: "coupon", id: coupon.id })
      end
    end
  end
end
