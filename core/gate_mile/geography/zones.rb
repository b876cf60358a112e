# frozen_string_literal: true

module GateMile
  # All zones of a book, ready to be asked where an address lands. The most specific area wins; among equals the zone
  # that stands higher in the merchant's list.
  class Zones
    include Enumerable

    # @param list [Array<Zone>] in the merchant's order
    def initialize(list)
      @list = list
      @world, @by_country = entries(list.select(&:active))
      @coverages = @by_country.to_h { |country, areas| [country, Coverage.new(country, areas + @world)] }.freeze
      @elsewhere = Coverage.new(nil, @world)
      @made = {}
      freeze
    end

    # @yieldparam zone [Zone]
    def each(&) = @list.each(&)

    # @param country [String]
    # @return [Coverage]
    def coverage(country) = @coverages.fetch(country, @elsewhere)

    # @return [ZoneSamples] looked for once
    def samples = @made[:samples] ||= ZoneSamples.new(self)

    # @return [Array<String>] the countries that some area names
    def countries = @coverages.keys

    # @return [Boolean] whether some zone covers the whole world
    def world? = @world.any?

    # @param address [Address]
    # @return [Landing]
    def land(address)
      place = Place.of(address)
      place.country.nil? ? nowhere_known : settle(coverage(place.country), place, address)
    end

    private

    # An area's regions that are countries of their own count for those countries.
    def entries(zones)
      world = []
      by_country = Hash.new { |hash, country| hash[country] = [] }
      zones.each do |zone|
        zone.areas.each do |area|
          next world << [zone, area, nil] if area.kind == :world

          spread(area).each { |country, regions| by_country[country] << [zone, area, regions] }
        end
      end
      [world, by_country.to_h]
    end

    def spread(area)
      return { area.country => nil } if area.kind == :country

      own, others = area.regions.partition { |region| Territories.country_of(area.country, region).nil? }
      found = others.to_h { |region| [Territories.country_of(area.country, region), nil] }
      own.any? ? found.merge(area.country => own) : found
    end

    def settle(coverage, place, address)
      possible = []
      decides = nil
      coverage.answers(place) do |entry, answer, clause|
        if answer.yes?
          return landed(entry, clause, place, address) if possible.all?(entry.zone)

          return undetermined(possible << entry.zone, decides, place, address)
        elsif answer.open?
          possible << entry.zone
          decides = answer.fact.name if decides.nil? || answer.fact == :region
        end
      end
      return Landing.new(status: :none, place: place, address: address) if possible.empty?

      undetermined(coverage.gap?(place) ? possible << nil : possible, decides, place, address)
    end

    def landed(entry, clause, place, address)
      Landing.new(status: :zone, zone: entry.zone, area: entry.area, clause: clause, place: place, address: address)
    end

    def undetermined(zones, field, place = nil, address = nil)
      Landing.new(status: :undetermined, candidates: zones.uniq, decides: field, place: place, address: address)
    end

    # Where one zone holds the whole world and there is no other, nobody need say where.
    def nowhere_known
      possible = @list.select { |zone| zone.active && zone.areas.any? }
      return undetermined(everywhere? ? possible : possible + [nil], "country") unless world? && possible.one?

      Landing.new(status: :zone, zone: possible.first, area: possible.first.areas.find { |area| area.kind == :world })
    end

    # Whether every country is somebody's.
    def everywhere?
      return true if world?

      (Countries::CODES - countries).empty? && @coverages.each_value.none? { |one| one.gap?(Place.new(country: one.country)) }
    end
  end
end
