# frozen_string_literal: true

module GateMile
  # One address for each zone that lands in it, where one can be found.
  class ZoneSamples
    # @param zones [Zones]
    def initialize(zones)
      @zones = zones
    end

    # @param zone [Zone]
    # @return [Address, nil]
    def of(zone) = all[zone.id]

    private

    def all
      @all ||= @zones.countries.flat_map { |country| spots(country) }.push(*elsewhere).to_h.compact
    end

    # The last of several spots of a zone wins: those without a postcode come first.
    def spots(country)
      Survey.new(@zones.coverage(country)).spots.reverse.filter_map do |spot|
        zone = spot.holding.first&.zone or next
        address = Address.new(country: spot.place.country, region: spot.place.regions&.last,
                              postcode: spot.place.postcode&.text, lines: [])
        [zone.id, address] if @zones.land(address).zone.equal?(zone)
      end
    end

    def elsewhere
      zone = @zones.find { |item| item.active && item.areas.any? { |area| area.kind == :world } } or return []
      country = (Countries::CODES - @zones.countries).first
      country ? [[zone.id, Address.new(country: country, lines: [])]] : []
    end
  end
end
