# frozen_string_literal: true

module GateMile
  # Settles the offers of one method: compared are all reached combinable ones together, in list order, and each reached
  # exclusive one alone; the lowest price counts, and among equals the one that stands higher in the list.
  class Settling
    # What became of one offer that names the method. state: :acted, :no_gain, :beaten, :below, :over, :unknown (the
    # goods do not say how much they come to) or :no_share (what goods that pay their own way would pay is not known);
    # numbers: what belongs to it.
    Outcome = Struct.new(:offer, :state, :numbers) do
      # @return [ReckoningStep]
      def told
        @told ||= ReckoningStep.new(step: :offers, code: :"offer.#{state}", amount: numbers[:taken],
                                    numbers: numbers, setting: offer.setting)
      end
    end

    # One offer's effect in minor units: amounts before and after it, and how it came about.
    Step = Struct.new(:standing, :base_amounts, :amounts, :taken, :base, :share)
    private_constant :Step

    # @param run [Run]
    # @param terms [Terms]
    def initialize(run, terms)
      @run = run
      @terms = terms
      @treated = run.treated_parts
      @start = [run.ordinary, *@treated.map(&:last)].map(&:minor)
      @shares = {}.compare_by_identity
    end

    # @return [Array<Outcome>] in the merchant's order; the run has its new amounts then
    def settle
      named = @terms.open_for(@run.method.id)
      return [] if named.empty?

      @outcomes = {}.compare_by_identity
      reached = named.select { |standing| reached?(standing) }
      compare(candidates(reached).map { |candidate| steps(candidate) })
      named.map { |standing| @outcomes.fetch(standing) }
    end

    private

    # The lowest counts; the others are told with what they would have come to.
    def compare(tried)
      best = tried.min_by.with_index { |steps, at| [steps.last.amounts.sum, at] } or return
      take(best)
      tried.reject { |steps| steps.equal?(best) }.flatten.each { |step| @outcomes[step.standing] = beaten(step) }
    end

    def reached?(standing)
      outcome = standing.lack(@run.ordinary_lines) || share(standing)
      @outcomes[standing] = outcome if outcome
      outcome.nil?
    end

    # What the goods that pay their own way would pay if the cart held only them.
    def share(standing)
      paying = standing.offer.paying or return
      own = own_share(paying) or return Outcome.new(standing.offer, :no_share, { offer: standing.offer.name })
      @shares[standing] = own.minor
      nil
    end

    def own_share(paying)
      lines = @run.ordinary_lines.select { |line| paying.include?(line) }
      return Money.zero(@run.book.currency) if lines.empty?
      return @run.ordinary if lines.size == @run.ordinary_lines.size

      return LivePricing.new(@run, lines).price.amount if @run.rate.live

      @run.rate.plan.price(lines, Basket.of_lines(lines, @run.book.store), @run.place).amount
    end

    # @return [Array<Array<Standing>>] what is compared, in the merchant's order
    def candidates(reached)
      together = reached.select { |standing| standing.offer.combines }
      # Those that combine stand where the first of them does.
      reached.filter_map do |standing|
        next [standing] unless standing.offer.combines

        together if standing.equal?(together.first)
      end
    end

    def steps(candidate)
      amounts = @start
      candidate.map do |standing|
        step = step(standing, amounts)
        amounts = step.amounts
        step
      end
    end

    def step(standing, amounts)
      share = @shares.fetch(standing, 0)
      reach = [[amounts.first - share, 0].max, *own_reach(standing.offer, amounts)]
      base = reach.sum
      taken = standing.offer.effect.takes(money(base)).minor
      Step.new(standing, amounts, less(amounts, reach, taken), taken, base, share)
    end

    def money(minor) = Money.new(minor, @run.book.currency)

    def own_reach(offer, amounts)
      amounts.drop(1).each_with_index.map { |amount, at| own?(offer, at) ? amount : 0 }
    end

    # Whether the offer falls on an own price or fee.
    def own?(offer, at)
      return false unless offer.own_prices

      offer.paying.nil? || @treated[at].first.none? { |line| offer.paying.include?(line) }
    end

    # The ordinary part gives first, then own prices one after the other.
    def less(amounts, reach, taken)
      amounts.zip(reach).map do |amount, most|
        gives = [taken, most].min
        taken -= gives
        amount - gives
      end
    end

    def take(steps)
      @run.ordinary = money(steps.last.amounts.first)
      @run.treated = money(steps.last.amounts.drop(1).sum)
      steps.each do |step|
        state = step.taken.zero? ? :no_gain : :acted
        offer = step.standing.offer
        numbers = { offer: offer.name, taken: money(step.taken), base: money(step.base), share: money(step.share) }
        @outcomes[step.standing] = Outcome.new(offer, state, numbers)
      end
    end

    # What the shopper would pay with it alone.
    def beaten(step)
      alone = step.base_amounts.equal?(@start) ? step : step(step.standing, @start)
      offer = step.standing.offer
      Outcome.new(offer, :beaten, { offer: offer.name, price: money(alone.amounts.sum) })
    end
  end
end
