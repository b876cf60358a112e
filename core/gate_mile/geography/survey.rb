# frozen_string_literal: true

module GateMile
  # One country looked at through sample places: a place for each end of every clause and for every region that matters,
  # and one that no clause names. From what wins there follow the findings and what is served. For clauses of codes and
  # ranges the samples meet every stretch they cut a country into; what two patterns share between their ends can be
  # missed, and so can what a region changes beyond the first of several.
  class Survey
    # More clauses than this are looked at in even steps.
    MOST = 20_000

    # A sample place; the entry and the "only" clause it stands for; the entries that hold there, the winner first.
    Spot = Value.of(:place, :entry, :clause, :holding)

    # @return [Coverage]
    attr_reader :coverage
    # @return [Array<Spot>]
    attr_reader :spots
    # @return [Array<Array(Entry, Symbol, Clause)>] clauses that match no valid postcode, with :only or :except
    attr_reader :dead

    # @param coverage [Coverage]
    def initialize(coverage)
      @coverage = coverage
      @dead = []
      @spots = (open_places + clause_places).map do |place, entry, clause|
        holding = coverage.answers(place).filter_map { |candidate, answer,| candidate if answer.yes? }
        Spot.new(place: place, entry: entry, clause: clause, holding: holding)
      end
    end

    # @return [Symbol] :wholly, :partly or :none
    def served = how_many(spots)

    # @return [Hash{String => Symbol}] for countries where regions matter: what is served of each outermost region
    def served_regions
      return {} if regions == [nil]

      by_region = spots.group_by { |spot| spot.place.regions.last }
      Regions.outermost(coverage.country).to_h { |region| [region, how_many(by_region.fetch(region, []))] }
    end

    private

    def how_many(spots)
      covered = spots.count { |spot| spot.holding.any? }
      return :none if covered.zero?

      covered == spots.size ? :wholly : :partly
    end

    # Regions to look at: all of the country where some area asks for regions, else just "any".
    def regions
      @regions ||= if coverage.entries.all? { |entry| entry.regions.nil? } then [nil]
                   else own_regions
                   end
    end

    def own_regions
      Regions.of(coverage.country).reject { |region| Territories.country_of(coverage.country, region) }
    end

    def place(region, postcode)
      Place.new(country: coverage.country, regions: region && Regions.chain(coverage.country, region),
                postcode: postcode)
    end

    # Where no clause has a say.
    def open_places
      postcode = Samples.unnamed(coverage)
      return [] if postcode.nil? && coverage.entries.any? { |entry| entry.area.clauses? }

      regions.map { |region| [place(region, postcode), nil, nil] }
    end

    def clause_places
      listed = coverage.entries.flat_map do |entry|
        %i[only except].flat_map { |list| entry.area.public_send(list).map { |clause| [entry, list, clause] } }
      end
      step = [(listed.size + MOST - 1) / MOST, 1].max
      listed.each_slice(step).flat_map { |slice| sampled(*slice.first) }
    end

    def sampled(entry, list, clause)
      found = Samples.of(clause, coverage.country)
      @dead << [entry, list, clause] if found.empty?
      own = list == :only ? entry : nil
      found = found.map { |postcode| [postcode, own, clause] }
      found << [Samples.behind(clause, coverage.country), nil, nil] if found.any?
      found.select(&:first).flat_map do |postcode, *origin|
        around(entry).map { |region| [place(region, postcode), *origin] }
      end
    end

    # The regions in which a clause is looked at: some of the entry's own, and one outside.
    def around(entry)
      return regions if regions == [nil]

      inside = entry.regions ? entry.regions.first(2) : regions.first(1)
      (inside + (regions - inside.to_a).last(1)).uniq
    end
  end
end
