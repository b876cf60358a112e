# frozen_string_literal: true

module GateMile
  # Carts that stand on both sides of every condition of a rule, the others being as they must be for it to count.
  class RuleWalk
    # @param book [Book]
    # @param rule [Rule]
    # @param zone [Zone]
    # @param situations [Situations]
    # @param base [Trial] an ordinary cart of the zone
    def initialize(book, rule, zone, situations, base)
      @book = book
      @rule = rule
      @situations = situations
      @usual = base.document["lines"].first
      @here = Tree.new(of: "all", parts: [Condition::OneOf.new(fact: "zone", of: [zone.id])])
      @setting = { kind: "rule", id: rule.id, field: "when" }
    end

    # @yieldparam situation [Situations::Situation]
    # @yieldparam reason [Hash]
    # @return [void]
    def each(&)
      tell(:holds, [@rule.tree, true], &)
      @rule.tree.leaves.each do |leaf|
        tell(:with, [@rule.tree, true], [alone(leaf), true], fact: leaf.fact, &)
        tell(:without, [@rule.tree, false], [alone(leaf), false], fact: leaf.fact, &)
        sides(leaf, &)
      end
    end

    # @param other [Rule]
    # @yieldparam situation [Situations::Situation]
    # @yieldparam reason [Hash]
    # @return [void]
    def together(other, &) = tell(:both, [@rule.tree, true], [other.tree, true], other: other.name, &)

    private

    def alone(leaf) = Tree.new(of: "all", parts: [leaf])

    def tell(code, *wishes, **numbers)
      wishes = [[@here, true], *wishes]
      found = @situations.find(wishes)
      return unless found.is_a?(Situations::Situation)

      fuller = fuller(found)
      yield @situations.shown?(fuller, wishes) ? fuller : found,
            { code: :"rule_#{code}", setting: @setting, rule: @rule.name, **numbers }
    end

    # Where the conditions leave weight, value and size open, they are those of an ordinary cart.
    def fuller(situation)
      lines = situation.cart["lines"].map do |line|
        next line if line["sku"]

        weight = Weight.parse(line["weight"]).zero? ? @usual["weight"] : line["weight"]
        price = line["unit_price"].to_r.zero? ? @usual["unit_price"] : line["unit_price"]
        { "size" => @usual["size"], **line, "weight" => written(weight), "unit_price" => price }
      end
      Situations::Situation.new(situation.cart.merge("lines" => lines), situation.at)
    end

    # In the shop's unit, where that is exact.
    def written(weight)
      exact = Weight.parse(weight)
      text = exact.as(@book.store.weight_unit).to_s
      Weight.parse(text) == exact ? text : weight
    end

    # At, below and above its bounds, and the first and last minutes of its hours.
    def sides(leaf, &)
      case leaf
      when Condition::Measured then bounds(leaf, &)
      when Condition::OnClock then hours(leaf, &)
      end
    end

    def bounds(leaf, &)
      gauge = Gauge.new(leaf.fact, @book.currency)
      [leaf.low, leaf.high].compact.each do |bound|
        Edge.of(gauge, bound, @setting).sides.each do |side, number|
          exact = Boundary.new(base: number, text: gauge.write(number))
          only = leaf.with(low: exact, low_in: true, high: exact, high_in: true)
          [true, false].each do |holds|
            tell(:bound, [@rule.tree, holds], [alone(only), true], side: side, fact: leaf.fact, figure: bound.text, &)
          end
        end
      end
    end

    def hours(leaf, &)
      moments(leaf).each do |first, last, said|
        only = leaf.with(first: first, last: last)
        [true, false].each do |holds|
          tell(:clock, [@rule.tree, holds], [alone(only), true], fact: leaf.fact, figure: said, &)
        end
      end
    end

    # Single minutes and days, as stretches of their own.
    def moments(leaf)
      if leaf.fact == "date"
        days = [leaf.first&.then { |day| [day, shifted(day, -1)] }, leaf.last&.then { |day| [day, shifted(day, 1)] }]
        return days.compact.flatten.map { |day| [day, day, day] }
      end
      [leaf.first, minute(leaf.first, -1), minute(leaf.last, -1), leaf.last].map do |time|
        [time, minute(time, 1), time]
      end
    end

    def shifted(day, by) = (Date.iso8601(day) + by).iso8601

    def minute(time, by)
      total = (time[0, 2].to_i * 60) + time[3, 2].to_i + by
      format("%<hour>02d:%<minute>02d", hour: total / 60 % 24, minute: total % 60)
    end
  end
end
