# frozen_string_literal: true

module GateMile
  # What became of one method between two quotes of the same cart, and where the two reckonings part.
  #
  # method_id; name; before, after: {MethodQuote}s, nil where the zone has no such method; first: the {ReckoningStep}s
  # at which they part, before and after, either of which may be nil; cause: the {Cause} for which it is not there any
  # more, or nil.
  class Parting < Value.of(:method_id, :name, :before, :after, :first, :cause)
    class << self
      # @param before [Quote]
      # @param after [Quote]
      # @return [Array<Parting>] of every method that differs, in the order in which it stands now
      def all(before, after)
        old, new = [before, after].map { |quote| quote.method_quotes.to_h { |one| [one.method_id, one] } }
        (new.keys | old.keys).filter_map do |id|
          pair = [old[id], new[id]]
          of(id, *pair) unless alike?(*pair)
        end
      end

      private

      def alike?(one, other)
        one && other && said(one) == said(other)
      end

      def said(quote) = [quote.status, quote.price, quote.name, quote.messages]

      def of(id, before, after)
        cause = after&.causes&.first
        new(method_id: id, name: (after || before).name, before: before, after: after, cause: cause,
            first: cause ? [nil, nil] : first(before, after))
      end

      # Amounts that only follow from an earlier line are not where they part.
      def first(before, after)
        return [nil, nil] if before.nil? || after.nil?

        one, other = [before, after].map(&:reckoning)
        at = (0...[one.size, other.size].max).find { |index| one[index] != other[index] }
        at ? [one[at], other[at]] : [nil, nil]
      end
    end

    # @return [Hash, nil] where it comes from: `{ kind:, id:, field: }`
    def setting = first.last&.setting || cause&.setting || first.first&.setting
  end
end
