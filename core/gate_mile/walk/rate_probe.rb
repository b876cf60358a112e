# frozen_string_literal: true

module GateMile
  # Looks whether carts show every figure of a plan: whether some of them would pay another price if it were a little
  # higher. What endings, bounds and combining hide from the ordinary ones is looked for among many.
  class RateProbe
    QUANTITIES = [*1..12, 15, 20, 40].freeze
    # Added to what one unit is worth: figures that leave all kinds of remainders.
    MORE = [0, 1, 3, 7, 13, 29, 61, 127, 251, 509, 1021, 9_001].freeze
    # Carts that are looked through, of one kind of goods and of two.
    MOST = 1200
    PAIRS = 1200
    # Grams that are added to one unit, at most.
    GRAMS = 40_000
    # What one unit is worth more, at most, and how many are made at a time.
    CHANGE = 20_000
    SLICE = 100
    private_constant :QUANTITIES, :MORE, :MOST, :PAIRS, :GRAMS, :CHANGE, :SLICE

    # @param book [Book]
    # @param plan [Plan]
    # @param trials [Array<Trial>] that are proposed already
    # @param starts [Array<Trial>] from which others are made
    def initialize(book, plan, trials, starts)
      @book = book
      @plan = plan
      @known = visits(trials)
      @starts = starts
      @program = PlanProgram.new(plan, book.store)
      @made = []
    end

    # @return [Array<Trial>] that show what the others do not; figures that no cart shows have none
    def list
      found = []
      PlanMutants.new(@plan, @book.currency).list.each do |mutants|
        witness = witness(mutants) or next
        found << witness.trial
        @known << witness
      end
      found
    end

    private

    # A cart as a plan sees it, with its price.
    Visit = Struct.new(:trial, :basket, :destination, :price)
    private_constant :Visit

    # The smallest change that some cart shows is one that a known cart shows, or this one.
    # @return [Visit, nil]
    def witness(mutants)
      programs = mutants.map { |plan| PlanProgram.new(plan, @book.store) }
      # What does not show where it changes most shows nowhere.
      return if programs.size > 1 && !(shows?(programs.last, @known) || other_that(programs.last))

      programs.each do |program|
        return nil if shows?(program, @known)

        found = other_that(program)
        return found if found
      end
      nil
    end

    def visits(trials)
      trials.map do |trial|
        Visit.new(trial, @book.basket(trial.cart), Destination.new(trial.destination))
      end
    end

    def price(program, visit)
      found = program.price(visit.basket.shipping, visit.basket, visit.destination)
      found.refusals.any? ? nil : found.minor
    end

    def differs?(program, visit)
      visit.price ||= [price(@program, visit)]
      price(program, visit) != visit.price.first
    end

    def shows?(program, visits) = visits.any? { |visit| differs?(program, visit) }

    # The first of many others that pays another price by a program; carts are made as far as they are looked through.
    def other_that(program)
      slices.each_with_index do |trials, at|
        found = (@made[at] ||= visits(trials)).find { |visit| differs?(program, visit) }
        return found if found
      end
      nil
    end

    # Where the cart is priced as a whole, kinds make no difference.
    def slices = @slices ||= (@plan.group == "cart" ? singles : singles + pairs).each_slice(SLICE).to_a

    # Every other one is heavier and dearer, a little or much.
    def singles
      spread = Spread.new(1)
      spread.some(@starts.product(QUANTITIES, MORE), MOST).each_with_index.map do |(trial, units, more), at|
        at.even? ? worth(trial, more).first(quantity: units) : other(trial, spread).first(quantity: units)
      end
    end

    # Two and three kinds of goods, where each may have its own price.
    def pairs
      spread = Spread.new(2)
      spread.some(@starts.product(@starts, [1, 2, 3], [1, 2, 5]), PAIRS).map do |one, two, few, many|
        others = [two, *(spread.of(@starts) if spread.below(2).zero?)]
        named = others.each_with_index.flat_map { |trial, at| named(other(trial, spread), at + 2, many) }
        one.first(quantity: few).beside(*named)
      end
    end

    def named(trial, number, units)
      trial.goods.map { |goods| goods.with(name: "#{goods.name}, #{number}", quantity: units) }
    end

    def worth(trial, more) = trial.first(worth: trial.goods.first.worth + more)

    def other(trial, spread)
      goods = trial.goods.first
      heavier = spread.below(2).zero? ? 0 : spread.little(GRAMS) * Weight::UNITS["g"]
      trial.first(worth: goods.worth + spread.little(CHANGE), weight: goods.weight + heavier)
    end
  end
end
