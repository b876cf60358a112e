# frozen_string_literal: true

require_relative "../../support/core"

class ZoneFindingsTest < Minitest::Test
  include CoreSupport

  def test_each_kind_with_a_place_that_shows_it
    found = findings([[country("DE"), { "kind" => "world" }], [country("DE")], [country("GB").merge("only" => %w[IV PA1 1234567])],
                      [country("GB").merge("only" => %w[PA KW])], [{ "kind" => "regions", "country" => "US", "regions" => %w[CA] }]])
    assert_equal %w[never_wins overlap dead_clause covers_world].sort, found.map { |finding|
      finding.code.to_s
    }.uniq.sort
    hidden = found.find { |finding| finding.code == :never_wins }
    assert_equal %w[z1 z0 DE], [hidden.zone, hidden.other, hidden.example.country]
    overlap = found.find { |finding| finding.code == :overlap }
    assert_equal %w[z3 z2 PA1], [overlap.zone, overlap.other, overlap.example.postcode[0, 3]]
    assert_equal %i[problem warning warning note], found.map(&:harm)
    lost = findings([[country("DE").merge("except" => %w[1 27498])],
                     [{ "kind" => "regions", "country" => "US", "regions" => %w[CA PR] }]])
    assert_equal %i[partly_covered regions_left_out], lost.map(&:code)
    assert_includes lost.last.numbers[:regions], "HI"
    assert_equal :none, zones([[country("DE").merge("except" => ["1"])]]).land(lost.first.example).status
  end

  def test_what_a_merchant_puts_on_purpose_is_no_finding
    assert_empty findings([[country("GB").merge("only" => ["PA20"])], [country("GB").merge("only" => ["PA"])],
                           [country("GB")]])
    assert_empty findings([[country("GB").merge("except" => ["BT"])], [country("GB").merge("only" => ["BT"])]])
  end

  def test_clauses_that_another_zone_takes
    found = findings([[country("DE").merge("only" => ["10 to 29"])], [country("DE").merge("only" => %w[11 12 45])]])
    assert_equal([[:overlap, "z1"], [:clauses_hidden, "z1"]], found.reject do |one|
      one.code == :partly_covered
    end.map { |one| [one.code, one.zone] })
    assert_equal %w[11 12], found.find { |one| one.code == :clauses_hidden }.numbers[:clauses]
  end

  # Every German postcode of two digits, one by one: what is said to be hidden, to overlap or to be lost is so, and no
  # overlap, hidden area or loss is missed. (Clauses of whole digits and ranges; patterns are outside this bound.)
  def test_against_exhaustive_search
    random = Random.new(11)
    Rounds.of(300).times do
      parts = Array.new(random.rand(1..4)) { Array.new(random.rand(1..2)) { german(random) } }
      zones = zones(parts)
      truth = search(zones)
      found = GateMile::ZoneFindings.new(zones).list
      assert_equal truth[:hidden], found.select { |finding|
        finding.code == :never_wins
      }.map(&:zone).tally, parts.inspect
      assert_equal truth[:lost], found.any? { |finding| finding.code == :partly_covered }, parts.inspect
      assert_equal truth[:overlaps], found.select { |finding|
        finding.code == :overlap
      }.to_set { |finding| [finding.other, finding.zone] }, parts.inspect
      assert_equal truth[:served], GateMile::Survey.new(zones.coverage("DE")).served
    end
  end

  private

  def zones(parts)
    GateMile::Zones.new(parts.each_with_index.map do |areas, index|
      GateMile::Documents.read(GateMile::Zone, GateMile::Reader.new({ "id" => "z#{index}", "name" => "Zone #{index}", "areas" => areas }))
    end)
  end

  def findings(parts) = GateMile::ZoneFindings.new(zones(parts)).list

  def german(random)
    clause = lambda do
      from, to = [random.rand(100), random.rand(100)].sort
      [random.rand(10).to_s, format("%02d", random.rand(100)),
       format("%<from>02d to %<to>02d", from: from, to: to)].sample(random: random)
    end
    fields = country("DE")
    fields = fields.merge("only" => Array.new(random.rand(1..2)) { clause.call }) if random.rand(4).positive?
    random.rand(3).zero? ? fields.merge("except" => [clause.call]) : fields
  end

  def search(zones)
    coverage = zones.coverage("DE")
    entries = coverage.entries
    held = (0..99).map do |number|
      place = GateMile::Place.of(GateMile::Address.new(country: "DE", postcode: format("%02d555", number)))
      coverage.answers(place).filter_map { |entry, answer,| entry if answer.yes? }
    end
    hidden = entries.select do |entry|
      held.none? { |list| list.first == entry } && held.any? do |list|
        list.include?(entry)
      end
    end
    covered = held.count { |list| !list.empty? }
    { hidden: hidden.map do |entry|
      entry.zone.id
    end.tally, lost: covered.between?(1, 99), overlaps: overlaps(held, hidden),
      served: if covered.zero?
                :none
              else
                covered == 100 ? :wholly : :partly
              end }
  end

  def overlaps(held, hidden)
    pairs = held.flat_map { |list| list.drop(1).map { |entry| [list.first, entry] } }.uniq
    pairs.select! { |first, entry| first.level == entry.level && first.zone != entry.zone && !hidden.include?(entry) }
    pairs.reject! { |first, entry| held.all? { |list| !list.include?(first) || list.include?(entry) } }
    pairs.to_set { |pair| pair.map { |entry| entry.zone.id } }
  end
end
