# frozen_string_literal: true

module GateMile
  # What offers and rules have to do with one cart in one zone: looked at once, whatever method is priced.
  class Terms
    # @return [Circumstances]
    attr_reader :circumstances

    # @param book [Book]
    # @param facts [Facts]
    # @param zone [Zone]
    # @param delivery [Address] where in the zone, as far as it is known
    def initialize(book, facts, zone, delivery)
      @book = book
      @circumstances = Circumstances.new(facts, zone, delivery)
    end

    # @return [Facts]
    def facts = circumstances.facts

    # @return [Zone]
    def zone = circumstances.zone

    # @return [Array<Standing>] of all offers, in the merchant's order
    def standings = @standings ||= @book.offers.map { |offer| Standing.new(offer, facts, zone) }

    # @return [Array<Standing>] those that stand open to the cart
    def open
      @open ||= @book.policies.offer_index.then do |index|
        passed = {}.compare_by_identity
        index.for(zone.id, facts.group, facts.coupons).filter_map do |offer|
          standing = Standing.new(offer, facts, zone)
          gate = index.gate(offer)
          passed[gate] = standing.passes? unless passed.key?(gate)
          standing if passed[gate] && standing.left?
        end
      end
    end

    # @param method [String] id
    # @return [Array<Standing>] those of them that name the method
    def open_for(method)
      return open if open.empty?

      @open_for ||= open.each_with_object({}) do |standing, found|
        (standing.offer.method_ids || @book.method_ids).each { |id| (found[id] ||= []) << standing }
      end
      @open_for.fetch(method, [])
    end

    # @return [Ruling]
    def ruling
      @ruling ||= Ruling.new(@book.policies.rule_index, circumstances, @book.method_ids, @book.rules_by_ordinary)
    end
  end
end
