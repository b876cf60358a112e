# frozen_string_literal: true

require_relative "../../support/plans"

# From–to lists against a slow, obvious reading: point by point, every pair is looked at.
class FromToReferenceTest < Minitest::Test
  include PlansSupport

  GBP = GateMile::Currency["GBP"]
  # Grams stand for weights: their edges are compared without any unit between.
  MEASURES = { "quantity" => "", "value" => "", "weight" => " g" }.freeze

  Row = Struct.new(:from, :to, :amount, :place, :start, :finish)

  # What the list says of a stretch of the scale, by the text of engine.md alone: pairs are half-open on the side that
  # the edges say; counted ones (units, pennies) hold both their ends, unless another pair meets them there.
  class Slow
    def initialize(rows, measure, edges)
      @edges = edges
      @counted = measure != "weight"
      @hair = 1
      @rows = rows.each_with_index.map { |(from, to, amount), place| Row.new(from, to, amount, place, from, to) }
      widen if @counted
      @rows.sort_by! { |row| [row.start, row.place] }
    end

    # @return [Array<Integer>] where anything begins or ends
    def edges = [0, *@rows.flat_map { |row| [row.start, row.finish] }].compact.uniq.sort

    # @return [Array(Symbol, Array<Row>)] what there is between two neighbouring edges: one pair, several, or none
    def between(from, to)
      over = @rows.select { |row| row.start <= from && (row.finish.nil? || (to && row.finish >= to)) }
      return [:one, over] if over.size == 1
      return [:overlap, over] if over.any?

      none(from, to)
    end

    private

    def widen
      @rows.each do |row|
        if @edges == "from" && row.to
          alone = @rows.none? { |other| !other.equal?(row) && other.from == row.to }
          row.finish = row.to + 1 if row.to == row.from || alone
        elsif @edges == "up_to" && row.from.positive?
          alone = @rows.none? { |other| !other.equal?(row) && other.to == row.from }
          row.start = row.from - 1 if row.to == row.from || alone
        end
      end
    end

    def none(from, to)
      below = @rows.select { |row| row.finish && row.finish <= from }.max_by { |row| [row.finish, row.start, row.place] }
      above = @rows.select { |row| row.start > from }.min_by { |row| [row.start, row.place] } if to
      return [:hole, [@edges == "from" && below ? below : above]] if above && to - from <= @hair

      [if above
         below ? :gap : :missing_bottom
       else
         :ends
       end, [below, above]]
    end
  end

  # Every stretch of every list goes to the pair whose it is, closed in the way that was chosen.
  def test_every_stretch_goes_to_the_pair_whose_it_is
    random = Random.new(19)
    seen = Hash.new(0)
    Rounds.of(1200).times do
      measure = MEASURES.keys.sample(random: random)
      edges = %w[from up_to].sample(random: random)
      rows = list(random, measure)
      first = made(rows, measure, edges)
      assert_empty first.problems, rows.inspect
      choices = first.issues.to_h { |issue| [issue.key, issue.choices.sample(random: random)] }.compact
      found = made(rows, measure, edges, choices: choices)
      slow = Slow.new(rows, measure, edges)
      slow.edges.each_cons(2) do |from, to|
        seen[check(slow, found, choices, measure, from, to, rows, edges)] += 1
      end
    end
    assert_equal %i[gap hole missing_bottom one overlap], seen.keys.sort, "every kind of stretch was met"
    seen.each { |kind, count| assert_operator count, :>, Rounds.of(40), kind }
  end

  # The order of the rows says nothing, unless two begin at the same figure.
  def test_rows_in_any_order_make_the_same_schedule
    random = Random.new(23)
    Rounds.of(300).times do
      measure = MEASURES.keys.sample(random: random)
      rows = list(random, measure).uniq(&:first)
      steps = made(rows, measure, "from").steps
      3.times { assert_equal steps, made(rows.shuffle(random: random), measure, "from").steps, rows.inspect }
    end
  end

  # What a list of steps says, written as from–to pairs and read again, is the same list.
  def test_steps_written_as_pairs_are_read_as_these_steps
    random = Random.new(29)
    Rounds.of(300).times do
      at = Array.new(random.rand(1..8)) { random.rand(1..60) }.uniq.sort.unshift(0)
      amounts = at.map { money(random) }
      amounts = amounts.each_with_index.map { |_, place| "#{place + 1}.00" } unless amounts.each_cons(2).all? { |one, other| one != other }
      rows = at.zip([*at.drop(1), nil], amounts)
      steps = made(rows, "weight", "up_to").steps
      assert_equal(at.zip(amounts.map { |amount| GateMile::Money.parse(amount, GBP).to_s }),
                   steps.map { |step| [step["at"].to_i, step["amount"]] })
    end
  end

  private

  def list(random, measure)
    Array.new(random.rand(1..6)) do
      from, to = [random.rand(0..20), random.rand(0..26)].sort
      to += 1 if to == from && measure == "weight"
      [from, random.rand(12).zero? ? nil : to, "#{random.rand(1..9)}.#{random.rand(10)}0"]
    end
  end

  # Values are written in pounds, the scale is of pennies.
  def made(rows, measure, edges, choices: {})
    texts = rows.map { |from, to, amount| [write(from, measure), to && write(to, measure), amount] }
    GateMile::FromTo.new(texts, measure, edges, GBP, choices: choices, unit: measure == "weight" ? "g" : nil)
  end

  def write(number, measure)
    measure == "value" ? GateMile::Money.new(number, GBP).to_s : "#{number}#{MEASURES.fetch(measure)}"
  end

  def check(slow, found, choices, measure, from, to, rows, edges)
    kind, pairs = slow.between(from, to)
    chosen = choices["#{kind}:#{key(from, measure)}"]
    wanted = case kind
             when :one, :hole then pairs.first
             when :overlap then chosen == "lower" ? pairs.first : pairs.last
             else { "lower" => pairs[0], "upper" => pairs[1] }[chosen]
             end
    step = found.steps.select { |one| base(one["at"], measure) <= from }.max_by { |one| base(one["at"], measure) }
    assert_equal wanted&.amount.to_s, step["amount"].to_s, [kind, chosen, from, to, rows, measure, edges].inspect
    kind
  end

  def key(number, measure)
    return measure == "weight" ? "0 g" : "0" if number.zero?

    write(number, measure)
  end

  def base(text, measure)
    measure == "value" ? GateMile::Money.parse(text, GBP).minor : Integer(text[/\d+/], 10)
  end
end
