# frozen_string_literal: true

require "time"
require_relative "../../support/core"

# The bounds of each kind of condition: at the bound itself, and one unit on either side of it.
class ConditionsTest < Minitest::Test
  include CoreSupport

  NOON = "2026-01-10T12:00:00Z"

  # Moments on the shop's clock, which is London's: without summer time in January.
  def test_days_include_the_last_and_hours_do_not
    days = { "fact" => "date", "first" => "2026-01-10", "last" => "2026-01-12" }
    assert_equal([false, true, true, true, false], (9..13).map { |day| holds?(days, "2026-01-#{day.to_s.rjust(2, "0")}T12:00:00Z") })
    assert_equal([true, true, false], (11..13).map { |day| holds?(days.except("first"), "2026-01-#{day}T12:00:00Z") })
    assert_equal([false, true, true], %w[09 10 30].map { |day| holds?(days.except("last"), "2026-01-#{day}T12:00:00Z") })
    hours = { "fact" => "time", "from" => "09:00", "until" => "17:00" }
    assert_equal([false, true, true, false], %w[08:59 09:00 16:59 17:00].map { |time| holds?(hours, "2026-01-10T#{time}:00Z") })
    night = { "fact" => "time", "from" => "22:00", "until" => "06:00" }
    assert_equal([false, true, true, true, false],
                 %w[21:59 22:00 00:00 05:59 06:00].map { |time| holds?(night, "2026-01-10T#{time}:00Z") })
  end

  def test_measures_say_of_each_bound_whether_it_belongs
    { %w[from below] => [false, true, true, false, false], %w[over up_to] => [false, false, true, true, false] }.each do |(low, high), wanted|
      units = { "fact" => "quantity", low => 3, high => 5 }
      assert_equal(wanted, [2, 3, 4, 5, 6].map { |count| holds?(units, NOON, [line("A", count)]) })
    end
  end

  # With a voucher of 25.00 beside three shackles of 1.90 and 0.21 kg: it counts in the value of all lines, and in
  # nothing else.
  def test_whose_value_counts
    lines = [line("A", 3), line("V")]
    value = { "fact" => "value", "from" => "30.70" }
    assert_equal([false, true], %w[shipping all].map { |which| holds?(value.merge("basis" => { "lines" => which }), NOON, lines) })
    assert_equal([true, false], [3, 4].map { |units| holds?({ "fact" => "quantity", "from" => units }, NOON, lines) })
  end

  private

  def holds?(condition, moment, lines = [line])
    shop = book(rules: [{ "id" => "r", "name" => "R", "when" => { "all" => [condition] }, "then" => [{ "kind" => "add", "amount" => "1.00" }] }],
                rates: [{ "id" => "x", "zone" => "uk", "method" => "m", "plan" => { "schedule" => { "kind" => "flat", "amount" => "2.00" } } }])
    shop.quote(cart({ "lines" => lines, "destination" => to("GB") }), at: Time.iso8601(moment))
        .method_quotes.first.price.to_s == "3.00"
  end
end
