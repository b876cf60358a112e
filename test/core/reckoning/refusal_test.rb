# frozen_string_literal: true

require_relative "../../support/core"

# Reasons are the same where code and numbers are, whenever the numbers are put together.
class RefusalTest < Minitest::Test
  def test_the_same_reason
    refusal = ->(code, numbers = {}) { GateMile::Refusal.new(code) { numbers } }
    one = refusal.call(:too_heavy, { most: 30 })
    assert_equal([true, false, false, false],
                 [refusal.call(:too_heavy, { most: 30 }), refusal.call(:too_heavy, { most: 31 }), refusal.call(:too_long, { most: 30 }), :too_heavy]
                   .map { |other| one == other })
    assert_equal({}, GateMile::Refusal.new(:too_heavy).numbers)
    assert_equal 1, [one, refusal.call(:too_heavy, { most: 30 })].uniq.size
  end
end
