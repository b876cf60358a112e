# frozen_string_literal: true

module GateMile
  # The clauses of all areas of one country, laid out so that finding the areas whose clauses match a postcode takes
  # as long as the postcode is, however many clauses there are.
  class ClauseIndex
    NOTHING = [].freeze
    private_constant :NOTHING

    # @param country [String]
    # @param pairs [Array<Array(Clause, Integer)>] each clause with the number of its area
    def initialize(country, pairs)
      @country = country
      @structured = Postcode.structured?(country)
      @pairs = pairs
      kinds = pairs.group_by { |clause, _| clause.kind }
      @codes = gather(kinds.fetch(:code, NOTHING))
      @patterns = gather(kinds.fetch(:pattern, NOTHING))
      @masks = @patterns.keys.map { |key| mask(key) }.uniq.group_by(&:length)
      @ranges = kinds.fetch(:range, NOTHING).group_by do |clause, _|
        clause.key
      end.transform_values { |list| Spans.new(list) }
    end

    # @return [Boolean]
    def empty? = @pairs.empty?

    # @param postcode [Postcode]
    # @return [Hash{Integer => Clause}] the areas with a clause that matches, each with one that does
    def matching(postcode)
      found = {}
      postcode.codes.each { |code| note(found, @codes[code]) }
      postcode.levels.each do |level|
        @masks.fetch(level.length, NOTHING).each { |mask| note(found, @patterns[masked(level, mask)]) } if @masks.any?
        group, number = Clause.group(level, @structured) if @ranges.any?
        note(found, @ranges[group]&.at(number)) if group
      end
      found
    end

    # @param postcode [Postcode] the beginning of one
    # @return [Array<Integer>] areas with a clause that may match once the rest is known
    def possible(postcode)
      @pairs.select { |clause, _| clause.may_match?(postcode, @country) }.map(&:last).uniq
    end

    private

    def gather(pairs) = pairs.group_by { |clause, _| clause.key }

    def note(found, pairs) = pairs&.each { |clause, area| found[area] ||= clause }

    # "IV#" has the mask "..#": the places where characters are taken by their kind.
    def mask(key) = key.gsub(/[^#@]/, ".")

    def masked(level, mask)
      mask.each_char.with_index.map do |sign, at|
        next level[at] if sign == "."

        level[at].match?(/[0-9]/) ? "#" : "@"
      end.join
    end

    # Ranges of one group as disjoint spans, found by halving.
    class Spans
      # @param pairs [Array<Array(Clause, Integer)>]
      def initialize(pairs)
        edges = pairs.flat_map { |clause, _| [clause.from, clause.to + 1] }.uniq.sort
        @starts = edges
        @held = hold(pairs, edges)
      end

      # @param number [Integer]
      # @return [Array<Array(Clause, Integer)>, nil] at most one for each area
      def at(number)
        after = @starts.bsearch_index { |start| start > number } || @starts.size
        after.zero? ? nil : @held[after - 1]
      end

      private

      # Sweeps over the edges; an area that holds a span by several ranges is kept once.
      def hold(pairs, edges)
        opening = pairs.group_by { |clause, _| clause.from }
        closing = pairs.group_by { |clause, _| clause.to + 1 }
        open = {}
        edges.map do |edge|
          closing[edge]&.each { |pair| leave(open, pair) }
          opening[edge]&.each { |pair| (open[pair.last] ||= []) << pair }
          open.each_value.map(&:first).freeze
        end
      end

      def leave(open, pair)
        rest = open[pair.last]
        rest.delete_at(rest.index { |other| other.equal?(pair) })
        open.delete(pair.last) if rest.empty?
      end
    end
    private_constant :Spans
  end
end
