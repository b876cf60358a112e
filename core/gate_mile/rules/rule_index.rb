# frozen_string_literal: true

module GateMile
  # All rules of a book made ready. It finds those that may hold of a cart without looking at all of them: where a rule
  # asks for one of some goods, zones, groups or coupons beside everything else, only carts with one of these can meet
  # it.
  class RuleIndex
    GOODS = { "class" => :classes, "tag" => :tags, "product" => :skus }.freeze
    PEOPLE = %w[zone group coupon].freeze
    private_constant :GOODS, :PEOPLE

    # @return [Array<Rule>] in the merchant's order
    attr_reader :rules

    # @param rules [Array<Rule>]
    def initialize(rules)
      @rules = rules
      @always = []
      @rests = rules.map(&:tree)
      @by_value = Hash.new { |hash, fact| hash[fact] = Hash.new { |list, value| list[value] = [] } }
      rules.each_with_index { |rule, at| put(rule, at) if rule.active }
      numbers = {}
      @nodes = @rests.map { |tree| Look::Node.of(tree) { |condition| numbers[condition] ||= numbers.size } }.freeze
      @conditions = numbers.keys.freeze
      freeze
    end

    # @param circumstances [Circumstances]
    # @return [Array<Integer>] places of those that may hold, in the merchant's order
    def places(circumstances)
      found = @by_value.flat_map do |fact, places|
        values_of(fact, circumstances).flat_map { |value| places.key?(value) ? places[value] : [] }
      end
      found.empty? ? @always : (@always + found).uniq.sort
    end

    # @param place [Integer]
    # @return [Tree] what is left to look at of a rule that was found
    def rest(place) = @rests[place]

    # @param circumstances [Circumstances]
    # @return [Look] at those of {#places}
    def look(circumstances) = Look.new(@nodes, @conditions, circumstances)

    private

    # A rule that was found by one of its conditions meets that one: what is left to look at are the others.
    def put(rule, at)
      asked = key_of(rule.tree)
      return @always << at if asked.nil?

      @rests[at] = rule.tree.with(parts: rule.tree.parts.reject { |part| part.equal?(asked) })
      values = GOODS.key?(asked.fact) ? asked.of.map { |text| folded(asked.fact, text) } : asked.of
      values.uniq.each { |value| @by_value[asked.fact][value] << at }
    end

    # The condition with the fewest values that has to hold in any case.
    def key_of(tree)
      return unless tree.is_a?(Tree) && tree.of == "all"

      tree.parts.select { |part| key?(part) }.min_by { |part| part.of.size }
    end

    def key?(part)
      return false if part.is_a?(Tree)

      PEOPLE.include?(part.fact) || (GOODS.key?(part.fact) && part.lines == "any")
    end

    def folded(fact, text) = fact == "class" ? text : Product.fold(text)

    def values_of(fact, circumstances)
      facts = circumstances.facts
      case fact
      when "zone" then [circumstances.zone.id]
      when "group" then [facts.group]
      when "coupon" then facts.coupons
      else facts.goods.all(GOODS[fact])
      end
    end
  end
end
