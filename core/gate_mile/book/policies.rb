# frozen_string_literal: true

module GateMile
  # What a book says beyond its rates: customer groups, coupons, offers and rules, each list in the merchant's order.
  class Policies < Value.of(:groups, :coupons, :offers, :rules)
    LISTS = %w[groups coupons offers rules].freeze

    # @param reader [Reader] of the book
    # @param store [Hash] currency and time_zone, nil where they could not be read
    # @return [Policies]
    def self.read(reader, store)
      new(groups: reader.list("groups", required: false) { |item| CustomerGroup.read(item) },
          coupons: reader.list("coupons", required: false) { |item| Coupon.read(item, store[:time_zone]) },
          offers: reader.list("offers", required: false) { |item| Offer.read(item, store) },
          rules: reader.list("rules", required: false) { |item| Rule.read(item, store[:currency]) })
    end

    # @return [RuleIndex]
    attr_reader :rule_index

    def initialize(groups: [], coupons: [], rules: [], **)
      @rule_index = RuleIndex.new(rules)
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

    # @param name [String] as codes are compared
    # @return [CustomerGroup, nil]
    def group_named(name) = @groups_by_name[Product.fold(name)]

    # @param code [String] as codes are compared
    # @return [Coupon, nil]
    def coupon(code) = @coupons_by_code[Product.fold(code)]

    # @return [Hash] for JSON; empty lists are left out
    def dump = to_h.transform_keys(&:to_s).reject { |_, list| list.empty? }.transform_values { |list| list.map(&:dump) }
  end
end
