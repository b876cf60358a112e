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

    # @param reader [Reader] of an object with exactly one of "all", "any", "none"
    # @param currency [Currency, nil]
    # @param depth [Integer] how many trees it stands in, itself among them
    # @return [Tree, nil]
    def self.read(reader, currency, depth = 1)
      kinds = KINDS.select { |kind| reader.given?(kind, read: true) }
      return reader.problem(nil, :no_group) if kinds.size != 1
      return reader.problem(nil, :too_deep, most: DEEPEST) if depth > DEEPEST

      parts = reader.items(kinds.first, most: MOST).filter_map do |item|
        KINDS.any? { |kind| item.given?(kind) } ? read(item, currency, depth + 1) : Condition.read(item, currency)
      end
      reader.finish
      new(of: kinds.first, parts: parts)
    end

    def initialize(of: nil, **)
      # What of a part settles it, and what it is then.
      @settling = of != "all"
      @settled = of == "any"
      super
    end

    # @param terms [Terms]
    # @return [Boolean, Symbol] the name of a fact that would decide, where the cart does not carry it
    def test(terms)
      open = nil
      parts.each do |part|
        found = part.test(terms)
        return @settled if found == @settling

        open ||= found if found.is_a?(Symbol)
      end
      open || !@settled
    end

    # A condition on a fact that the cart does not carry does not hold.
    # @param terms [Terms]
    # @return [Boolean]
    def holds?(terms)
      case of
      when "all" then parts.all? { |part| part_holds?(part, terms) }
      when "any" then parts.any? { |part| part_holds?(part, terms) }
      else parts.none? { |part| part_holds?(part, terms) }
      end
    end

    # @param terms [Terms]
    # @return [Array<Array(Object, Boolean)>] the conditions that are to blame, each with whether it should have held
    def lacks(terms, wanted: true)
      blamed = parts.reject { |part| part_holds?(part, terms) == wants?(wanted) }
      blamed.flat_map do |part|
        part.is_a?(Tree) ? part.lacks(terms, wanted: wants?(wanted)) : [[part, wants?(wanted)]]
      end
    end

    # @return [Array<Object>] every condition in it
    def leaves = parts.flat_map { |part| part.is_a?(Tree) ? part.leaves : [part] }

    # @param store [Store]
    # @return [Boolean] whether one of its conditions looks at the ordinary lines of a method
    def by_ordinary?(store) = leaves.any? { |leaf| leaf.is_a?(Condition::Measured) && leaf.by_ordinary?(store) }

    # @return [Hash] for JSON
    def dump = { of => parts.map(&:dump) }

    private

    def wants?(wanted) = of == "none" ? !wanted : wanted

    def part_holds?(part, terms) = part.is_a?(Tree) ? part.holds?(terms) : part.test(terms) == true
  end
end
