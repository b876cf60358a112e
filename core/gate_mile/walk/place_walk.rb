# frozen_string_literal: true

module GateMile
  # Addresses on both sides of every border that a zone, its rates and its grids draw.
  class PlaceWalk
    # Clauses of one list, and regions of one area, that are looked at: the first and the last ones.
    MOST = 60
    private_constant :MOST

    # @param book [Book]
    # @param zone [Zone]
    # @param areas [Array<Area>] of the zone, of its rates, and of the columns of their grids
    def initialize(book, zone, areas)
      @book = book
      @zone = zone
      @areas = areas.uniq
    end

    # @yieldparam address [Address]
    # @yieldparam reason [Hash]
    # @return [void]
    def each(&)
      seen = {}
      @areas.each do |area|
        places(area) do |address, side|
          next if seen[address]

          seen[address] = true
          landing = @book.zones.land(address)
          yield address, { code: :place, side: side, inside: landing.zone.equal?(@zone),
                           setting: { kind: "zone", id: @zone.id, field: "areas" } }
        end
      end
    end

    private

    def places(area, &)
      return if area.kind == :world

      outline(area, &)
      (area.only + area.except).then { |list| ends(list) }.each { |clause| borders(area, clause, &) }
    end

    def ends(list) = list.size <= MOST ? list : list.first(MOST / 2) + list.last(MOST / 2)

    # The country, or its regions and one that is none of them; a postcode that no clause names.
    def outline(area, &)
      return regions(area, &) if area.regions

      yield address(area.country, nil, Samples.unnamed(@book.zones.coverage(area.country))), :country
    end

    def regions(area)
      ends(area.regions.to_a).each { |region| yield address(area.country, region, nil), :region }
      other = Regions.of(area.country).find do |region|
        !area.regions.include?(region) && Territories.country_of(area.country, region).nil?
      end
      yield address(area.country, other, nil), :other_region if other
    end

    def borders(area, clause)
      found = Samples.of(clause, area.country)
      behind = Samples.behind(clause, area.country) if found.any?
      [*found.map { |code| [code, :in_clause] }, *(behind ? [[behind, :behind_clause]] : [])].each do |code, side|
        yield address(area.country, area.regions&.first, code), side
      end
    end

    def address(country, region, postcode)
      Address.new(country: country, region: region, postcode: postcode&.text, lines: [])
    end
  end
end
