# frozen_string_literal: true

# How many rounds a property test runs. A daily run does a quarter of the full number, always with the same seeds;
# GATE_MILE_ROUNDS=1 runs them all, and perf/properties.rb many more.
module Rounds
  SHARE = Float(ENV.fetch("GATE_MILE_ROUNDS", "0.25"))

  # @param whole [Integer] the full number of rounds
  # @return [Integer] at least one
  def self.of(whole) = [(whole * SHARE).round, 1].max
end
