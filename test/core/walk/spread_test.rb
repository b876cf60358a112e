# frozen_string_literal: true

require_relative "../../support/core"

# Numbers that leave nothing to chance: always the same, within their bounds, and spread over all of them.
class SpreadTest < Minitest::Test
  include CoreSupport

  def spread(from = 1) = GateMile::Spread.new(from)

  def test_always_the_same
    one, other = Array.new(2) { spread.then { |spread| Array.new(50) { spread.below(1000) } } }
    assert_equal one, other
    refute_equal(one, spread(2).then { |spread| Array.new(50) { spread.below(1000) } })
  end

  # Each of ten values comes about as often as the others: chi-squared of nine degrees of freedom stays below 27.9 in 999
  # of 1000 cases (NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.4).
  def test_spread_over_all
    [1, 2, 99].each do |from|
      numbers = spread(from)
      counts = Array.new(10_000) { numbers.below(10) }.tally
      assert_equal 10, counts.size
      assert_operator counts.each_value.sum { |count| ((count - 1000)**2).fdiv(1000) }, :<, 27.9
    end
  end

  def test_some_of_a_list_each_once
    PropCheck.forall(list: PropCheck::Generators.array(PropCheck::Generators.integer), most: PropCheck::Generators.choose(0..20)) do |list:, most:|
      found = spread.some(list, most)
      assert_equal [list.size, most].min, found.size
      assert_empty(found.tally.reject { |value, count| count <= list.count(value) })
    end
    assert_includes [7, 8], spread.of([7, 8])
  end

  def test_little_is_mostly_little
    numbers = spread
    found = Array.new(2000) { numbers.little(1000) }
    assert_operator found.max, :<=, 1000
    assert_operator found.min, :>=, 0
    assert_operator found.count { |one| one < 300 }, :>, 1000
  end
end
