# frozen_string_literal: true

module GateMile
  # Settles the offers of one method: compared are all reached combinable ones together, in list order, and each reached
  # exclusive one alone; the lowest price counts, and among equals the one that stands higher in the list.
  class Settling
    NONE = [].freeze
    private_constant :NONE

    # What is left to pay.
    class Settled
      # @return [Array<Integer>] minor units of the ordinary part, then of each treated part
      attr_reader :amounts
      # @return [Array<Offer>] those that took something off, in the order in which they did
      attr_reader :acted

      # @param amounts [Array<Integer>]
      # @param acted [Array<Offer>]
      # @yieldreturn [Array<Outcome>] of all offers, put together when somebody asks for them
      def initialize(amounts, acted = NONE, &outcomes)
        @amounts = amounts
        @acted = acted
        @work = outcomes
      end

      # @return [Integer] minor units
      def price = amounts.sum

      # @return [Array<Outcome>] of the offers that name the method, in the merchant's order
      def outcomes = @outcomes ||= @work ? @work.call : NONE
    end

    # Of a method that was not priced.
    NOTHING = Settled.new(NONE)

    # One offer's effect in minor units: amounts after it, and how it came about.
    Step = Struct.new(:standing, :amounts, :taken, :base, :share)
    private_constant :Step

    # @param standings [Array<Standing>] of the offers that name the method and stand open to the cart
    # @param ordinary [Lot] the ordinary lines
    # @param amounts [Array<Integer>] minor units: of the ordinary part, then of each treated part
    # @param treated [Array<Array<Line>>] the lines of each treated part
    # @param currency [Currency]
    def initialize(standings, ordinary, amounts, treated, currency)
      @standings = standings
      @ordinary = ordinary
      @start = amounts
      @treated = treated
      @currency = currency
      @shares = {}.compare_by_identity
    end

    # @yieldparam lines [Array<Line>] goods that pay their own way
    # @yieldreturn [Integer, nil] what the ordinary part would be if the cart held only them
    # @return [Settled]
    def settle(&share)
      reached = @standings.select { |standing| standing.reached?(@ordinary) && shared?(standing, &share) }
      best = best_of(candidates(reached))
      return Settled.new(@start) { outcomes(NONE, {}) } if best.nil?

      acted = []
      amounts = applied(best) { |offer| acted << offer }
      Settled.new(amounts, acted) do
        outcomes(reached, steps(best).to_h { |step| [step.standing, taken(step)] }.compare_by_identity)
      end
    end

    private

    # Whether it is known what the goods that pay their own way would pay if the cart held only them.
    def shared?(standing, &)
      return true if standing.offer.paying.nil?

      @shares[standing] = own_share(standing.offer.paying, &)
      !@shares[standing].nil?
    end

    def own_share(paying)
      lines = @ordinary.lines.select { |line| paying.include?(line.kind) }
      return 0 if lines.empty?

      lines.size == @ordinary.lines.size ? @start.first : yield(lines)
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

    # @return [Array<Standing>, nil] the one that leaves least to pay, and of several the first
    def best_of(candidates)
      return candidates.first if candidates.size < 2

      best = least = nil
      candidates.each do |candidate|
        left = applied(candidate).sum
        if least.nil? || left < least
          best = candidate
          least = left
        end
      end
      best
    end

    # @yieldparam offer [Offer] that takes something off
    # @return [Array<Integer>] minor units that a candidate leaves of each part
    def applied(candidate)
      if @start.size > 1
        steps = steps(candidate)
        steps.each { |step| yield step.standing.offer unless step.taken.zero? } if block_given?
        return steps.last.amounts
      end

      amount = @start.first
      candidate.each do |standing|
        taken = standing.offer.effect.takes(@shares.empty? ? amount : rest(amount, share(standing)))
        next if taken.zero?

        amount -= taken
        yield standing.offer if block_given?
      end
      [amount]
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
      share = share(standing)
      reach = reach(standing.offer, amounts, share)
      base = reach.sum
      taken = standing.offer.effect.takes(base)
      Step.new(standing, less(amounts, reach, taken), taken, base, share)
    end

    def share(standing) = @shares.fetch(standing, 0)

    # Of the ordinary part, all that is no share.
    def rest(amount, share) = [amount - share, 0].max

    # How much of each part the offer can take: of own prices and fees what it falls on.
    def reach(offer, amounts, share)
      rest = rest(amounts.first, share)
      return [rest] if amounts.size == 1

      amounts.each_with_index.map do |amount, at|
        next rest if at.zero?

        own?(offer, at - 1) ? amount : 0
      end
    end

    def own?(offer, part)
      offer.own_prices && (offer.paying.nil? || @treated[part].none? { |line| offer.paying.include?(line.kind) })
    end

    # The ordinary part gives first, then own prices one after the other.
    def less(amounts, reach, taken)
      return amounts if taken.zero?
      return [amounts.first - taken] if amounts.size == 1

      amounts.each_with_index.map do |amount, at|
        gives = [taken, reach.fetch(at)].min
        taken -= gives
        amount - gives
      end
    end

    # @param reached [Array<Standing>]
    # @param told [Hash{Standing => Outcome}] of those that counted
    # @return [Array<Outcome>]
    def outcomes(reached, told)
      compared = reached.to_h { |standing| [standing, true] }.compare_by_identity
      @standings.map do |standing|
        told.fetch(standing) { compared.key?(standing) ? beaten(standing) : against(standing) }
      end
    end

    # What keeps it from being reached.
    def against(standing) = standing.lack(@ordinary) || Outcome.new(standing.offer, :no_share)

    def taken(step)
      Outcome.new(step.standing.offer, step.taken.zero? ? :no_gain : :acted) do
        { taken: money(step.taken), base: money(step.base), share: money(step.share) }
      end
    end

    # What the shopper would pay with it alone.
    def beaten(standing)
      Outcome.new(standing.offer, :beaten) { { price: money(step(standing, @start).amounts.sum) } }
    end

    def money(minor) = Money.new(minor, @currency)
  end
end
