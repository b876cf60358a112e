# frozen_string_literal: true

module GateMile
  # What a book says beyond its rates: customer groups, coupons, offers and rules, each list in the merchant's order.
  class Policies < Value.of(:groups, :coupons, :offers, :rules)
    LISTS = %w[groups coupons offers rules].freeze

    def initialize(groups: [], coupons: [], **)
      @made = {}
      @groups_by_name = groups.to_h { |group| [Product.fold(group.name.to_s), group] }
      @coupons_by_code = coupons.to_h { |coupon| [Product.fold(coupon.code.to_s), coupon] }
      super
    end

    NONE = new(offers: [], rules: [])

    # @param lists [Hash] some of the lists, of anything that has an id
    # @return [Struct] what {TermsConsistency} looks at
    def self.for_check(**lists) = Struct.new(*members_named).new(*members_named.map { |name| lists.fetch(name, []) })

    def self.members_named = LISTS.map(&:to_sym)
    private_class_method :members_named

    # @return [RuleIndex] the rules made ready
    def rule_index = @made[:rules] ||= RuleIndex.new(rules)

    # @return [OfferIndex] the offers made ready
    def offer_index = @made[:offers] ||= OfferIndex.new(offers)

    # @param name [String] as codes are compared
    # @return [CustomerGroup, nil]
    def group_named(name) = @groups_by_name[Product.fold(name)]

    # @param code [String] as codes are compared
    # @return [Coupon, nil]
    def coupon(code) = @coupons_by_code[Product.fold(code)]
  end
end
