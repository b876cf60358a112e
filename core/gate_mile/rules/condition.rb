# frozen_string_literal: true

module GateMile
  # Single conditions of rules. Each says of {Circumstances} whether it holds; that is not known where the cart does not
  # carry the fact.
  module Condition
    # A measure of the cart between two bounds, either of which may be left open.
    #
    # low, high: {Boundary} or nil; low_in, high_in: whether the bound itself belongs to it; basis: {Basis} or nil.
    class Measured < Value.of(:fact, :low, :low_in, :high, :high_in, :basis)
      BOUNDS = { low: [["from", true], ["over", false]], high: [["up_to", true], ["below", false]] }.freeze

      # @param circumstances [Circumstances]
      # @return [Truth]
      def test(circumstances)
        number = circumstances.measure(fact, basis)
        number.nil? ? Truth.open(:"no_#{fact}") : Truth.of(inside?(number))
      end

      # @param number [Integer, Rational]
      # @return [Boolean]
      def inside?(number)
        return false if low && (low_in ? number < low.base : number <= low.base)

        high.nil? || (high_in ? number <= high.base : number < high.base)
      end

      # @param circumstances [Circumstances]
      # @return [String, nil] what it is there
      def here(circumstances) = circumstances.facts.written(fact, circumstances.measure(fact, basis))

      # @param store [Store]
      # @return [Boolean] whether it looks at the ordinary lines, which differ from method to method
      def by_ordinary?(store) = fact == "value" && store.basis_for(basis).lines == "ordinary"
    end

    # What goods are in the cart. lines: "any" line of the cart is of these, or "every" line that ships.
    class OfGoods < Value.of(:fact, :of, :lines)
      LINES = %w[any every].freeze

      def initialize(fact: nil, of: nil, lines: nil)
        @choice = GoodsChoice.new(classes: [], tags: [], skus: [], hazardous: false)
                             .with(**(case fact
                                      when "class" then { classes: of }
                                      when "tag" then { tags: of }
                                      when "product" then { skus: of }
                                      else { hazardous: true }
                                      end))
        super
      end

      # @param circumstances [Circumstances]
      # @return [Truth]
      def test(circumstances)
        facts = circumstances.facts
        return Truth.of(@choice.in?(facts.goods)) if lines == "any"

        Truth.of(facts.shipping_kinds.any? && facts.shipping_kinds.all? { |kind| @choice.include?(kind) })
      end

      # @param kind [GoodsKind]
      # @return [Boolean]
      def include?(kind) = @choice.include?(kind)

      # @param circumstances [Circumstances]
      # @return [String] the lines that make an "any" hold, or that stand against an "every"
      def here(circumstances)
        basket = circumstances.facts.basket
        found = if lines == "any" then basket.lines.select { |line| @choice.include?(line.kind) }
                else basket.shipping.lines.reject { |line| @choice.include?(line.kind) }
                end
        found.map(&:label).uniq.first(5).join(", ")
      end
    end

    # The cart's zone, its customer group, its coupons, or the day of the week: one of a list.
    class OneOf < Value.of(:fact, :of)
      # @param circumstances [Circumstances]
      # @return [Truth]
      def test(circumstances)
        Truth.of(case fact
                 when "zone" then of.include?(circumstances.zone.id)
                 when "group" then of.include?(circumstances.facts.group)
                 when "weekday" then of.include?(circumstances.facts.weekday)
                 else circumstances.facts.coupons.intersect?(of)
                 end)
      end

      # @param circumstances [Circumstances]
      # @return [String]
      def here(circumstances) = values(circumstances).join(", ")

      private

      def values(circumstances)
        case fact
        when "zone" then [circumstances.zone.id]
        when "group" then [circumstances.facts.group].compact
        when "coupon" then circumstances.facts.coupons
        else [circumstances.facts.weekday]
        end
      end
    end

    # Hours of the day or days of the year, on the store's clock. Hours run up to just before the last, perhaps over
    # midnight; days include the last.
    class OnClock < Value.of(:fact, :first, :last)
      KEYS = { "time" => %w[from until], "date" => %w[first last] }.freeze
      TIME = /\A([01]\d|2[0-3]):[0-5]\d\z/
      private_constant :TIME

      # @param circumstances [Circumstances]
      # @return [Truth]
      def test(circumstances) = Truth.of(inside?(here(circumstances)))

      # @param now [String] a time or a date
      # @return [Boolean]
      def inside?(now)
        return (first.nil? || now >= first) && (last.nil? || now <= last) if fact == "date"

        first < last ? now >= first && now < last : now >= first || now < last
      end

      # @param circumstances [Circumstances]
      # @return [String]
      def here(circumstances) = fact == "date" ? circumstances.facts.date : circumstances.facts.time
    end

    # What an address says; address: "delivery" or "billing"; country: of regions and postcodes.
    class OfAddress < Value.of(:fact, :of, :country, :address)
      ADDRESSES = %w[delivery billing].freeze
      SHORT = 6

      def initialize(fact: nil, of: nil, country: nil, address: nil)
        @structured = Postcode.structured?(country)
        @index = ClauseIndex.new(country, of.map { |clause| [clause, 0] }) if fact == "postcode" && country && of
        super
      end

      # @param circumstances [Circumstances]
      # @return [Truth]
      def test(circumstances)
        return po_box(circumstances.address(address)) if fact == "po_box"

        place = circumstances.place(address)
        return missing("country") if place.country.nil?
        return Truth.of(of.include?(place.country)) if fact == "country"
        return Truth::NO if place.country != country

        fact == "region" ? region(place) : postcode(place)
      end

      # @param circumstances [Circumstances]
      # @return [String]
      def here(circumstances)
        found = circumstances.address(address)
        fact == "po_box" ? found.lines.to_a.join(", ") : found[fact].to_s
      end

      private

      # A short list is sooner read than looked up.
      def listed?(code)
        return @index.matching(code).any? if of.size > SHORT

        of.any? { |clause| clause.match?(code, @structured) }
      end

      def missing(field) = Truth.open(address == "billing" ? :"billing_#{field}" : field)

      def po_box(found) = found.street.empty? ? missing("street") : Truth.of(found.po_box?)

      def region(place)
        return missing("region") if place.regions.nil?
        return Truth::YES if place.regions.any? { |code| of.include?(code) }

        # Only an outer region is known, and some inside it are named.
        inside = of.any? { |code| Regions.chain(country, code).include?(place.regions.first) }
        inside ? missing("region") : Truth::NO
      end

      def postcode(place)
        code = place.postcode
        return missing("postcode") if code.nil?
        return Truth::YES if listed?(code)

        code.partial? && @index.possible(code).any? ? missing("postcode") : Truth::NO
      end
    end

    FACTS = { **%w[value weight quantity longest].to_h { |fact| [fact, Measured] },
              **%w[class tag product hazard].to_h { |fact| [fact, OfGoods] },
              **%w[zone group coupon weekday].to_h { |fact| [fact, OneOf] },
              **%w[time date].to_h { |fact| [fact, OnClock] },
              **%w[country region postcode po_box].to_h { |fact| [fact, OfAddress] } }.freeze

    # @param kind [Class] one of those above
    # @return [Array<String>] the facts that it looks at
    def self.facts(kind) = FACTS.select { |_, other| other == kind }.keys
  end
end
