# frozen_string_literal: true

module GateMile
  # Finds the offers that could hold in a zone for a customer group with some coupons: what is off, or for others, is
  # never asked.
  class OfferIndex
    # @param offers [Array<Offer>] in the merchant's order
    def initialize(offers)
      @offers = offers.select(&:active)
      @places = {}.compare_by_identity
      @offers.each_with_index { |offer, at| @places[offer] = at }
      @gates = {}.compare_by_identity
      alike = {}
      @offers.each { |offer| @gates[offer] = alike[gate_of(offer)] ||= gate_of(offer) }
      @found = {}
    end

    # What lets a cart through, or keeps it out: the same object for offers that ask for the same.
    # @param offer [Offer] an active one
    # @return [Array]
    def gate(offer) = @gates.fetch(offer)

    # @return [Boolean] whether there is none at all
    def empty? = @offers.empty?

    # @param zone [String] id
    # @param group [String, nil] id
    # @param coupons [Array<String>] ids
    # @return [Array<Offer>] in the merchant's order
    def for(zone, group, coupons)
      return @offers if @offers.empty?

      # One step for each, whoever else looks: an array of both would not be (docs/decisions/0049-shared-lookups.md).
      open, by_coupon = (@found[zone] ||= {})[group] ||= looked_up(zone, group)
      return open if by_coupon.empty? || coupons.empty?

      asked = coupons.flat_map { |id| by_coupon.fetch(id, []) }.uniq
      asked.empty? ? open : (open + asked).sort_by { |offer| @places.fetch(offer) }
    end

    private

    def gate_of(offer) = [offer.promotions, offer.period, offer.blocking].freeze

    # @return [Array(Array<Offer>, Hash{String => Array<Offer>})] those without a coupon, and by coupon
    def looked_up(zone, group)
      here = @offers.select { |offer| offer.in_zone?(zone) && (offer.groups.nil? || offer.groups.include?(group)) }
      asking, open = here.partition(&:coupons)
      by_coupon = Hash.new { |found, id| found[id] = [] }
      asking.each { |offer| offer.coupons.each { |id| by_coupon[id] << offer } }
      [open.freeze, by_coupon.to_h.freeze]
    end
  end
end
