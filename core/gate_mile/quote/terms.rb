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

    # @return [Array<Verdict>] of all rules, in the merchant's order
    def verdicts = @book.rules.each_index.map { |at| Verdict.new(@book.rules[at], found[at], self) }

    # @return [Array<Rule>] those that do something
    def held
      @held ||= candidates.filter_map do |at|
        one = found[at]
        @book.rules[at] if one == true || (one.is_a?(Guess) && one.holds)
      end
    end

    # @return [Array<Array(Rule, Symbol)>] rules of which it is not known whether they hold, and the fact that decides
    def undecided
      @undecided ||= candidates.filter_map { |at| [@book.rules[at], found[at].fact] if found[at].is_a?(Guess) }
    end

    # Where a fact is not known: which one, and whether the rule holds as long as nothing is said of it.
    Guess = Struct.new(:fact, :holds)

    private

    def every_method = @every_method ||= @book.methods_in_order.map(&:id)

    # Places of the rules that may hold.
    def candidates = @candidates ||= @book.policies.rule_index.places(self).sort

    # What became of each rule: true, false or a {Guess}.
    def found
      @found ||= Array.new(@book.rules.size, false).tap do |found|
        candidates.each { |at| found[at] = test(@book.policies.rule_index.rest(at)) }
      end
    end

    def test(tree)
      one = tree.test(self)
      one.is_a?(Symbol) ? Guess.new(one, tree.holds?(self)) : one
    end
  end
end
