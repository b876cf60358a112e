# frozen_string_literal: true

module Server
  # Moments that merchants name.
  module Moments
    # @param text [String, nil] a moment on the store's clock, nil for now
    # @param time_zone [String]
    # @return [Time]
    # @raise [Problem] 422
    def self.of(text, time_zone)
      text.nil? ? Time.now : GateMile::LocalMoment.utc(text, time_zone)
    rescue GateMile::Malformed => e
      raise Problem.at("/at", e.code)
    end
  end
end
