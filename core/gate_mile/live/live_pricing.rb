# frozen_string_literal: true

module GateMile
  # Prices lines by a rate's live answers: which requests it needs, and what comes of the answers.
  class LivePricing
    # What came out. amount: {Money} or nil; cost: what the carriers take, where an answer counts; days: [least, most]
    # or nil; steps: as of a plan's {PlanReading}; refusals: why there is no amount; age: seconds since the answer that
    # counts.
    Outcome = Struct.new(:amount, :cost, :days, :steps, :refusals, :age)
    # One service's answer that can be chosen.
    Candidate = Struct.new(:name, :price, :total, :days, :steps, :at, :age)
    # What a plan calls handling is a markup here.
    MARKUP = { "adjust.handling": :"live.markup" }.freeze
    private_constant :Candidate, :MARKUP

    # @param run [Run]
    # @param lines [Array<Line>] ordinary ones, at least one
    def initialize(run, lines)
      @run = run
      @rate = run.rate
      @live = run.rate.live
      @lines = lines
      @basket = lines.size == run.basket.shipping.size ? run.basket : Basket.of_lines(lines, run.book.store)
      @steps = []
    end

    # @return [Array<CarrierRequest>] none where the rate's own plan gives the price, or something is missing
    def requests
      return [] if own&.amount || obstacle

      @live.services.map(&:first).uniq.filter_map do |id|
        carrier = carrier(id)
        request(carrier) if carrier&.active
      end
    end

    # @return [Outcome]
    def price
      return by_plan if own&.amount
      return refused(obstacle) if obstacle
      return refused(Refusal.new(code: :live_waiting, incomplete: true, numbers: {})) if @run.answers.nil?

      loads.stand_ins.each { |numbers| @steps << [:"parcels.stand_in", nil, numbers] }
      candidates = answers
      chosen = @live.first_of(candidates) { |one| [one.price, one.days, one.at] }
      chosen ? settled(chosen, candidates) : fallen
    end

    private

    def store = @run.book.store
    def carrier(id) = @run.book.carriers.find { |one| one.id == id }

    # What the rate's own plan says, where it goes first.
    def own
      return unless @live.own == "instead" && @rate.plan

      @own ||= @rate.plan.price(@lines, @basket, @run.place)
    end

    def by_plan = Outcome.new(own.amount, nil, nil, [[:"live.own_first", nil, {}], *own.steps], [])
    def refused(*refusals) = Outcome.new(nil, nil, nil, @steps, refusals)

    # What keeps carriers from being asked.
    def obstacle
      return @obstacle if defined?(@obstacle)

      @obstacle = if store.ship_from.country.nil? then Refusal.new(code: :no_origin, incomplete: true, numbers: {})
                  elsif @run.place.address.country.nil? then Refusal.new(code: :address_decides, numbers: {})
                  else parcels.is_a?(Refusal) ? parcels : unweighed
                  end
    end

    def unweighed
      bare = parcels.reject(&:weight)
      bare.any? ? Refusal.new(code: :no_weight, incomplete: true, numbers: { names: bare.flat_map(&:names).uniq }) : nil
    end

    def parcels = @parcels ||= loads.parcels
    def loads = @basket.loads(@lines, store.basis, @rate.plan&.parcels || store.parcels, @lines)

    def request(carrier)
      codes = @live.services.select { |id, _| id == carrier.id }.map(&:last)
      CarrierRequest.new(carrier: carrier.id, services: codes, origin: store.ship_from, destination: @run.place.address,
                         parcels: parcels.map { |parcel| AskedParcel.of(parcel, store.currency) },
                         currency: store.currency, hazardous: @lines.any?(&:hazardous))
    end

    # Every service's answer, told; those that can be chosen.
    def answers
      @troubles = []
      @live.services.each_with_index.filter_map do |(id, code), at|
        carrier = carrier(id)
        name = "#{carrier&.name} #{carrier&.service_name(code)}"
        answer(carrier, code, name, at)
      end
    end

    def answer(carrier, code, name, at)
      reply = carrier&.active ? @run.answers[request(carrier)] : Reply.failed(:silent, nil)
      reply ||= Reply.failed(:silent, nil)
      said = reply.services[code]
      return trouble(reply.status, name, reply.said) if reply.status != :answered
      return trouble(:refused, name, nil) if said.nil?
      return trouble(said.status, name, said.said) if said.status != :ok
      return trouble(:unusable, name, "0") if said.total.zero?

      candidate(said, name, reply.age, at)
    end

    def trouble(status, name, said)
      @troubles << [status, said]
      @steps << [:"live.#{status}", nil, { service: name, said: said }]
      nil
    end

    def candidate(said, name, age, at)
      total = said.total
      steps = [[:"live.answer", total, { service: name, parcels: parcels.sum(&:times), age: age,
                                         days: said.days&.join("–") }]]
      marked = @live.adjustment.apply(total, markup_count) { |code, *step| steps << [MARKUP.fetch(code, code), *step] }
      @steps << steps.first
      Candidate.new(name, marked, total, said.days, steps.drop(1), at, age)
    end

    def markup_count
      case @live.adjustment.per
      when "unit" then @lines.sum(&:quantity)
      when "parcel" then parcels.sum(&:times)
      else 1
      end
    end

    def settled(chosen, candidates)
      @steps << [:"live.chosen", chosen.total, { service: chosen.name, how: @live.answer, of: candidates.size }]
      Outcome.new(chosen.price, chosen.total, chosen.days, @steps + chosen.steps, [], chosen.age)
    end

    # It is refused only where every service says no: as long as one of them is silent or talks nonsense, nobody knows.
    def kind_of_trouble
      found = @troubles.map(&:first)
      return :fault if found.include?(:fault)
      return :silent if found.empty? || found.include?(:silent)

      found.all?(:refused) ? :refused : :unusable
    end

    # Nobody answered: the ladder.
    def fallen
      trouble = kind_of_trouble
      said = @troubles.find { |status, _| status == trouble }&.last
      # A fault of our own leaves the merchant where a silent carrier does; it is told as what it is.
      fallback = @live.ladder.fetch(trouble == :fault ? :silent : trouble)
      numbers = { trouble: trouble, said: said }
      case fallback.kind
      when :amount
        Outcome.new(fallback.amount, nil, nil, @steps + [[:"live.fallback", fallback.amount, numbers]], [])
      when :plan then planned(numbers)
      else refused(Refusal.new(code: :live_failed, numbers: numbers))
      end
    end

    def planned(numbers)
      return refused(Refusal.new(code: :no_price, incomplete: true, numbers: {})) if @rate.plan.nil?

      found = @rate.plan.price(@lines, @basket, @run.place)
      Outcome.new(found.amount, nil, nil, @steps + [[:"live.fallback_plan", nil, numbers], *found.steps],
                  found.refusals)
    end
  end
end
