# frozen_string_literal: true

module GateMile
  # Why an address lands where it does: every area that holds there, the winner first, and those of its country that do
  # not hold, with the reason.
  class Ladder
    # outcome: :won, :less_specific, :lower (equal, but further down in the list) or :open (field: what would decide).
    Rung = Value.of(:entry, :clause, :outcome, :field)
    # reason: :other_region, :not_listed or :excepted (clause: which one); near: a clause that nearly matched, or nil.
    Miss = Value.of(:entry, :reason, :clause, :near)
    # How many districts or numbers beside a range still count as near.
    NEAR = 3
    private_constant :NEAR

    # @return [Landing]
    attr_reader :landing
    # @return [Place]
    attr_reader :place
    # @return [Array<Rung>]
    attr_reader :rungs
    # @return [Array<Miss>]
    attr_reader :misses

    # @param zones [Zones]
    # @param address [Address]
    def initialize(zones, address)
      @place = Place.of(address)
      @address = address
      @landing = zones.land(address)
      @rungs = []
      @misses = []
      climb(zones.coverage(place.country)) if place.country
    end

    # @return [Hash] for JSON
    def dump
      { "landing" => QuoteDocument.landing(landing), "place" => place_dump,
        "remarks" => place.remarks(@address).map(&:to_s),
        "rungs" => rungs.map { |rung| rung_dump(rung) }, "misses" => misses.map { |miss| miss_dump(miss) } }
    end

    private

    def climb(coverage)
      coverage.answers(place) do |entry, answer, clause|
        if answer.no? then misses << miss(entry, clause)
        elsif answer.yes? then rungs << Rung.new(entry: entry, clause: clause, outcome: outcome(entry))
        else rungs << Rung.new(entry: entry, outcome: :open, field: answer.fact.name)
        end
      end
    end

    def outcome(entry)
      first = rungs.find { |rung| rung.outcome == :won }
      return :won if first.nil?

      first.entry.rank == entry.rank ? :lower : :less_specific
    end

    def miss(entry, clause)
      return Miss.new(entry: entry, reason: :excepted, clause: clause) if clause
      return Miss.new(entry: entry, reason: :other_region) if other_region?(entry)

      Miss.new(entry: entry, reason: :not_listed, near: entry.area.only.find { |candidate| near?(candidate) })
    end

    def other_region?(entry)
      entry.regions && place.regions&.none? { |region| entry.regions.include?(region) }
    end

    # The same letters read character by character, or a range that begins or ends close by.
    def near?(clause)
      code = place.postcode&.text or return false
      return code.start_with?(clause.key) if clause.kind == :code
      return false unless clause.kind == :range
      return true if code.start_with?(clause.text.split(" to ").first)

      structured = Postcode.structured?(place.country)
      place.postcode.levels.any? do |level|
        group, number = Clause.group(level, structured)
        group == clause.key && number.between?(clause.from - NEAR, clause.to + NEAR)
      end
    end

    def place_dump
      { "country" => place.country, "regions" => place.regions, "postcode" => place.postcode&.text }.compact
    end

    def rung_dump(rung)
      entry_dump(rung.entry).merge("clause" => rung.clause&.text, "outcome" => rung.outcome.to_s, "field" => rung.field)
    end

    def miss_dump(miss)
      entry_dump(miss.entry).merge("reason" => miss.reason.to_s, "clause" => miss.clause&.text,
                                   "near" => miss.near&.text)
    end

    def entry_dump(entry) = { "zone" => entry.zone.id, "country" => entry.area.country, "level" => entry.level.to_s }
  end
end
