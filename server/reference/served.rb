# frozen_string_literal: true

module Server
  # Where a shop sends to, as forms for addresses need it.
  module Served
    # @param zones [GateMile::Zones]
    # @return [Hash] Served of the contract: every country, wholly, in part or not at all
    def self.of(zones)
      named = zones.countries
      list = GateMile::Countries::CODES.map do |code|
        next { country: code, served: zones.world? ? :wholly : :none } unless named.include?(code)

        survey = GateMile::Survey.new(zones.coverage(code))
        regions = survey.served_regions
        { country: code, served: survey.served, regions: (regions if regions.any?) }.compact
      end
      { countries: list }
    end
  end
end
