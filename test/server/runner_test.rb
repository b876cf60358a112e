# frozen_string_literal: true

require "minitest/autorun"
require_relative "../runner/share"
require_relative "../runner/touched"

# What runs the tests: who shares a process, and what a change can touch.
class RunnerTest < Minitest::Test
  def shared(seconds) = Share.of(seconds.keys, seconds).map { |group| group.sum { |file| seconds[file] } }

  def test_processes_are_busy_for_as_long_as_each_other
    files = (1..40).to_h { |at| ["test/browser/a#{at}_test.rb", at.to_f] }
    groups = shared(files)
    assert_in_delta 820, groups.sum
    assert_operator groups.max - groups.min, :<, 40
    assert_equal groups.sort.reverse, groups, "the longest first"
    mixed = { "test/core/a_test.rb" => 5.0, "test/browser/b_test.rb" => 5.0, "test/core/c_test.rb" => 5.0 }
    assert_equal [%w[test/core/a_test.rb test/core/c_test.rb], %w[test/browser/b_test.rb]], Share.of(mixed.keys, mixed)
  end

  def test_a_file_that_never_ran_is_believed_to_take_a_while
    assert_operator Share.seconds(["test/browser/new_test.rb"], {}), :>, Share.seconds(["test/core/new_test.rb"], {})
  end

  def test_what_a_change_can_touch
    { "docs/engine.md" => [], "README.md" => [], "clients/ruby/gate_mile_checkout.rb" => %w[test/server/clients_test.rb],
      "web/src/ui/button.tsx" => %w[test/server/interface_rooms_test.rb test/browser], "server/routes/rates.rb" => %w[test/server test/browser],
      "test/core/quote/quote_test.rb" => %w[test/core/quote/quote_test.rb], "perf/rules.rb" => %w[perf test/server/measured_test.rb],
      "Gemfile.lock" => Touched::ALL }.each do |path, tests|
      assert_equal tests, Touched.by([path]), path
    end
    of_rules = Touched.by(%w[core/gate_mile/rules/ruling.rb docs/engine.md server/routes/rates.rb])
    assert_includes of_rules, "test/core/quote"
    refute_includes of_rules, "test/core/parcels"
    assert_equal %w[test/server], of_rules.grep(%r{test/server})
  end
end
