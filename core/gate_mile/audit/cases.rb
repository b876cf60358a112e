# frozen_string_literal: true

module GateMile
  # Trees of conditions taken apart into cases: lists of plain conditions that hold together, each with whether it has
  # to hold. A tree holds where one of its cases does.
  module Cases
    # More cases than this are not looked at.
    MOST = 600

    # Raised where a tree has too many cases to look at.
    class TooMany < StandardError
    end

    class << self
      # @param wishes [Array<Array(Tree, Boolean)>] trees, each with whether it has to hold
      # @return [Array<Array<Array(Object, Boolean)>>]
      # @raise [TooMany]
      def of(wishes) = product(wishes.map { |tree, wanted| cases(tree, wanted) })

      private

      def cases(part, wanted)
        return atoms(part, wanted) unless part.is_a?(Tree)

        inner = part.parts.map { |one| cases(one, part.of == "none" ? !wanted : wanted) }
        together = part.of == "any" ? !wanted : wanted
        together ? product(inner) : inner.flatten(1)
      end

      def product(lists)
        lists.inject([[]]) do |found, list|
          raise TooMany if found.size * list.size > MOST

          found.flat_map { |one| list.map { |other| one + other } }
        end
      end

      # What must not lie between two bounds lies below the one or above the other.
      def atoms(part, wanted)
        return [[[part, wanted]]] if wanted

        case part
        when Condition::Measured then either(outside(part))
        when Condition::OnClock then either(part.fact == "date" ? days(part) : [rest(part)])
        else [[[part, false]]]
        end
      end

      def either(conditions) = conditions.map { |one| [[one, true]] }

      def outside(part)
        below = part.with(low: nil, low_in: true, high: part.low, high_in: !part.low_in) if part.low
        above = part.with(high: nil, high_in: true, low: part.high, low_in: !part.high_in) if part.high
        [below, above].compact
      end

      def days(part)
        before = part.with(first: nil, last: shifted(part.first, -1)) if part.first
        after = part.with(last: nil, first: shifted(part.last, 1)) if part.last
        [before, after].compact
      end

      def shifted(day, by) = (Date.iso8601(day) + by).iso8601

      def rest(part) = part.with(first: part.last, last: part.first)
    end
  end
end
