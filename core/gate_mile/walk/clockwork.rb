# frozen_string_literal: true

module GateMile
  # Moments on the store's clock beside other ones.
  module Clockwork
    # @param moment [String] "2026-11-27T18:00"
    # @param minutes [Integer] of either sign
    # @return [String]
    def self.shifted(moment, minutes)
      (Time.utc(*moment.scan(/\d+/).map(&:to_i)) + (minutes * 60)).strftime("%Y-%m-%dT%H:%M")
    end
  end
end
