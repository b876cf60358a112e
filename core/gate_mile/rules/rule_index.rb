# frozen_string_literal: true

module GateMile
  # Finds the rules that may hold of a cart without looking at all of them: where a rule asks for one of some goods,
  # zones, groups or coupons beside everything else, only carts with one of these can meet it.
  class RuleIndex
    GOODS = { "class" => :classes, "tag" => :tags, "product" => :skus }.freeze
    PEOPLE = %w[zone group coupon].freeze
    private_constant :GOODS, :PEOPLE

    # @param rules [Array<Rule>]
    def initialize(rules)
      @always = []
      @rests = rules.map(&:tree)
      @by_value = Hash.new { |hash, fact| hash[fact] = Hash.new { |list, value| list[value] = [] } }
      rules.each_with_index { |rule, at| put(rule, at) if rule.active }
    end

    # @param terms [Terms]
    # @return [Array<Integer>] places of those that may hold
    def places(terms)
      @always + @by_value.flat_map do |fact, places|
        values_of(fact, terms).flat_map { |value| places.key?(value) ? places[value] : [] }
      end.uniq
    end

    # @param place [Integer] of a rule that may hold
    # @return [Tree] what is left to look at: a rule that was found by one of its conditions meets that one
    def rest(place) = @rests[place]

    private

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

    def values_of(fact, terms)
      case fact
      when "zone" then [terms.zone.id]
      when "group" then [terms.facts.group]
      when "coupon" then terms.facts.coupons
      else terms.facts.goods[GOODS[fact]]
      end
    end
  end
end
