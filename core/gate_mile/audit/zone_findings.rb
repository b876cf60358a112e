# frozen_string_literal: true

module GateMile
  # What is wrong or worth knowing about where the zones reach.
  class ZoneFindings
    # @param zones [Zones]
    def initialize(zones)
      @zones = zones
      @surveys = zones.countries.map { |country| Survey.new(zones.coverage(country)) }
    end

    # @return [Array<Finding>] the most harmful first
    def list = Finding.in_order(worlds + @surveys.flat_map { |survey| of_country(survey) })

    private

    # A world area is always labelled as such: every country nobody named lands there.
    def worlds
      @zones.select { |zone| zone.active && zone.areas.any? { |area| area.kind == :world } }
            .map { |zone| Finding.new(code: :covers_world, harm: :note, zone: zone.id, numbers: {}) }
    end

    def of_country(survey)
      named = survey.coverage.entries.reject { |entry| entry.level == :world }
      never = never_winning(survey, named)
      beaten = never.map(&:first)
      never.map { |found| hidden(*found) } + overlaps(survey, beaten) + hidden_clauses(survey, beaten) +
        dead(survey) + losses(survey) + left_out(survey)
    end

    def never_winning(survey, named)
      winners = survey.spots.filter_map { |spot| spot.holding.first }.to_set
      named.reject { |entry| winners.include?(entry) }.filter_map do |entry|
        spot = survey.spots.find { |candidate| candidate.holding.include?(entry) }
        [entry, spot.holding.first, spot] if spot
      end
    end

    def hidden(entry, by, spot)
      same = by.zone.equal?(entry.zone)
      finding(:never_wins, same ? :note : :problem, [entry, by], spot, level: by.level)
    end

    # Areas of two zones, equally specific, that meet: told unless the narrower one stands higher, as a merchant would
    # put it on purpose.
    def overlaps(survey, never)
      meeting = {}
      survey.spots.each do |spot|
        first, *rest = spot.holding
        rest.each { |entry| meeting[[first, entry]] ||= spot if rival?(first, entry) && !never.include?(entry) }
      end
      meeting.reject { |(first, entry), _| inside?(survey, first, entry) }.map do |(first, entry), spot|
        finding(:overlap, :warning, [entry, first], spot, level: entry.level)
      end
    end

    def rival?(first, entry) = first.level == entry.level && !first.zone.equal?(entry.zone) && entry.level != :world

    def inside?(survey, inner, outer)
      own = survey.spots.select { |spot| spot.holding.include?(inner) }
      own.all? { |spot| spot.holding.include?(outer) }
    end

    # Clauses of which another zone takes every postcode, though their area wins elsewhere.
    def hidden_clauses(survey, never)
      by_clause = survey.spots.select do |spot|
        spot.entry && !never.include?(spot.entry)
      end.group_by { |spot| [spot.entry, spot.clause] }
      lost = by_clause.select { |(entry, clause), spots| hidden_clause?(survey, entry, clause, spots) }
      lost.group_by { |(entry, _), spots| [entry, spots.first.holding.first] }.map do |(entry, by), found|
        clauses = found.map { |(_, clause), _| clause.text }
        finding(:clauses_hidden, :warning, [entry, by], found.first.last.first, clauses: clauses.first(20),
                                                                                count: clauses.size)
      end
    end

    def hidden_clause?(survey, entry, clause, spots)
      return false unless spots.all? do |spot|
        spot.holding.include?(entry) && !spot.holding.first.zone.equal?(entry.zone)
      end

      structured = Postcode.structured?(survey.coverage.country)
      survey.spots.none? do |spot|
        spot.holding.first.equal?(entry) && spot.place.postcode && clause.match?(spot.place.postcode, structured)
      end
    end

    def dead(survey)
      survey.dead.map do |entry, list, clause|
        Finding.new(code: :dead_clause, harm: :warning, zone: entry.zone.id,
                    numbers: { country: survey.coverage.country, clause: clause.text, list: list })
      end
    end

    # A country of which a part lands nowhere because of clauses.
    def losses(survey)
      return [] unless survey.served == :partly && survey.coverage.entries.any? { |entry| entry.area.clauses? }

      spot = survey.spots.find { |candidate| candidate.holding.empty? }
      entry = survey.coverage.entries.find { |candidate| candidate.area.clauses? }
      [finding(:partly_covered, :warning, [entry], spot, clause: spot.clause&.text)]
    end

    def left_out(survey)
      none = survey.served_regions.select { |_, how| how == :none }.keys
      none.reject! { |region| Territories.country_of(survey.coverage.country, region) }
      entry = survey.coverage.entries.find(&:regions)
      return [] if none.empty? || entry.nil?

      numbers = { country: survey.coverage.country, regions: none }
      [Finding.new(code: :regions_left_out, harm: :note, zone: entry.zone.id, numbers: numbers)]
    end

    def finding(code, harm, entries, spot, **numbers)
      zone, other = entries.map { |entry| entry.zone.id }
      Finding.new(code: code, harm: harm, zone: zone, other: other,
                  numbers: { country: spot.place.country, **numbers }, example: address(spot.place))
    end

    def address(place)
      Address.new(country: place.country, region: place.regions&.first, postcode: place.postcode&.text,
                  lines: [].freeze)
    end
  end
end
