# frozen_string_literal: true

require_relative "../support/tiny"

# A benchmark whose requests are refused fails: a figure that was measured on refusals is worse than none.
class MeasuredTest < Minitest::Test
  include Tiny

  # One that asks in its own process, and one over HTTP.
  %w[lines http].each do |name|
    define_method("test_#{name}_fails_where_an_account_is_wanted") do
      said, done = run_tiny(name, GATE_MILE_ACCOUNTS: "1")
      refute_predicate done, :success?, said
      assert_match(/401|refused|answered/, said)
    end
  end
end
