# frozen_string_literal: true

require_relative "../test/support/tiny"

# Every script of this folder still runs:  bin/test perf
class ScriptsTest < Minitest::Test
  include Tiny

  # What others share, and what compares with another checkout.
  PARTS = %w[over_http page stack sizes served quote_servers alike demo scripts_test].freeze

  (Dir[File.join(__dir__, "*.rb")].map { |file| File.basename(file, ".rb") } - PARTS).each do |name|
    define_method("test_#{name}") do
      said, done = run_tiny(name)
      assert_predicate done, :success?, said
      refute_match(/\b(NaN|Infinity)\b/, said)
      assert_match(/\d/, said)
    end
  end
end
