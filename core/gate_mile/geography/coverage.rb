# frozen_string_literal: true

module GateMile
  # All entries of one country in the order in which they win, and the index of their clauses.
  class Coverage
    # @return [Array<Entry>] the most specific first, among equals the zone that stands higher
    attr_reader :entries
    # @return [String]
    attr_reader :country

    # @param country [String]
    # @param areas [Array<Array(Zone, Area, Array, nil)>] zones in the merchant's order, with an area and the regions it
    #   needs
    def initialize(country, areas)
      @country = country
      @entries = sorted(areas)
      @only = index(:only)
      @except = index(:except)
    end

    # What each entry says of a place, in the order in which entries win.
    # @param place [Place]
    # @yieldparam entry [Entry]
    # @yieldparam answer [Truth] whether it holds the place
    # @yieldparam clause [Clause, nil] that decided
    # @return [Enumerator] without a block
    def answers(place)
      return to_enum(:answers, place) unless block_given?

      only = hear(@only, place.postcode)
      except = hear(@except, place.postcode)
      entries.each do |entry|
        answer, clause = answer(entry, place, only, except)
        yield entry, answer, clause
      end
    end

    # @param postcode [Postcode]
    # @return [Boolean] whether no clause matches it
    def unnamed?(postcode) = @only.matching(postcode).empty? && @except.matching(postcode).empty?

    # Whether an address of which no more is known may yet land nowhere: sample places are looked at, as the audit does.
    # With more clauses than are looked at here, it may.
    # @param place [Place]
    # @return [Boolean]
    def gap?(place)
      return false if entries.any? { |entry| entry.level == :world }
      return true if entries.sum { |entry| entry.area.only.size + entry.area.except.size } > SAMPLED
      return spots.any? { |spot| spot.holding.empty? } if place.postcode.nil? && place.regions.nil?

      postcodes(place).product(regions(place)).any? do |postcode, regions|
        answers(Place.new(country: country, regions: regions, postcode: postcode)).none? { |_, answer,| answer.yes? }
      end
    end

    # Clauses of a country up to which gaps are looked for.
    SAMPLED = 600
    private_constant :SAMPLED

    private

    def spots = @spots ||= Survey.new(self).spots

    # Postcodes that may be meant, as far as clauses tell them apart.
    def postcodes(place)
      known = place.postcode
      sampled = spots.map { |spot| spot.place.postcode }.uniq { |postcode| postcode&.text }
      return sampled if known.nil?
      return [known] unless known.partial?

      sampled.compact.select { |postcode| postcode.below?(known) } + Samples.below(known, country)
    end

    def regions(place)
      return spots.map { |spot| spot.place.regions }.uniq if place.regions.nil?

      nested = Regions.nested(country, place.regions.first)
      nested.any? ? nested.map { |region| Regions.chain(country, region) } : [place.regions]
    end

    def sorted(areas)
      list = areas.map.with_index { |(zone, area, regions), at| [level(area, regions), at, zone, area, regions] }
      list.sort_by do |level, at,|
        [Entry::LEVELS.index(level), at]
      end.each_with_index.map do |(level, _, zone, area, regions), at|
        Entry.new(at: at, zone: zone, area: area, regions: regions&.to_set, level: level,
                  outer: regions.to_a.flat_map { |region| Regions.chain(country, region).drop(1) }.to_set)
      end
    end

    def level(area, regions)
      return :world if area.kind == :world
      return regions ? :clause_in_region : :clause if area.only.any?

      regions ? :region : :country
    end

    def index(list)
      ClauseIndex.new(country, entries.flat_map do |entry|
        entry.area.public_send(list).map do |clause|
          [clause, entry.at]
        end
      end)
    end

    # What the clauses say of a postcode: the areas with one that matches, and those with one that may yet match.
    def hear(index, postcode)
      return NOTHING if postcode.nil? || index.empty?

      [index.matching(postcode), postcode.partial? ? index.possible(postcode) : NOTHING.last]
    end

    NOTHING = [{}.freeze, [].freeze].freeze
    private_constant :NOTHING

    def answer(entry, place, only, except)
      inside = in_region(entry, place)
      return [inside, nil] if inside.no?

      by_postcode, clause = in_clauses(entry, place, only, except)
      return [by_postcode, clause] if by_postcode.no? || inside.yes?

      [inside, nil]
    end

    def in_region(entry, place)
      return Truth::YES if entry.regions.nil?
      return Truth.open(:region) if place.regions.nil?
      return Truth::YES if place.regions.any? { |region| entry.regions.include?(region) }

      # Only an outer region is known, and the entry holds some of those inside it.
      entry.outer.include?(place.regions.first) ? Truth.open(:region) : Truth::NO
    end

    def in_clauses(entry, place, only, except)
      return [Truth::YES, nil] unless entry.area.clauses?
      return [Truth.open(:postcode), nil] if place.postcode.nil?

      barring, may_bar = except
      return [Truth::NO, barring[entry.at]] if barring.key?(entry.at)

      asked, clause = allowed(entry, *only)
      asked.yes? && may_bar.include?(entry.at) ? [Truth.open(:postcode), nil] : [asked, clause]
    end

    def allowed(entry, matching, may_match)
      return [Truth::YES, nil] if entry.area.only.empty?

      clause = matching[entry.at]
      return [Truth::YES, clause] if clause

      [may_match.include?(entry.at) ? Truth.open(:postcode) : Truth::NO, nil]
    end
  end
end
