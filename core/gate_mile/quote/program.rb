# frozen_string_literal: true

module GateMile
  # One rate of a book, made ready: a visit goes through it from top to bottom and comes out as a {MethodQuote}. A step
  # takes values and returns one; a method that falls out early is not brought back by a later step. Who wants to know
  # how a price came about sends the same visit through it again, with a {Reckoning} that listens.
  class Program
    # What a visit comes to. causes: why the method is not available, empty where it is; split: {Split}; ordinary: the
    # {PlanPrice} or {LivePrice} of the ordinary lines, nil where there are none; price: minor units; name: what the
    # shopper reads; settled: what offers made of it, {Settling::Settled}; messages: that rules attach; provisional:
    # facts that are not known and may change what is said here; freeing: those of them by which the method may be there
    # for nothing, or not.
    Worked = Struct.new(:causes, :split, :ordinary, :price, :name, :settled, :messages, :provisional, :freeing)

    NONE = [].freeze
    private_constant :NONE

    # @return [Rate]
    attr_reader :rate
    # @return [ShippingMethod]
    attr_reader :shipping_method
    # @return [Store]
    attr_reader :store
    # @return [PlanProgram, nil]
    attr_reader :plan
    # @return [LiveProgram, nil]
    attr_reader :live
    # @return [Array<Cause>] what speaks against it whatever the cart: it is off
    attr_reader :standing_causes

    # The settings that causes and steps point to, in the form of {Cause#setting}. price: for the ordinary lines.
    Settings = Struct.new(:plan, :areas, :name, :price, :delivery)
    private_constant :Settings

    def setting_of_plan = @settings.plan
    def setting_of_areas = @settings.areas
    def setting_of_delivery = @settings.delivery

    # @param rate [Rate]
    # @param shipping_method [ShippingMethod]
    # @param zone [Zone]
    # @param store [Store]
    # @param carriers [Array<Carrier>]
    def initialize(rate, shipping_method, zone, store, carriers)
      @rate = rate
      @shipping_method = shipping_method
      @zone = zone
      @store = store
      @currency = store.currency
      @plan = PlanProgram.new(rate.plan, store) if rate.plan
      @live = LiveProgram.new(rate.live, rate.plan, @plan, carriers, store) if rate.live
      @cost = PlanProgram.new(rate.cost, store) if rate.cost
      @name = rate.name || shipping_method.name
      @settings = Settings.new(setting("plan"), setting("areas"), setting("name"), setting(@live ? "live" : "plan"),
                               { kind: "method", id: shipping_method.id, field: "delivery" }.freeze).freeze
      @standing_causes = off.freeze
      @reaches = {}.compare_by_identity
      freeze
    end

    # What treatments do here to the goods that they reach. barring: those that do not let them travel by it, as
    # {Placed}; pricing: the place in their list of the one whose price counts, nil where none does.
    Reach = Struct.new(:barring, :pricing)
    private_constant :Reach

    # @param placed [Array<Placed>] a list of {Treatments#on}
    # @return [Reach] looked at once
    def reach(placed)
      @reaches[placed] ||= Reach.new(
        placed.select { |one| one.treatment.bars?(rate.zone, rate.method_id) },
        placed.index { |one| one.treatment.price && one.treatment.applies?(rate.zone, rate.method_id) }
      )
    end

    # @param visit [Visit]
    # @return [MethodQuote]
    def quote(visit) = MethodQuote.new(self, visit, work(visit))

    # @param visit [Visit]
    # @return [Array<ReckoningStep>] how its price came about
    def reckoning(visit) = Reckoning.new.tap { |listener| work(visit, listener) }.steps

    # The way of a visit.
    # @param visit [Visit]
    # @param listener [Reckoning, nil]
    # @return [Worked]
    def work(visit, listener = nil)
      allowed = Allowed.of(self, visit, listener)
      return out(allowed, allowed.causes) if allowed.causes.any?

      split = Split.of(self, visit.basket, listener)
      ordinary = ordinary(split, visit, listener)
      return refused(allowed, split, ordinary, visit) if ordinary&.refusals&.any?

      treated = Treated.of(self, split, listener)
      settled = settled(visit, split, amounts(ordinary, treated), treated, listener)
      judged = judged(visit, split, settled, listener)
      name = judged.causes.any? ? judged.name : named(judged, settled, listener)
      finished(allowed, split, ordinary, settled, judged, name, doubts(visit, split, settled))
    end

    # @param visit [Visit]
    # @return [Array<CarrierRequest>] what carriers must be asked to price it
    def requests(visit)
      return [] if live.nil? || Allowed.of(self, visit, nil).causes.any?

      ordinary = Split.of(self, visit.basket).ordinary
      return [] if ordinary.empty?

      looks = [[ordinary, visit.basket], *sharing(visit, ordinary).map { |lot| [lot, Basket.new(lot.lines, store)] }]
      looks.uniq(&:first).flat_map { |lot, basket| live.requests(lot, basket, visit.destination) }.uniq
    end

    # @param basket [Basket]
    # @return [Lot] the lines that the plan prices
    def ordinary_lines(basket) = Split.of(self, basket).ordinary

    # @param destination [Destination]
    # @return [Refusal, nil] why the rate does not, or perhaps not, hold there, where it holds in a part of its zone
    def narrowed(destination) = rate.areas&.column(nil, destination).then { |found| found if found.is_a?(Refusal) }

    # @return [Boolean] whether nothing can speak against it but the goods
    def free? = standing_causes.empty? && priced? && rate.areas.nil? && !shipping_method.delivery&.limited?

    # @return [Boolean] whether the merchant has said a price
    def priced? = !(plan.nil? && live.nil?)

    # What the ordinary lines cost the merchant, where that is said and can be worked out.
    # @param visit [Visit]
    # @param worked [Worked]
    # @return [Money, nil]
    def cost(visit, worked)
      return if worked.causes.any? || worked.split.ordinary.empty?
      return worked.ordinary.cost if live && worked.ordinary.cost
      return if @cost.nil?

      @cost.price(worked.split.ordinary, visit.basket, visit.destination).minor&.then { |minor| money(minor) }
    end

    # When it arrives, as the carrier or the merchant says, counted from the moment of the checkout.
    # @param visit [Visit]
    # @param worked [Worked]
    # @return [Arrival, nil] nil where that is not known
    def arrival(visit, worked)
      return if worked.causes.any? || visit.terms.nil?

      days = promised(worked) or return
      leaves = store.calendar.leaves(shipping_method.delivery || Delivery::USUAL, visit.now)
      Arrival.new(days, days.map { |count| store.calendar.after(leaves, count) })
    end

    # What is due at the border of the zone, on the goods that ship.
    # @param visit [Visit]
    # @param worked [Worked]
    # @return [Array(Money, Boolean), nil] the amount, and whether the merchant bears it
    def duty(visit, worked)
      rule = visit.terms&.zone&.duty
      return if rule.nil? || worked.causes.any?

      [rule.on(money(visit.basket.shipping.value(Duty::GOODS)), money(worked.price)), rule.included]
    end

    private

    def money(minor) = Money.new(minor, @currency)
    def setting(field) = { kind: "rate", id: rate.id, field: field }.freeze

    def off
      [(unless shipping_method.active
          Cause.new(:method_off, { kind: "method", id: shipping_method.id, field: "active" })
        end),
       (Cause.new(:rate_off, setting("active")) unless rate.active)].compact
    end

    def out(allowed, causes, split: nil, provisional: allowed.open)
      Worked.new(causes, split, nil, nil, @name, Settling::NOTHING, NONE, provisional, allowed.open)
    end

    # What the ordinary lines cost by the rate's plan or its carriers.
    # @return [PlanPrice, LivePrice, nil] nil where there are none
    def ordinary(split, visit, listener)
      return if split.ordinary.empty?

      tell = listener && lambda do |code, amount, numbers|
        listener.note(:ordinary, code, amount: amount, setting: @settings.price, zone: @zone.name, **numbers)
      end
      return live.price(split.ordinary, visit.basket, visit.destination, visit.answers, tell) if live

      plan.price(split.ordinary, visit.basket, visit.destination, tell)
    end

    # Where the cart goes, more of its address may bring a price; to the other zones it goes in no case.
    def refused(allowed, split, ordinary, visit)
      causes = ordinary.refusals.map { |refusal| Cause.of(refusal, @settings.price) }
      fields = if visit.destination.known?
                 ordinary.refusals.select do |one|
                   MethodQuote::ADDRESS.include?(one.code)
                 end
               else
                 NONE
               end
      asked = fields.map { |one| one.numbers.fetch(:field, "country").to_sym }
      out(allowed, causes, split: split, provisional: (allowed.open + asked).uniq)
    end

    # @return [Array<Integer>] minor units of the ordinary part, then of each treated one
    def amounts(ordinary, treated)
      minor = ordinary ? ordinary.minor : 0
      treated.empty? ? [minor] : [minor, *treated.map(&:minor)]
    end

    # What offers take off the parts.
    def settled(visit, split, amounts, treated, listener)
      standings = visit.terms ? visit.terms.open_for(rate.method_id) : NONE
      settled = Settling::Settled.new(amounts)
      if standings.any?
        settling = Settling.new(standings, split.ordinary, amounts, treated.map(&:lines), @currency)
        settled = settling.settle { |lines| share(lines, visit) }
        settled.outcomes.each { |one| tell_outcome(one, listener) } if listener
      end
      listener&.note(:price, :"price.total", amount: money(settled.price))
      settled
    end

    def tell_outcome(outcome, listener)
      listener.note(:offers, :"offer.#{outcome.state}", amount: outcome.numbers[:taken], setting: outcome.offer.setting,
                                                        **outcome.numbers)
    end

    # What the ordinary part would be if the cart held only these lines.
    # @return [Integer, nil]
    def share(lines, visit)
      alone = Basket.new(lines, store)
      return live.price(visit.basket.lot(lines), alone, visit.destination, visit.answers).minor if live

      plan.price(alone.shipping, alone, visit.destination).minor
    end

    # Goods that pay their own way are priced alone: for them carriers are asked too.
    # @return [Array<Lot>]
    def sharing(visit, ordinary)
      return NONE if visit.terms.nil?

      choices = visit.terms.open_for(rate.method_id).filter_map { |standing| standing.offer.paying }
      found = choices.map { |paying| ordinary.lines.select { |line| paying.include?(line.kind) } }
      found.reject { |lines| lines.empty? || lines.size == ordinary.lines.size }
           .map { |lines| visit.basket.lot(lines) }
    end

    # What rules make of it.
    def judged(visit, split, settled, listener)
      orders = visit.terms ? visit.terms.ruling.orders(rate.method_id, split.ordinary) : NONE
      return Judging::Judged.new(settled.price, @name, false, NONE, NONE) if orders.empty?

      Judging.new(orders, @currency, listener).judge(settled.price, @name)
    end

    # Rules of which it is not known whether they hold, and what they could change here.
    def doubts(visit, split, settled)
      Doubts.of(visit.terms&.ruling, rate.method_id, split.ordinary) do |orders|
        Judging.new(orders, @currency, nil).judge(settled.price, @name)
      end
    end

    # A part of the zone in which the rate holds may take away what is there for nothing.
    def finished(allowed, split, ordinary, settled, judged, name, doubts)
      provisional = doubts ? (allowed.open + doubts.facts).uniq : allowed.open
      free = doubts ? doubts.free? : judged.causes.empty? && judged.price.zero?
      freeing = [*doubts&.freeing, *(allowed.open if free)].uniq
      Worked.new(judged.causes, split, ordinary, judged.price, name, settled, judged.messages, provisional, freeing)
    end

    # The name that the shopper sees. An offer that acted may say what the method is called, unless a rule has: by the
    # price that is left, so that no name promises what is not so.
    def named(judged, settled, listener)
      offer = settled.acted.reverse_each.find { |one| one.label_at(judged.price) } if settled.acted.any?
      label = offer.label_at(judged.price) if offer && !judged.renamed
      tell_name(judged, offer, label, listener) if listener
      label || judged.name
    end

    def tell_name(judged, offer, label, listener)
      if label
        listener.note(:offers, :"offer.renamed", from: judged.name, to: label, offer: offer.name,
                                                 setting: { kind: "offer", id: offer.id, field: "label" })
      end
      return if rate.name.nil? || rate.name == shipping_method.name

      listener.note(:finish, :"finish.renamed", from: shipping_method.name, to: rate.name, setting: @settings.name)
    end

    def promised(worked)
      return worked.ordinary.days if live && worked.ordinary&.days && rate.live.promise == "carrier"

      delivery = shipping_method.delivery
      [delivery.least, delivery.most] if delivery&.least
    end
  end
end
