# frozen_string_literal: true

module GateMile
  # Single conditions of rules. Each says of {Terms} whether it holds: true, false, or the name of the fact that the
  # cart does not carry.
  module Condition
    # @param reader [Reader] of a leaf of a tree
    # @param currency [Currency, nil]
    # @return [Object, nil] a condition; nil where its fact is not known
    def self.read(reader, currency)
      fact = reader.choice("fact", among: FACTS.keys)
      condition = fact && FACTS.fetch(fact).read(reader, fact, currency)
      fact ? reader.finish : nil
      condition
    end

    # A measure of the cart between two bounds, either of which may be left open.
    #
    # low, high: {Boundary} or nil; low_in, high_in: whether the bound itself belongs to it; basis: {Basis} or nil.
    class Measured < Value.of(:fact, :low, :low_in, :high, :high_in, :basis)
      BOUNDS = { low: [["from", true], ["over", false]], high: [["up_to", true], ["below", false]] }.freeze

      class << self
        # @return [Measured]
        def read(reader, fact, currency)
          gauge = currency && Gauge.new(fact, currency)
          low, low_in = bound(reader, :low, gauge)
          high, high_in = bound(reader, :high, gauge)
          reader.problem("from", :no_bound) if low.nil? && high.nil? && reader.problems.empty?
          basis = reader.object("basis", required: false)&.then { |item| Basis.own(item) } if fact == "value"
          new(fact: fact, low: low, low_in: low_in, high: high, high_in: high_in, basis: basis)
        end

        private

        def bound(reader, side, gauge)
          found = BOUNDS[side].map do |key, inside|
            value = reader.parsed(key, required: false) { |text| gauge && Boundary.parse(gauge, text) }
            [value, inside, key] if value
          end.compact
          reader.problem(found.last.last, :two_bounds) if found.size > 1
          found.first || [nil, true]
        end
      end

      # @param terms [Terms]
      # @return [Boolean, Symbol]
      def test(terms)
        number = terms.measure(fact, basis)
        number.nil? ? :"no_#{fact}" : inside?(number)
      end

      # @param number [Integer, Rational]
      # @return [Boolean]
      def inside?(number)
        return false if low && (low_in ? number < low.base : number <= low.base)

        high.nil? || (high_in ? number <= high.base : number < high.base)
      end

      # @param terms [Terms]
      # @return [String, nil] what it is there
      def here(terms) = terms.facts.written(fact, terms.measure(fact, basis))

      # @param store [Store]
      # @return [Boolean] whether it looks at the ordinary lines, which differ from method to method
      def by_ordinary?(store) = fact == "value" && store.basis_for(basis).lines == "ordinary"

      # @return [Hash] for JSON
      def dump
        { "fact" => fact, (low_in ? "from" : "over") => low&.text, (high_in ? "up_to" : "below") => high&.text,
          "basis" => basis&.dump }.compact
      end
    end

    # What goods are in the cart. lines: "any" line of the cart is of these, or "every" line that ships.
    class OfGoods < Value.of(:fact, :of, :lines)
      LINES = %w[any every].freeze

      # @return [OfGoods]
      def self.read(reader, fact, _currency)
        of = fact == "hazard" ? [] : Condition.list(reader)
        new(fact: fact, of: of, lines: reader.choice("lines", among: LINES, default: "any"))
      end

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

      # @param terms [Terms]
      # @return [Boolean]
      def test(terms)
        facts = terms.facts
        return @choice.in?(facts.goods) if lines == "any"

        facts.shipping_kinds.any? && facts.shipping_kinds.all? { |kind| @choice.include?(kind) }
      end

      # @param line [Line]
      # @return [Boolean]
      def include?(line) = @choice.include?(line)

      # @param terms [Terms]
      # @return [String] the lines that make an "any" hold, or that stand against an "every"
      def here(terms)
        basket = terms.facts.basket
        found = if lines == "any" then basket.lines.select { |line| @choice.include?(line) }
                else basket.shipping.reject { |line| @choice.include?(line) }
                end
        found.map(&:label).uniq.first(5).join(", ")
      end

      # @return [Hash] for JSON
      def dump = { "fact" => fact, "of" => (of if of.any?), "lines" => lines }.compact
    end

    # The cart's zone, its customer group, its coupons, or the day of the week: one of a list.
    class OneOf < Value.of(:fact, :of)
      # @return [OneOf]
      def self.read(reader, fact, _currency)
        new(fact: fact, of: fact == "weekday" ? weekdays(reader) : Condition.list(reader))
      end

      def self.weekdays(reader)
        list = reader.values("of", most: 7)
        list.each_with_index do |day, at|
          reader.problem(["of", at], :out_of_range, least: 1, most: 7) unless day.is_a?(Integer) && day.between?(1, 7)
        end
        reader.problem("of", :limit_empty) if list.empty? && reader.given?("of")
        list
      end
      private_class_method :weekdays

      # @param terms [Terms]
      # @return [Boolean]
      def test(terms)
        case fact
        when "zone" then of.include?(terms.zone.id)
        when "group" then of.include?(terms.facts.group)
        when "weekday" then of.include?(terms.facts.weekday)
        else terms.facts.coupons.intersect?(of)
        end
      end

      # @param terms [Terms]
      # @return [String]
      def here(terms) = values(terms).join(", ")

      # @return [Hash] for JSON
      def dump = to_h.transform_keys(&:to_s)

      private

      def values(terms)
        case fact
        when "zone" then [terms.zone.id]
        when "group" then [terms.facts.group].compact
        when "coupon" then terms.facts.coupons
        else [terms.facts.weekday]
        end
      end
    end

    # Hours of the day or days of the year, on the store's clock. Hours run up to just before the last, perhaps over
    # midnight; days include the last.
    class OnClock < Value.of(:fact, :first, :last)
      KEYS = { "time" => %w[from until], "date" => %w[first last] }.freeze
      TIME = /\A([01]\d|2[0-3]):[0-5]\d\z/
      private_constant :TIME

      class << self
        # @return [OnClock]
        def read(reader, fact, _currency)
          first, last = KEYS[fact].map { |key| moment(reader, key, fact) }
          reader.problem(KEYS[fact].first, :no_bound) if first.nil? && last.nil? && reader.problems.empty?
          wrong = first && last && (fact == "time" ? first == last : last < first)
          reader.problem(KEYS[fact].last, :ends_before) if wrong
          new(fact: fact, first: first, last: last)
        end

        private

        def moment(reader, key, fact)
          reader.parsed(key, required: fact == "time") do |text|
            good = text.is_a?(String) && (fact == "time" ? text.match?(TIME) : Calendar.date?(text))
            raise Malformed, fact == "time" ? :not_a_time : :not_a_date unless good

            text
          end
        end
      end

      # @param terms [Terms]
      # @return [Boolean]
      def test(terms)
        now = here(terms)
        return (first.nil? || now >= first) && (last.nil? || now <= last) if fact == "date"

        first < last ? now >= first && now < last : now >= first || now < last
      end

      # @param terms [Terms]
      # @return [String]
      def here(terms) = fact == "date" ? terms.facts.date : terms.facts.time

      # @return [Hash] for JSON
      def dump = { "fact" => fact, KEYS[fact].first => first, KEYS[fact].last => last }.compact
    end

    # What an address says; address: "delivery" or "billing"; country: of regions and postcodes.
    class OfAddress < Value.of(:fact, :of, :country, :address)
      ADDRESSES = %w[delivery billing].freeze
      SHORT = 6

      class << self
        # @return [OfAddress]
        def read(reader, fact, _currency)
          country = reader.parsed("country") { |text| Countries.parse(text) } if %w[region postcode].include?(fact)
          new(fact: fact, country: country, of: fact == "po_box" ? nil : list(reader, fact, country),
              address: reader.choice("address", among: ADDRESSES, default: "delivery"))
        end

        private

        def list(reader, fact, country)
          texts = Condition.list(reader)
          texts.each_with_index.filter_map do |text, at|
            case fact
            when "country" then Countries.parse(text)
            when "region" then country && Regions.parse(country, text)
            else country && Clause.parse(text, country)
            end
          rescue Malformed => e
            reader.problem(["of", at], e.code, **e.numbers)
          end
        end
      end

      def initialize(fact: nil, of: nil, country: nil, address: nil)
        @structured = Postcode.structured?(country)
        @index = ClauseIndex.new(country, of.map { |clause| [clause, 0] }) if fact == "postcode" && country && of
        super
      end

      # @param terms [Terms]
      # @return [Boolean, Symbol]
      def test(terms)
        found = terms.address(address)
        return po_box(found) if fact == "po_box"

        place = terms.place(address)
        return missing("country") if place.country.nil?
        return of.include?(place.country) if fact == "country"
        return false if place.country != country

        fact == "region" ? region(place) : postcode(place)
      end

      # @param terms [Terms]
      # @return [String]
      def here(terms)
        found = terms.address(address)
        fact == "po_box" ? found.lines.to_a.join(", ") : found[fact].to_s
      end

      # @return [Hash] for JSON
      def dump
        { "fact" => fact, "country" => country, "of" => of&.map(&:to_s), "address" => address }.compact
      end

      private

      # A short list is sooner read than looked up.
      def listed?(code)
        return @index.matching(code).any? if of.size > SHORT

        of.any? { |clause| clause.match?(code, @structured) }
      end

      def missing(field) = address == "billing" ? :"billing_#{field}" : field.to_sym

      def po_box(found) = found.street.empty? ? missing("street") : found.po_box?

      def region(place)
        return missing("region") if place.regions.nil?
        return true if place.regions.any? { |code| of.include?(code) }

        # Only an outer region is known, and some inside it are named.
        inside = of.any? { |code| Regions.chain(country, code).include?(place.regions.first) }
        inside ? missing("region") : false
      end

      def postcode(place)
        code = place.postcode
        return missing("postcode") if code.nil?
        return true if listed?(code)

        code.partial? && @index.possible(code).any? ? missing("postcode") : false
      end
    end

    FACTS = { **%w[value weight quantity longest].to_h { |fact| [fact, Measured] },
              **%w[class tag product hazard].to_h { |fact| [fact, OfGoods] },
              **%w[zone group coupon weekday].to_h { |fact| [fact, OneOf] },
              **%w[time date].to_h { |fact| [fact, OnClock] },
              **%w[country region postcode po_box].to_h { |fact| [fact, OfAddress] } }.freeze

    # @param reader [Reader]
    # @return [Array<String>] at least one
    def self.list(reader)
      reader.texts("of", most: 500).tap do |list|
        empty = list.empty? && reader.problems.none? { |problem| problem.pointer.start_with?(reader.at("of")) }
        reader.problem("of", :limit_empty) if empty
      end
    end
  end
end
