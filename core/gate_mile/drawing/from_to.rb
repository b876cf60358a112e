# frozen_string_literal: true

module GateMile
  # A list of from–to pairs, as tariffs are often written, made into a list of single boundaries: what does not fit
  # together is told, each with the ways in which it can be closed.
  #
  # The pairs cut the measure into stretches; each goes to the one pair that covers it, or to the one that closes it.
  class FromTo
    # kind: :gap, :overlap, :missing_bottom or :ends, which can be closed in several ways, and :shared_edge,
    # :penny_hole or :open_top, which are only told; row: place of the pair that it stands before, or of the last
    # one; from, to: texts of the stretch, to nil where it is open; choices: how it can be closed; chosen: how it
    # is; key: of the choice.
    Issue = Struct.new(:kind, :row, :from, :to, :choices, :chosen, :key)

    # One pair. from, to: {Boundary}, the second nil where it is open; amount: {Money}; start, finish: base numbers.
    Pair = Struct.new(:from, :to, :amount, :row, :start, :finish)

    OPEN = /\A(∞|and more|\+|-)?\z/i

    # @return [Array<Problem>] rows that can't be read, at /rows/N/field
    attr_reader :problems
    # @return [Array<Issue>]
    attr_reader :issues
    # @return [Array<Hash>] steps of a schedule document
    attr_reader :steps

    # @param rows [Array<Array<String>>] from, to, amount
    # @param measure [String] of {Gauge}
    # @param edges [String] "from" or "up_to"
    # @param currency [Currency]
    # @param choices [Hash{String => String}] by key of an issue: "lower", "upper" or "none"
    # @param unit [String, nil] of bare figures
    def initialize(rows, measure, edges, currency, choices: {}, unit: nil)
      @gauge = Gauge.new(measure, currency)
      @edges = edges
      @currency = currency
      @choices = choices
      @unit = unit
      @problems = []
      @issues = []
      @pairs = read(rows)
      @steps = @problems.empty? && @pairs.any? ? joined : []
    end

    private

    def read(rows)
      pairs = rows.each_with_index.filter_map do |(from, to, amount), row|
        first = boundary(from, row, "from", required: true)
        last = boundary(to, row, "to")
        price = figure(amount, row)
        told(row, "to", :range_backwards) if backwards?(first, last)
        Pair.new(first, last, price, row) if first && price
      end
      edges = { from: pairs.group_by { |pair| pair.from.base }, to: pairs.group_by { |pair| pair.to&.base } }
      pairs.each { |pair| reach(pair, edges) }.sort_by { |pair| [pair.start, pair.row] }
    end

    def backwards?(first, last)
      first && last && (counted? ? last.base < first.base : last.base <= first.base)
    end

    def boundary(text, row, field, required: false)
      text = text.to_s.strip
      return (told(row, field, :missing) if required) if text.match?(OPEN)

      text = "#{text} #{@unit}" if @unit && text.match?(/\A[\d.]+\z/)
      Boundary.parse(@gauge, text)
    rescue Malformed => e
      told(row, field, e.code, **e.numbers)
    end

    def figure(text, row)
      Money.parse(text.to_s.strip.sub(/\A[£$€]\s*/, ""), @currency)
    rescue Malformed => e
      told(row, "amount", e.code, **e.numbers)
    end

    def told(row, field, code, **numbers)
      @problems << Problem.new(pointer: "/rows/#{row}/#{field}", code: code, numbers: numbers)
      nil
    end

    # Where a pair begins and ends on the scale. "1 to 4, 5 to 9" is counted: the last of the four belongs to it.
    def reach(pair, edges)
      pair.start = pair.from.base
      pair.finish = pair.to&.base
      return unless counted?

      pair.finish += 1 if pair.finish && @edges == "from" && (pair.finish == pair.start || !met?(edges, pair, :from))
      pair.start -= 1 if @edges == "up_to" && pair.start.positive? &&
                         (pair.finish == pair.start || !met?(edges, pair, :to))
    end

    # Whether another pair shares this edge of it.
    def met?(edges, pair, other)
      mine = other == :from ? pair.to : pair.from
      edges[other].fetch(mine.base, []).any? { |one| one != pair }
    end

    def joined
      @texts = @pairs.flat_map { |pair| [pair.from, pair.to] }.compact.reverse.to_h { |edge| [edge.base, edge.text] }
      @by_finish = @pairs.select(&:finish).sort_by { |pair| [pair.finish, pair.start, pair.row] }
      tell_edges
      owned.chunk_while { |one, other| one.last == other.last }.map { |same| step(*same.first) }
    end

    # Each piece of the scale between two edges with the pair whose it is: pairs are taken up where they start and put
    # away where they end, so that each is looked at only where it lies.
    # @return [Array<Array(Numeric, Pair)>] nil in the place of the pair where nothing is available
    def owned
      starting = @pairs.group_by(&:start)
      held = []
      stretches.map do |from, to|
        held.concat(starting.fetch(from, []))
        held.reject! { |pair| pair.finish && pair.finish <= from }
        [from, owner(held.select { |pair| pair.finish.nil? || to }, from, to)]
      end
    end

    # Each piece of the scale between two edges; the last is open.
    def stretches
      edges = [0, *@pairs.flat_map { |pair| [pair.start, pair.finish] }].compact.uniq.sort
      edges.zip(edges.drop(1))
    end

    # @param over [Array<Pair>] those that lie over the piece
    # @return [Pair, nil] nil where nothing is available
    def owner(over, from, to)
      return shared_by(over, from, to) if over.size > 1

      over.first || uncovered(from, to)
    end

    def shared_by(over, from, to)
      tell(:overlap, over.last, from, to, %w[lower upper], "upper") == "lower" ? over.first : over.last
    end

    def uncovered(from, to)
      sides = { "lower" => below(from), "upper" => (above(to) if to) }.compact
      return sides[@edges == "from" && sides["lower"] ? "lower" : "upper"] if sides["upper"] && to - from <= hair

      kind = kind_of(*sides.values_at("lower", "upper"))
      beside = sides["upper"] || sides["lower"]
      sides[tell(kind, beside, from, to, ["none", *sides.keys], kind == :missing_bottom ? "upper" : "none")]
    end

    def below(point)
      after = @by_finish.bsearch_index { |pair| pair.finish > point } || @by_finish.size
      @by_finish[after - 1] if after.positive?
    end

    def above(point) = @pairs.bsearch { |pair| pair.start >= point }

    def kind_of(below, above)
      return :ends if above.nil?

      below ? :gap : :missing_bottom
    end

    # What needs no choice: edges that two pairs share, and holes of a penny.
    def tell_edges
      by_from = @pairs.sort_by.with_index { |pair, at| [pair.from.base, at] }
      @pairs.each do |pair|
        next tell(:open_top, pair, pair.start, nil, [], nil) if pair.to.nil?

        first = by_from.bsearch_index { |one| one.from.base >= pair.to.base } || next
        following = by_from[first..].lazy.find { |one| one != pair }
        tell_edge(pair, following) if following
      end
    end

    def tell_edge(pair, other)
      space = other.from.base - pair.to.base
      return tell(:shared_edge, other, other.from.base, nil, [], nil) if space.zero?
      return if space > hair || @gauge.name == "quantity"

      tell(:penny_hole, other, pair.to.base, other.from.base, [], nil)
    end

    def tell(kind, pair, from, to, ways, usual)
      key = "#{kind}:#{text(from)}"
      way = ways.include?(@choices[key]) ? @choices[key] : usual
      @issues << Issue.new(kind, pair.row, text(from), to && text(to), ways, way, key)
      way
    end

    def step(at, pair)
      { "at" => text(at), **(pair ? { "amount" => pair.amount.to_s } : { "none" => true }) }
    end

    # A point as the list writes it, where it does.
    def text(base)
      return @unit ? "0 #{@unit}" : "0" if base.zero?

      @texts.fetch(base) { @gauge.write(base, @unit) }
    end

    def counted? = @gauge.counted?
    def hair = @gauge.hair
  end
end
