# frozen_string_literal: true

module GateMile
  # The carts that tell a zone, a rate or an offer apart: at, below and above every gate, each class and pairs of them,
  # each group, each side of every border, with and without each coupon, the first and the last minute of what is
  # limited in time. What is looked at changes in one thing at a time, all else being as it must be for it to count
  # (boundary value analysis); classes, groups and zones in all pairs.
  class Walk
    # Carts of one walk, at most, and of one kind of setting beyond which pairs are left out.
    MOST = 4000
    PAIRS = 40
    # A cheap, light cart: few settings begin below it.
    WORTH = 1000
    WEIGHT = Weight::UNITS["kg"] / 2
    SIDE = Length::UNITS["cm"] * 5
    private_constant :WORTH, :WEIGHT, :SIDE

    class << self
      # @param book [Book]
      # @param now [Time] of carts without a moment
      # @return [Walk] of all zones
      def of_board(book, now:) = new(book, book.zones.select(&:active), book.rates, book.offers, now: now)

      # @param book [Book]
      # @param zone [Zone]
      # @param now [Time] of carts without a moment
      # @return [Walk] all that its rates, and what acts on them, tell apart
      def of_zone(book, zone, now:) = new(book, [zone], book.rates_of(zone), book.offers, now: now)

      # @param book [Book]
      # @param rate [Rate]
      # @param now [Time] of carts without a moment
      # @return [Walk]
      def of_rate(book, rate, now:) = new(book, [book.zone(rate.zone)], [rate], book.offers, now: now)

      # @param book [Book]
      # @param offer [Offer]
      # @param now [Time] of carts without a moment
      # @return [Walk] in every zone in which it holds
      def of_offer(book, offer, now:)
        zones = book.zones.select { |zone| offer.in_zone?(zone.id) }
        rates = zones.flat_map { |zone| book.rates_of(zone) }.select { |rate| offer.names?(rate.method_id) }
        new(book, zones, rates, [offer], now: now, only_offers: true)
      end
    end

    # @return [Array<Zone>]
    attr_reader :zones
    # @return [Array<Rate>] whose methods are shown
    attr_reader :rates

    # @param book [Book]
    # @param zones [Array<Zone>]
    # @param rates [Array<Rate>]
    # @param offers [Array<Offer>]
    # @param now [Time] of carts without a moment
    # @param only_offers [Boolean] whether nothing but these is walked
    def initialize(book, zones, rates, offers, now:, only_offers: false)
      @book = book
      @zones = zones
      @rates = rates
      @offers = offers
      @only_offers = only_offers
      @now = now
      @samples = book.zones.samples
    end

    # @return [Array<Proposal>] no cart twice
    def proposals
      @proposals ||= begin
        @found = {}
        @settled = {}.compare_by_identity
        zones.each { |zone| walked(zone) if @samples.of(zone) }
        @found.map do |(cart, at, carriers), reasons|
          Proposal.new(cart: cart, at: at, reasons: reasons, carriers: carriers)
        end
      end
    end

    # @return [Boolean] whether that are all: false where there were too many
    def whole? = proposals.size < MOST

    private

    def add(cart, at, reason, carriers = nil)
      known = @found[[cart, at, carriers]]
      return known << reason if known

      @found[[cart, at, carriers]] = [reason] if @found.size < MOST
    end

    # As carts are written: one that stands there in another form is the same.
    def written(situation) = Cart.parse(situation.cart, @book.currency).dump

    def take(trial, reason, carriers = nil) = add(trial.document, trial.at, reason, carriers)

    # What hides behind others is looked for among the carts of the zone.
    def walked(zone)
      before = @found.keys
      walk(zone)
      here = @found.except(*before).to_h { |(cart, at, _), reasons| [[cart, at], reasons] }
      probe = PolicyProbe.new(@book, zone, here, @now)
      probe.list(open_figures(zone)).each { |(cart, at), item| add(cart, at, { code: :shows, name: item.name }) }
      probe.settled.each { |figure| @settled[figure] = true }
    end

    # Of offers, rules and treatments that act in a zone, those that no other zone shows already.
    def open_figures(zone)
      @figures ||= PolicyMutants.new(@book, @offers, @book.rules, @book.treatments).list.group_by(&:item)
      policies(zone).flatten(1).flat_map { |item| @figures.fetch(item, []).reject { |figure| @settled[figure] } }
    end

    def policies(zone)
      here = rates_in(zone)
      return [offers_of(zone, here), [], []] if @only_offers

      [offers_of(zone, here), rules_of(here), treatments_of(zone, here)]
    end

    def rates_in(zone) = rates.select { |rate| rate.zone == zone.id }

    def walk(zone)
      here = rates_in(zone)
      base = base(zone, here)
      take(base, { code: :base })
      along_rates(base, here) unless @only_offers
      along_offers(zone, base, here)
      return if @only_offers

      along_rules(zone, base, here)
      along_goods(zone, base, here)
      people(base, here)
      places(zone, base, here)
    end

    # An ordinary cart of the zone: below the first gates, where that can be.
    def base(zone, here)
      edges = here.flat_map { |rate| RateWalk.new(@book, rate, nil).edges } +
              offers_of(zone, here).flat_map { |offer| OfferWalk.new(@book, offer, nil).edges }
      goods = SomeGoods.new(name: "Any goods", quantity: 1, worth: nominal(edges, "value", WORTH),
                            weight: nominal(edges, "weight", WEIGHT), sides: [nominal(edges, "longest", SIDE)] * 3)
      Trial.new(goods: [goods], destination: @samples.of(zone), currency: @book.currency)
    end

    # Half of the first point above nothing, where that is less.
    def nominal(edges, measure, usual)
      first = edges.select { |edge| edge.measure == measure }.map(&:base).select(&:positive?).min
      [usual, first && (first / 2)].compact.min.then { |base| [base.floor, 1].max }
    end

    def along_rates(base, here)
      here.each do |rate|
        carriers = rate.live && LadderWalk.plan_after(rate.live)
        RateWalk.new(@book, rate, base).each { |trial, reason| take(trial, reason, carriers) }
      end
      LadderWalk.new(here.select(&:live), base).each { |trial, reason, said| take(trial, reason, said) }
    end

    def offers_of(zone, here)
      @offers.select { |offer| offer.in_zone?(zone.id) && here.any? { |rate| offer.names?(rate.method_id) } }
    end

    def along_offers(zone, base, here)
      offers = offers_of(zone, here)
      offers.each do |offer|
        walk = OfferWalk.new(@book, offer, base)
        walk.each { |trial, reason| take(trial, reason) }
        met = walk.met or next
        heights(met, here) { |trial, reason| take(trial, { **reason, offer: offer.name, setting: effect(offer) }) }
        treated_with(zone, met, here, offer)
      end
      pairs(offers).each { |one, other| both(base, one, other) }
    end

    def effect(offer) = { kind: "offer", id: offer.id, field: "effect" }

    # How much an offer takes shows on low and on high prices.
    def heights(met, here)
      here.select(&:plan).each do |rate|
        edges = RateWalk.new(@book, rate, met).edges
        edges.group_by(&:measure).each do |measure, list|
          [list.min_by(&:base), list.max_by(&:base)].uniq.each do |edge|
            found = Amounts.new(@book).put(met, measure, edge.base + edge.hair, edge.basis) or next
            yield found, { code: :height, measure: measure, figure: edge.text }
          end
        end
      end
      yield met.first(quantity: 2), { code: :units, count: 2 }
    end

    # Goods at own prices beside those that reach an offer.
    def treated_with(zone, met, here, offer)
      treatments_of(zone, here).each do |treatment|
        sku = SomeGoodsOf.treated(@book, treatment).first or next
        take(met.beside(SomeGoods.of(sku, 1)),
             { code: :with_treated, offer: offer.name, name: sku, setting: effect(offer) })
      end
    end

    def pairs(list) = list.combination(2).first(PAIRS)

    # What several offers come to together.
    def both(base, one, other)
      first = OfferWalk.new(@book, one, base).met or return
      met = OfferWalk.new(@book, other, first).met or return
      joined = met.with(coupons: [*first.coupons, *met.coupons].uniq, at: met.at || first.at,
                        group: met.group || first.group, promotions: met.promotions || first.promotions)
      [met, joined].uniq.each do |trial|
        take(trial, { code: :both_offers, offer: one.name, other: other.name, setting: effect(other) })
      end
    end

    def along_rules(zone, base, here)
      rules = rules_of(here)
      @situations ||= Situations.new(@book, @samples)
      walks = rules.map { |rule| RuleWalk.new(@book, rule, zone, @situations, base) }
      walks.each { |walk| walk.each { |situation, reason| add(written(situation), situation.at, reason) } }
      pairs(walks.zip(rules)).each do |(walk, _), (_, other)|
        walk.together(other) { |situation, reason| add(written(situation), situation.at, reason) }
      end
    end

    def rules_of(here)
      methods = here.map(&:method_id)
      @book.rules.select { |rule| rule.actions.any? { |action| concerns?(action, methods) } }
    end

    # "Only these" concerns the others too.
    def concerns?(action, methods) = action.hides? || methods.any? { |id| action.touches?(id) }

    def treatments_of(zone, here)
      @book.treatments.select do |treatment|
        (treatment.zones.nil? || treatment.zones.include?(zone.id)) &&
          (treatment.method_ids.nil? || here.any? { |rate| treatment.method_ids.include?(rate.method_id) })
      end
    end

    def along_goods(zone, base, here)
      GoodsWalk.new(@book, base, treatments_of(zone, here)).each { |trial, reason| take(trial, reason) }
    end

    def people(base, here)
      PeopleWalk.new(@book, base, @offers, here).each { |trial, reason| take(trial, reason) }
    end

    def places(zone, base, here)
      areas = zone.areas + here.flat_map { |rate| rate.areas ? rate.areas.lists.flatten(1) : [] } +
              here.flat_map do |rate|
                if rate.plan
                  rate.plan.schedules.grep(Grid).map(&:columns).grep(AreaSets).flat_map do |sets|
                    sets.lists.flatten(1)
                  end
                else
                  []
                end
              end
      PlaceWalk.new(@book, zone, areas).each { |address, reason| take(base.with(destination: address), reason) }
    end
  end
end
