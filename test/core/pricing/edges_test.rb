# frozen_string_literal: true

require_relative "../../support/core"

# Exactly at an edge, and exactly equal: where one sign more or less would not show in carts at random.
class EdgesTest < Minitest::Test
  GBP = GateMile::Currency["GBP"]

  def gbp(minor) = GateMile::Money.new(minor, GBP)

  # An ending may come down exactly to the minimum, and the maximum is itself still allowed.
  def test_an_ending_between_minimum_and_maximum
    adjust = ->(minor, **fields) { GateMile::Adjustment.new(per: "order", **fields).apply(minor, 1, GBP) }
    down = { ending: gbp(95), maximum: gbp(500) }
    assert_equal [495, 495, 500], [495, 496, 494].map { |least| adjust.call(500, **down, minimum: gbp(least)) }.values_at(0, 2, 1)
    assert_equal([595, 595, 595], [500, 595, 596].map { |minor| adjust.call(minor, ending: gbp(95), maximum: gbp(595)) })
    assert_equal 500, adjust.call(500, minimum: gbp(500), maximum: gbp(500))
    assert_equal 60, adjust.call(60, ending: gbp(95), maximum: gbp(80)), "no ending comes down to less than nothing"
  end

  # Calendars are looked through for sixty days, the last of them too.
  def test_the_last_day_of_the_calendar
    first = Date.new(2026, 6, 1)
    day = GateMile::Calendar.day(first)
    leaves = lambda { |count|
      shut = (0...count).map { |one| (first + one).iso8601 }
      every = GateMile::Delivery.new(collection_days: (1..7).to_a)
      GateMile::Calendar.new(shut).leaves(every, GateMile::Clock::Reading.new(day, 0)) - day
    }
    assert_equal([0, 59, 60, 0], [0, 59, 60, 61].map { |count| leaves.call(count) })
  end
end
