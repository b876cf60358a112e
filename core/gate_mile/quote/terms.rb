# frozen_string_literal: true

module GateMile
  # What offers and rules have to do with one cart in one zone: looked at once, whatever method is priced.
  class Terms
    # @return [Facts]
    attr_reader :facts
    # @return [Zone]
    attr_reader :zone

    # @param book [Book]
    # @param facts [Facts]
    # @param zone [Zone]
    # @param delivery [Address] where in the zone, as far as it is known
    def initialize(book, facts, zone, delivery)
      @book = book
      @facts = facts
      @zone = zone
      @addresses = { "delivery" => delivery, "billing" => facts.cart.billing }
      @places = {}
      @settled = {}.compare_by_identity
      @by_ordinary = {}
    end

    # @param which [String] "delivery" or "billing"
    # @return [Address]
    def address(which) = @addresses.fetch(which)

    # @param which [String]
    # @return [Place] the same, as it is compared
    def place(which) = @places[which] ||= Place.of(address(which))

    # @return [Array<Standing>] of all offers, in the merchant's order
    def standings = @standings ||= @book.offers.map { |offer| Standing.new(offer, facts, zone) }

    # @return [Array<Standing>] those that stand open to the cart
    def open = @open ||= standings.select(&:open?)

    # @param method [String] id
    # @return [Array<Standing>] those of them that name the method
    def open_for(method)
      @open_for ||= open.each_with_object(Hash.new { |found, id| found[id] = [] }) do |standing, found|
        (standing.offer.methods || every_method).each { |id| found[id] << standing }
      end
      @open_for.fetch(method, [])
    end

    # @param fact [String] value, weight, quantity or longest
    # @param basis [Basis, nil] of a value, as far as the condition says
    # @return [Integer, Rational, nil] in base units; of the ordinary lines those of the method that is looked at, or
    #   where there is none of all that ship
    def measure(fact, basis)
      return facts.measure(fact) unless fact == "value"

      basis = facts.store.basis_for(basis)
      return facts.total("value", basis) unless basis.lines == "ordinary"

      facts.amount("value", @ordinary || facts.basket.shipping, basis)
    end

    # @return [Array<Verdict>] of all rules, in the merchant's order; what looks at ordinary lines has held where it did
    #   at one method
    def verdicts
      @book.rules.each_index.map do |at|
        one, terms = @by_ordinary.map { |_, (terms, found)| [found[at], terms] }.max_by { |one, _| one == true ? 1 : 0 }
        Verdict.new(@book.rules[at], one.nil? ? found[at] : one, terms || self)
      end
    end

    # @param ordinary [Array<Line>] the ordinary lines of a method
    # @return [Array<Rule>] those that do something there
    def held(ordinary) = settled(ordinary).first

    # @param ordinary [Array<Line>]
    # @return [Array<Array(Rule, Symbol)>] rules of which it is not known whether they hold there, and the fact that
    #   decides
    def undecided(ordinary) = settled(ordinary).last

    # Where a fact is not known: which one, and whether the rule holds as long as nothing is said of it.
    Guess = Struct.new(:fact, :holds)

    protected

    # @param lines [Array<Line>]
    # @return [Terms] the same, at a method with these ordinary lines
    def at_method(lines) = dup.tap { |terms| terms.ordinary = lines }

    attr_writer :ordinary

    private

    def every_method = @every_method ||= @book.methods_in_order.map(&:id)

    # Places of the rules that may hold.
    def candidates = @candidates ||= @book.policies.rule_index.places(self).sort

    # @return [Array(Array<Rule>, Array)] what {#held} and {#undecided} tell, once for each set of ordinary lines
    def settled(ordinary)
      found = found_for(ordinary)
      @settled[found] ||= begin
        guesses = candidates.select { |at| found[at].is_a?(Guess) }
        [candidates.filter_map do |at|
          @book.rules[at] if found[at] == true || (found[at].is_a?(Guess) && found[at].holds)
        end,
         guesses.map { |at| [@book.rules[at], found[at].fact] }]
      end
    end

    # What became of each rule: true, false or a {Guess}.
    def found
      @found ||= Array.new(@book.rules.size, false).tap do |found|
        candidates.each { |at| found[at] = test(@book.policies.rule_index.rest(at)) }
      end
    end

    # The same at one method.
    def found_for(ordinary)
      varying = @book.rules_by_ordinary & candidates
      return found if varying.empty?

      (@by_ordinary[ordinary.map(&:object_id)] ||= begin
        terms = at_method(ordinary)
        [terms, found.dup.tap { |own| varying.each { |at| own[at] = terms.test(@book.policies.rule_index.rest(at)) } }]
      end).last
    end

    protected

    def test(tree)
      one = tree.test(self)
      one.is_a?(Symbol) ? Guess.new(one, tree.holds?(self)) : one
    end
  end
end
