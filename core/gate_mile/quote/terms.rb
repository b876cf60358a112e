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

    # @return [Array<Verdict>] of all rules, in the merchant's order
    def verdicts = @verdicts ||= @book.rules.map { |rule| Verdict.new(rule, self) }

    # @return [Array<Verdict>] of rules that do something
    def held = @held ||= verdicts.select(&:held?)

    # @return [Array<Verdict>] of rules of which it is not known whether they hold
    def undecided = @undecided ||= verdicts.select(&:open)
  end
end
