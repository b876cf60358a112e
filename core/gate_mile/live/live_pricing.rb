# frozen_string_literal: true

module GateMile
  # Some lines by a live rate, once: what keeps carriers from being asked, what they are asked, and what their answers
  # come to.
  class LivePricing
    # One service's answer that can be chosen.
    Candidate = Struct.new(:name, :price, :total, :days, :at, :age)
    # What a plan calls handling is a markup here.
    MARKUP = { "adjust.handling": :"live.markup" }.freeze
    private_constant :Candidate, :MARKUP

    # @param program [LiveProgram]
    # @param lot [Lot] ordinary lines, at least one
    # @param basket [Basket] that they are part of: the rate's own plan may count other lines of it, too
    # @param destination [Destination]
    def initialize(program, lot, basket, destination)
      @program = program
      @live = program.live
      @view = program.view
      @currency = program.store.currency
      @lot = lot
      @basket = basket
      @destination = destination
    end

    # @return [Array<CarrierRequest>]
    def requests
      return [] if own&.minor || obstacle

      @live.services.map(&:first).uniq.filter_map do |id|
        carrier = @program.carrier(id)
        request(carrier) if carrier&.active
      end
    end

    # @param answers [Hash{CarrierRequest => Reply}, nil]
    # @param listener [#call, nil]
    # @return [LivePrice]
    def price(answers, listener)
      return by_own_plan(listener) if own&.minor
      return LivePrice.refused(obstacle) if obstacle
      return LivePrice.refused(Refusal.new(:live_waiting)) if answers.nil?

      @view.stand_ins(@lot).each { |numbers| listener.call(:"parcels.stand_in", nil, numbers) } if listener
      heard = heard(answers, listener)
      candidates = heard.grep(Candidate)
      chosen = @live.first_of(candidates) { |one| [one.price, one.days, one.at] }
      chosen ? settled(chosen, candidates, listener) : fallen(heard, listener)
    end

    private

    # What the rate's own plan says, where it goes first.
    def own
      return unless @live.own == "instead" && @program.plan

      @own ||= by_plan
    end

    def by_plan(listener = nil) = @program.plan.price(@lot, @basket, @destination, listener)

    def by_own_plan(listener)
      if listener
        listener.call(:"live.own_first", nil, {})
        by_plan(listener)
      end
      LivePrice.new(minor: own.minor, refusals: [])
    end

    # What keeps carriers from being asked.
    def obstacle
      return @obstacle if defined?(@obstacle)

      @obstacle = if @program.store.ship_from.country.nil? then Refusal.new(:no_origin)
                  elsif @destination.address.country.nil? then Refusal.new(:address_decides)
                  else parcels.is_a?(Refusal) ? parcels : unweighed
                  end
    end

    def unweighed
      bare = parcels.reject(&:weight)
      bare.any? ? Refusal.new(:no_weight) { { names: bare.flat_map(&:names).uniq } } : nil
    end

    def parcels = @view.parcels(@lot)

    def request(carrier)
      codes = @live.services.select { |id, _| id == carrier.id }.map(&:last)
      CarrierRequest.new(carrier: carrier.id, services: codes, origin: @program.store.ship_from,
                         destination: @destination.address, currency: @currency,
                         parcels: parcels.map { |parcel| AskedParcel.of(parcel, @currency) },
                         hazardous: @lot.lines.any?(&:hazardous))
    end

    # @return [Array<Candidate, Array(Symbol, String)>] by service: what can be chosen, or the trouble and what was said
    def heard(answers, listener)
      replies = Hash.new { |known, carrier| known[carrier] = answers[request(carrier)] }.compare_by_identity
      @live.services.each_with_index.map do |(id, code), at|
        carrier = @program.carrier(id)
        name = "#{carrier&.name} #{carrier&.service_name(code)}"
        said = answer((replies[carrier] if carrier&.active), code)
        next trouble(*said, name, listener) if said.is_a?(Array)

        candidate(said, name, replies[carrier].age, at, listener)
      end
    end

    # @return [ServiceAnswer, Array(Symbol, String)]
    def answer(reply, code)
      return [:silent, nil] if reply.nil?
      return [reply.status, reply.said] if reply.status != :answered

      said = reply.services[code]
      return [:refused, nil] if said.nil?
      return [said.status, said.said] if said.status != :ok

      said.total.zero? ? [:unusable, "0"] : said
    end

    def trouble(status, said, name, listener)
      listener&.call(:"live.#{status}", nil, { service: name, said: said })
      [status, said]
    end

    def candidate(said, name, age, at, listener)
      total = said.total
      listener&.call(:"live.answer", total, { service: name, parcels: parcels.sum(&:times), age: age,
                                              days: said.days&.join("–") })
      Candidate.new(name, Money.new(marked(total), @currency), total, said.days, at, age)
    end

    def marked(total, listener = nil)
      @live.adjustment.apply(total.minor, markup_count, @currency, listener: listener)
    end

    def markup_count
      case @live.adjustment.per
      when "unit" then @lot.quantity
      when "parcel" then parcels.sum(&:times)
      else 1
      end
    end

    def settled(chosen, candidates, listener)
      if listener
        listener.call(:"live.chosen", chosen.total, { service: chosen.name, how: @live.answer, of: candidates.size })
        marked(chosen.total, ->(code, *step) { listener.call(MARKUP.fetch(code, code), *step) })
      end
      LivePrice.new(minor: chosen.price.minor, refusals: [], cost: chosen.total, days: chosen.days, age: chosen.age)
    end

    # It is refused only where every service says no: as long as one of them is silent or talks nonsense, nobody knows.
    def kind_of_trouble(troubles)
      found = troubles.map(&:first)
      return :fault if found.include?(:fault)
      return :silent if found.empty? || found.include?(:silent)

      found.all?(:refused) ? :refused : :unusable
    end

    # Nobody answered: the ladder.
    def fallen(troubles, listener)
      trouble = kind_of_trouble(troubles)
      # A fault of our own leaves the merchant where a silent carrier does; it is told as what it is.
      fallback = @live.ladder.fetch(trouble == :fault ? :silent : trouble)
      numbers = { trouble: trouble, said: troubles.find { |status, _| status == trouble }&.last }
      case fallback.kind
      when :amount
        listener&.call(:"live.fallback", fallback.amount, numbers)
        LivePrice.new(minor: fallback.amount.minor, refusals: [])
      when :plan then planned(numbers, listener)
      else LivePrice.refused(Refusal.new(:live_failed) { numbers })
      end
    end

    def planned(numbers, listener)
      return LivePrice.refused(Refusal.new(:no_price)) if @program.plan.nil?

      listener&.call(:"live.fallback_plan", nil, numbers)
      found = by_plan(listener)
      LivePrice.new(minor: found.minor, refusals: found.refusals)
    end
  end
end
