# frozen_string_literal: true

require_relative "../../support/core"

# Which coupons' codes are taken for one another, and which differ on purpose.
class LookAlikeTest < Minitest::Test
  ALIKE = [%w[KEEL0 KEELO], %w[SPRING SPRNG], %w[SPRING SPRIGN], %w[SPRING PSRING], %w[spring SPR-ING], %w[SAIL5 SAILS], %w[BOAT1 BOATL],
           %w[WINTER WINTERR]].freeze
  APART = [%w[SPRING SUMMER], %w[SAVE10 SAVE20], %w[SAVE10 SAVE1], %w[SPRING PSRIGN], %w[SPRING SGRINP], %w[KEEL EKEL], %w[SPRING SPRINTER],
           %w[SPRING SPRANG]].freeze

  def test_codes_that_look_alike
    [true, false].zip([ALIKE, APART]).each do |wanted, pairs|
      pairs.each { |pair| assert_equal [wanted] * 2, [pair, pair.reverse].map { |one, other| GateMile::LookAlike.of?(one, other) }, pair.join(", ") }
    end
  end
end
