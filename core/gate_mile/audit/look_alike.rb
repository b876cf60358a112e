# frozen_string_literal: true

module GateMile
  # Whether two codes are easily confused: by characters that look alike, one letter too many, or two letters swapped.
  # Codes that differ in a digit differ on purpose.
  module LookAlike
    SHORTEST = 5
    private_constant :SHORTEST

    class << self
      # @param one [String]
      # @param other [String]
      # @return [Boolean]
      def of?(one, other)
        one, other = [one, other].map { |code| Product.fold(code).upcase.gsub(/[\s_-]/, "") }
        return true if one == other || seen(one) == seen(other)
        return false if one.gsub(/\D/, "") != other.gsub(/\D/, "") || [one, other].map(&:length).min < SHORTEST

        missing?(*[one, other].sort_by(&:length)) || swapped?(one, other)
      end

      private

      def seen(code) = code.tr("OQILSZB", "0011528")

      def missing?(short, long)
        long.length == short.length + 1 && long.length.times.any? { |at| long[0, at] + long[(at + 1)..] == short }
      end

      def swapped?(one, other)
        differing = one.length == other.length ? one.length.times.reject { |at| one[at] == other[at] } : []
        differing.size == 2 && differing[1] == differing[0] + 1 && one[differing[0]] == other[differing[1]] &&
          one[differing[1]] == other[differing[0]]
      end
    end
  end
end
