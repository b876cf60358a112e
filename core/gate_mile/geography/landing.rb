# frozen_string_literal: true

module GateMile
  # Where an address lands among the zones.
  #
  # status: :zone (zone and the area that matched), :none (no zone covers it) or :undetermined (candidates: the zones
  # still possible, nil among them where it may be none; decides: the field that would tell).
  class Landing < Value.of(:status, :zone, :area, :candidates, :decides)
    # @return [Hash] for JSON
    def dump
      { "status" => status.to_s, "zone" => zone&.id, "area" => area&.dump,
        "candidates" => candidates&.map { |candidate| candidate&.id }, "decides" => decides }.compact
    end
  end

  # All zones of a book, ready to be asked where an address lands. The most specific area wins: a country before the
  # world; among equals the zone that stands higher in the merchant's list.
  class Zones
    include Enumerable

    # @param list [Array<Zone>] in the merchant's order
    def initialize(list)
      @list = list
      areas = list.select(&:active).flat_map { |zone| zone.areas.map { |area| [zone, area] } }
      @by_country = areas.reverse.to_h { |zone, area| [area.country, [zone, area]] }
      freeze
    end

    # @yieldparam zone [Zone]
    def each(&) = @list.each(&)

    # @param address [Address]
    # @return [Landing]
    def land(address)
      return undetermined if address.country.nil?

      zone, area = @by_country[address.country] || @by_country[nil]
      zone ? Landing.new(status: :zone, zone: zone, area: area) : Landing.new(status: :none)
    end

    private

    def undetermined
      possible = @list.select { |zone| zone.active && zone.areas.any? }
      possible += [nil] unless @by_country.key?(nil)
      Landing.new(status: :undetermined, candidates: possible, decides: "country")
    end
  end
end
