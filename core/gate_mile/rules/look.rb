# frozen_string_literal: true

module GateMile
  # One look at the rules of a book in some circumstances. A condition that stands in several rules is tested once.
  class Look
    # A {Tree} made ready. parts: numbers of conditions, and nodes; settling: the truth of a part that settles it;
    # settled: what it is then; otherwise: what it is where nothing settles it and everything is known.
    Node = Struct.new(:parts, :settling, :settled, :otherwise) do
      # @param tree [Tree]
      # @yieldparam condition [Object]
      # @yieldreturn [Integer] its number
      # @return [Node]
      def self.of(tree, &number)
        parts = tree.parts.map { |part| part.is_a?(Tree) ? of(part, &number) : yield(part) }
        new(parts.freeze, tree.settling, tree.settled, tree.otherwise).freeze
      end
    end

    # @param nodes [Array<Node>] of the rules, each at its place
    # @param conditions [Array<Object>] by their numbers
    # @param circumstances [Circumstances]
    def initialize(nodes, conditions, circumstances)
      @nodes = nodes
      @conditions = conditions
      @circumstances = circumstances
      @known = []
    end

    # @param place [Integer] of a rule that {RuleIndex} found
    # @return [Truth] whether it holds
    def test(place) = tested(@nodes[place])

    # The same where a fact that is not known counts as not holding.
    # @param place [Integer]
    # @return [Boolean]
    def holds?(place) = held(@nodes[place]).yes?

    private

    # A loop rather than a block for each part: a cart may be looked at by a thousand rules.
    def tested(node)
      open = nil
      parts = node.parts
      at = 0
      while at < parts.size
        part = parts[at]
        found = part.is_a?(Integer) ? @known[part] || condition(part) : tested(part)
        return node.settled if found.equal?(node.settling)

        open ||= found if found.open?
        at += 1
      end
      open || node.otherwise
    end

    def held(node)
      settles = node.parts.any? do |part|
        found = part.is_a?(Integer) ? Truth.of(condition(part).yes?) : held(part)
        found.equal?(node.settling)
      end
      settles ? node.settled : node.otherwise
    end

    def condition(number) = @known[number] ||= @conditions[number].test(@circumstances)
  end
end
