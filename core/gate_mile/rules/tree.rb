# frozen_string_literal: true

module GateMile
  # Conditions tied together: all of them, any of them or none of them. An empty "all" holds always, an empty "any"
  # never, an empty "none" always.
  #
  # of: "all", "any" or "none"; parts: conditions and trees.
  class Tree < Value.of(:of, :parts)
    KINDS = %w[all any none].freeze
    DEEPEST = 4
    MOST = 60

    def initialize(of: nil, **)
      @settling = Truth.of(of != "all")
      @settled = Truth.of(of == "any")
      @otherwise = Truth.of(of != "any")
      super
    end

    # @return [Truth] what of a part settles it
    attr_reader :settling
    # @return [Truth] what it is then
    attr_reader :settled
    # @return [Truth] what it is where nothing settles it
    attr_reader :otherwise

    # @yieldparam part [Object] a condition, or a tree in it
    # @yieldreturn [Truth]
    # @return [Truth] what its parts make of it, as far as they have to be looked at
    def settle
      open = nil
      parts.each do |part|
        found = yield part
        return settled if found.equal?(settling)

        open ||= found if found.open?
      end
      open || otherwise
    end

    # @param circumstances [Circumstances]
    # @return [Truth]
    def test(circumstances) = settle { |part| part.test(circumstances) }

    # A condition on a fact that the cart does not carry does not hold.
    # @param circumstances [Circumstances]
    # @return [Boolean]
    def holds?(circumstances)
      settle do |part|
        part.is_a?(Tree) ? Truth.of(part.holds?(circumstances)) : Truth.of(part.test(circumstances).yes?)
      end.yes?
    end

    # @param circumstances [Circumstances]
    # @return [Array<Array(Object, Boolean)>] the conditions that are to blame, each with whether it should have held
    def lacks(circumstances, wanted: true)
      blamed = parts.reject { |part| part_holds?(part, circumstances) == wants?(wanted) }
      blamed.flat_map do |part|
        part.is_a?(Tree) ? part.lacks(circumstances, wanted: wants?(wanted)) : [[part, wants?(wanted)]]
      end
    end

    # @param fact [String]
    # @param id [String] that goes
    # @return [Array(Tree, Boolean)] the tree without it, and whether a condition named only that
    def without(fact, id)
      lost = false
      left = parts.filter_map do |part|
        kept, deeper = part.is_a?(Tree) ? part.without(fact, id) : less(part, fact, id)
        lost ||= deeper
        kept
      end
      [with(parts: left), lost]
    end

    # @return [Array<Object>] every condition in it
    def leaves = parts.flat_map { |part| part.is_a?(Tree) ? part.leaves : [part] }

    # @param store [Store]
    # @return [Boolean] whether one of its conditions looks at the ordinary lines of a method
    def by_ordinary?(store) = leaves.any? { |leaf| leaf.is_a?(Condition::Measured) && leaf.by_ordinary?(store) }

    private

    def less(condition, fact, id)
      return [condition, false] unless condition.fact == fact && condition.of.include?(id)

      left = condition.of - [id]
      left.empty? ? [nil, true] : [condition.with(of: left), false]
    end

    def wants?(wanted) = of == "none" ? !wanted : wanted

    def part_holds?(part, circumstances)
      part.is_a?(Tree) ? part.holds?(circumstances) : part.test(circumstances).yes?
    end
  end
end
