# frozen_string_literal: true

module GateMile
  # Settles the offers of one method: compared are all reached combinable ones together, in list order, and each reached
  # exclusive one alone; the lowest price counts, and among equals the one that stands higher in the list.
  class Settling
    # What became of one offer that names the method. state: :acted, :no_gain, :beaten, :below, :over, :unknown (the
    # goods do not say how much they come to) or :no_share (what goods that pay their own way would pay is not known);
    # numbers: what belongs to it.
    Outcome = Struct.new(:offer, :state, :numbers)

    # One offer's effect: amounts after it, and how it came about.
    Step = Struct.new(:standing, :amounts, :taken, :base, :share)
    private_constant :Step

    # @param run [Run]
    # @param terms [Terms]
    def initialize(run, terms)
      @run = run
      @terms = terms
      @treated = run.treated_parts
      @start = [run.ordinary, *@treated.map(&:last)]
      @shares = {}
    end

    # @return [Array<Outcome>] in the merchant's order; the run has its new amounts then
    def settle
      named = @terms.open.select { |standing| standing.offer.names?(@run.method.id) }
      return [] if named.empty?

      @outcomes = {}
      reached = named.select { |standing| reached?(standing) }
      best = best_of(candidates(reached))
      take(best) if best
      reached.each { |standing| @outcomes[standing] ||= beaten(standing) }
      named.map { |standing| @outcomes.fetch(standing) }
    end

    private

    def reached?(standing)
      lack = threshold(standing) || share(standing)
      return true if lack.nil?

      @outcomes[standing] = Outcome.new(standing.offer, *lack)
      false
    end

    def threshold(standing)
      wanted = standing.offer.threshold or return
      number = standing.amount(@run.ordinary_lines)
      return [:unknown, { measure: wanted.measure }] if number.nil?

      stand = wanted.stand(number)
      return if stand == :reached

      here = wanted.amount(number, @run.book.store)
      return [:over, { here: here, below: wanted.below.text }] if stand == :over

      [:below, { here: here, from: wanted.from.text, measure: wanted.measure,
                 remaining: wanted.amount(wanted.from.base - number, @run.book.store) }]
    end

    # What the goods that pay their own way would pay if the cart held only them.
    def share(standing)
      paying = standing.offer.paying or return
      @shares[standing] = own = own_share(paying)
      own ? nil : [:no_share, {}]
    end

    def own_share(paying)
      lines = @run.ordinary_lines.select { |line| paying.include?(line) }
      return Money.zero(@run.book.currency) if lines.empty?
      return @run.ordinary if lines.size == @run.ordinary_lines.size

      @run.rate.plan.price(lines, Basket.of_lines(lines, @run.book.store), @run.place).amount
    end

    # @return [Array<Array<Standing>>] what is compared, in the merchant's order
    def candidates(reached)
      together, alone = reached.partition { |standing| standing.offer.combines }
      list = [*alone.map { |standing| [standing] }, together].reject(&:empty?)
      list.sort_by { |candidate| reached.index(candidate.first) }
    end

    def best_of(candidates)
      candidates.map { |candidate| steps(candidate) }.min_by.with_index do |steps, at|
        [total(steps.last.amounts), at]
      end
    end

    def total(amounts) = amounts.sum(Money.zero(@run.book.currency))

    def steps(candidate)
      amounts = @start
      candidate.map do |standing|
        step = step(standing, amounts)
        amounts = step.amounts
        step
      end
    end

    def step(standing, amounts)
      share = @shares.fetch(standing, Money.zero(@run.book.currency))
      rest = amounts.first - [share, amounts.first].min
      reach = [rest, *own_reach(standing.offer, amounts.drop(1))]
      base = total(reach)
      taken = standing.offer.effect.takes(base)
      Step.new(standing, less(amounts, reach, taken), taken, base, share)
    end

    def own_reach(offer, amounts)
      amounts.each_with_index.map { |amount, at| own?(offer, at) ? amount : amount.with_minor(0) }
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
      @run.ordinary = steps.last.amounts.first
      @run.treated = total(steps.last.amounts.drop(1))
      steps.each do |step|
        state = step.taken.zero? ? :no_gain : :acted
        @outcomes[step.standing] = Outcome.new(step.standing.offer, state,
                                               { taken: step.taken, base: step.base, share: step.share })
      end
    end

    def beaten(standing)
      found = step(standing, @start)
      Outcome.new(standing.offer, :beaten, { price: total(found.amounts) })
    end
  end
end
