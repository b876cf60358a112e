# frozen_string_literal: true

require_relative "../../support/core"
require "uk_postcode"

# What shoppers and merchants type that is not quite right: it is understood, or told, and never moves a parcel.
class SlipsTest < Minitest::Test
  include CoreSupport

  OUTWARD = %w[B1 B99 BT9 BT10 E1 E1W EC1A EH1 G1 GL5 IM1 IV1 JE2 L1 LA1 PA2 PA20 SW1A W1A WC2N ZE3].freeze
  SPACES = [" ", "\u00a0", "\u2009", "\u202f", "\u3000", "\t", "  ", ", ", ".", "-", "\u2013", "\u200b", ""].freeze

  def levels(text, country = "GB") = GateMile::Postcode.of(country, text).levels

  def test_british_slips_stay_in_their_district
    ["BT9 SAA", "BT9, 5AA", "BT9\u00a05AA", "bt9.5aa", "\uFF22\uFF34\uFF19 \uFF15AA", "BT9 5A", "BT9 5", "BT9SAA", "BT95AA"].each do |text|
      assert_equal %w[BT BT9], levels(text).first(2), text
    end
    { "EH1 OAA" => %w[EH EH1], "IM1 OAA" => %w[IM IM1], "W1A OAX" => %w[W W1 W1A], "PA2 OAB" => %w[PA PA2] }.each do |text, wanted|
      assert_equal wanted, levels(text).first(wanted.size)
    end
    %w[BTX 1AA B! NOWHERE BIRMINGHAM].each { |text| assert_equal [text], levels(text) }
    refute(%w[BTX NOWHERE BIRMINGHAM].any? { |text| clause("B").match?(GateMile::Postcode.of("GB", text), true) })
    assert_equal ["BT"], levels("BT95AAX")[0...-1], "an area and nothing below it"
  end

  # What is open only between places of one zone is not open: the rest of the country is that zone's, too.
  def test_open_within_one_zone
    alone = zones_of([area("GB", only: ["PA2 0"]), area("GB")])
    assert_equal "z0", land(alone, "GB", "PA2").zone&.id
    apart = zones_of([area("GB", only: ["PA2 0"])], [area("GB")])
    assert_equal "undetermined", written(land(apart, "GB", "PA2"))["status"]
  end

  # Every code of many districts with one slip in its inward part, in every way of writing it apart: it meets the clauses
  # of its district and its area, and no other.
  def test_no_slip_moves_a_parcel
    random = Random.new(31)
    Rounds.of(2500).times do
      outward = OUTWARD.sample(random: random)
      space = SPACES.sample(random: random)
      inward = slip("#{random.rand(10)}#{%w[AA BD XY ZZ].sample(random: random)}", random, space)
      postcode = GateMile::Postcode.of("GB", [outward, inward].join(space).then { |text| random.rand(2).zero? ? text.downcase : text })
      area = UKPostcode.parse("#{outward} 1AA").area
      met = (OUTWARD + %w[B BT E EC EH G I L P PA W]).select { |text| clause(text).match?(postcode, true) }
      allowed = [area, outward, outward[/\A[A-Z]+\d+/]]
      assert_empty met - allowed, "#{outward}#{space}#{inward} met #{met}"
      assert_includes met, outward, "#{outward}#{space}#{inward} is still in #{outward}" unless space.strip.empty? && inward.length != 3
    end
  end

  def test_what_is_told
    told = ->(country, text) { GateMile::Place.of(GateMile::Address.new(country: country, postcode: text)).remarks(GateMile::Address.new(country: country, postcode: text)) }
    { ["GB", "BT9 SAA"] => [:malformed_postcode], ["GB", "BT9 5AA"] => [], %w[GB BT9] => [], ["GB", "IV1 1A"] => [:unfinished_postcode],
      ["GB", "IV1 1"] => [:unfinished_postcode], %w[GB BTX] => [:malformed_postcode], %w[US 2134] => [:lost_zero], %w[AU 800] => [:lost_zero],
      %w[US 02134] => [],
      %w[US 213] => [], %w[AT 101] => [], %w[DE 1067] => [:lost_zero], %w[US 21345678901] => [:malformed_postcode], %w[LV LV-1010] => [], %w[DE D-10115] => [] }
      .each { |(country, text), wanted| assert_equal wanted, told.call(country, text), "#{country} #{text}" }
    quote = quote(book, [line], { "country" => "GB", "postcode" => "IM1 OAA" })
    assert_equal ["all", "IM", %w[own_country malformed_postcode]], quote.dump["landing"].values_at("zone", "country", "remarks"), "a slip on Man is on Man"
  end

  def test_a_sector_is_no_district
    sector = clause("PA2 0")
    assert_equal ["PA2 0", true, false],
                 [sector.text, sector.match?(GateMile::Postcode.of("GB", "PA2 0AB"), true), sector.match?(GateMile::Postcode.of("GB", "PA20 9XX"), true)]
    zones = zones_of([area("GB", only: ["PA2 0"])], [area("GB")])
    assert_equal(%w[z0 z1 z1], ["PA2 0AB", "PA2 9AB", "PA20 0AB"].map { |text| land(zones, "GB", text).zone.id })
    assert_equal %w[undetermined postcode], written(land(zones, "GB", "PA2")).values_at("status", "decides")
    assert_equal "z0", land(zones, "GB", "PA2 0A").zone.id, "what is known of the inward code is in the sector"
    assert_empty(GateMile::ZoneFindings.new(zones).list.reject { |finding| finding.harm == :note })
  end

  # A partial postcode leaves the address open exactly where some whole postcode below it lands elsewhere.
  def test_partials_against_every_way_to_finish_them
    random = Random.new(32)
    clauses = ["IV", "IV1", "IV1 1AA", "IV1 1", "IV11", "IV1#", "IV1@", "IV1 1@@", "IV1 #AA", "EC1", "EC1A", "EC1A 1BB", "IV10 to IV15"]
    Rounds.of(250).times do
      parts = Array.new(random.rand(1..3)) do
        [area("GB", only: clauses.sample(random.rand(0..2), random: random), except: clauses.sample(random.rand(0..2), random: random))]
      end
      zones = zones_of(*parts)
      text = ["IV", "IV1", "IV1 1", "IV1 1A", "EC1", "EC1A", "EC1A 1"].sample(random: random)
      whole = completions(text).map { |code| land(zones, "GB", code).zone&.id }.uniq
      landing = land(zones, "GB", text)
      assert_equal whole, [landing.zone&.id], [text, parts].inspect if landing.status != :undetermined
      assert_empty whole - (landing.candidates || [landing.zone]).map { |zone| zone&.id }, [text, parts].inspect
    end
  end

  def test_clauses_and_addresses_are_read_alike
    { %w[LV LV-1010] => %w[1010 LV-1010 LV1010], %w[DE DE-10115] => %w[10115 D-10115 DE10115], %w[AD AD500] => %w[500 AD500 ad-500],
      %w[US 45202-1234] => %w[45202 45202-9999 452021234], ["SE", "S-111 22"] => ["111 22", "SE-11122"], ["DE", "DE-10000 to DE-19999"] => %w[D-12345 12345],
      ["DE", "D-1011#"] => %w[10115], %w[MD MD-20] => %w[MD-2001 2001], ["NL", "NL 1012 AB"] => ["1012AB", "NL-1012 ab"] }.each do |(country, text), addresses|
      addresses.each { |code| assert GateMile::Clause.parse(text, country).match?(GateMile::Postcode.of(country, code), false), "#{country} #{text} #{code}" }
    end
    random = Random.new(33)
    %w[LV DE AD US SE FR CH NL CA GB].each do |country|
      60.times do
        form = GateMile::Postcode::FORMS.fetch(country, "@@# #@@")
        code = form.gsub("#") { random.rand(1..9).to_s }.gsub(/[@*]/) { ("A".."Z").to_a.sample(random: random) }
        dressed = ["#{country}-#{code}", code.downcase, code.chars.join(" "), "#{code[0..1]}.#{code[2..]}"].select do |text|
          country != "GB" || !text.start_with?("GB")
        end
        dressed.reject! { |text| text.start_with?(country) && !form.start_with?("#") }
        dressed.repeated_permutation(2) do |one, other|
          # Written apart in other places a British code is another one.
          next if country == "GB" && [one, other].any? { |text| text.include?(".") }

          assert GateMile::Clause.parse(one, country).match?(GateMile::Postcode.of(country, other), country == "GB"), "#{country}: #{one} and #{other}"
        end
      end
    end
  end

  def test_clauses_that_match_nothing_are_doubted_with_what_was_meant
    doubts = ->(text, country) { GateMile::ClauseList.parse(text, country).doubts.map { |one| [one[:text], one[:doubt].code, one[:doubt].meant || one[:doubt].country] } }
    assert_equal [["1000-1999", :never_matches, "1000 to 1999"]], doubts.call("1000-1999, 1000, 10##", "DE")
    assert_equal [["PA20-PA49", :never_matches, "PA20 to PA49"], ["pa20–pa49", :never_matches, "PA20 to PA49"]],
                 doubts.call("PA20-PA49; pa20–pa49; PA20 to PA49; PA", "GB")
    assert_equal [["JE", :other_country, "JE"], ["GY1 to GY4", :other_country, "GG"], ["IM2", :other_country, "IM"]],
                 doubts.call("JE; GY1 to GY4; IM2; J", "GB").first(3)
    assert_equal [["1O115", :never_matches, "10115"]], doubts.call("1O115", "DE")
    assert_equal [["ABCDE", :never_matches, nil]], doubts.call("ABCDE", "DE")
    %w[100-0001 00-950 1000-001].zip(%w[JP PL PT]).each { |text, country| assert_empty doubts.call(text, country), "hyphens of their own" }
    assert_empty doubts.call("JE2 3AA", "JE")
    # None of them keeps a book from being read: it was stored before anybody asked.
    assert_equal ["10001999"], book(zones: [{ "id" => "uk", "name" => "UK", "areas" => [area("DE", only: ["1000-1999"])] }, { "id" => "all", "name" => "All",
                                                                                                                              "areas" => [] }])
      .zones.first.areas.first.only.map(&:text)
  end

  # Spellings from memory, and from the list of the postal services' own words for it (common practice, no source).
  def test_post_office_boxes_in_many_spellings
    seen = ["BOÎTE POSTALE 12", "BOI\u0302TE POSTALE 12", "boite postale", "PO-Box 12", "P.O.\u00a0Box 12", "P/O Box", "Post-Office Box", "Post Box",
            "Post Box 44", "Private Bag",
            "Private Bag X123", "Postboks 7", "Case postale 3", "Caixa Postal 9", "Apartado 12", "APARTADO DE CORREOS 3", "Postfach", "PO Box 12", "p o box 3",
            "P. O. Box 4", "POB 44",
            "GPO Box 1", "BP 45", "B.P. 45", "12 rue du Quai BP 45", "Locked Bag 12", "Apdo. 12", "Casella postale 8", "Postbus 1", "Post Office Box 9",
            "\uFF30\uFF2F Box 3"]
    not_seen = ["Block B P2", "Unit B P4", "Unit BP4", "PO Boxall Ltd", "Post Office Boxley Road", "1 Apartadora", "12 Boxwood Lane", "The Post House",
                "Pobble Street 4", "Box Hill Farm",
                "Old Post Office", "3 Casepostal Way", "Postfachschule", "BPM House", "Private Baggage Store", "Post Box Cottage", "Tempo Box Factory"]
    assert_empty(seen.reject { |line| po_box?(line) })
    assert_empty(not_seen.select { |line| po_box?(line) })
    assert_empty(["", " ", "\u00a0", "\u200b\t"].select { |line| GateMile::Address.new(lines: [line]).street.any? })
    rule = [{ "id" => "r", "name" => "No boxes", "when" => { "all" => [{ "fact" => "po_box" }] }, "then" => [{ "kind" => "hide" }] }]
    found = lambda { |*lines|
      quote(book(rules: rule), [line], { "country" => "GB", "lines" => lines }).method_quotes.first.then do |one|
        [one.status, one.provisional]
      end
    }
    assert_equal [[:available, [:street]], [:available, [:street]], [:available, []], [:unavailable, []]],
                 [found.call, found.call(" ", "\u00a0"), found.call("1 Quay"), found.call(" ", "PO-Box 3")]
  end

  private

  def po_box?(line) = GateMile::Address.new(country: "GB", lines: [line]).po_box?
  def clause(text) = GateMile::Clause.parse(text, "GB")
  def area(country, only: [], except: []) = { "kind" => "country", "country" => country, "only" => only, "except" => except }
  def land(zones, country, postcode) = zones.land(GateMile::Address.new(country: country, postcode: postcode, lines: []))

  def zones_of(*lists)
    GateMile::Zones.new(lists.each_with_index.map do |areas, at|
      GateMile::Documents.read(GateMile::Zone, GateMile::Reader.new({ "id" => "z#{at}", "name" => "Z#{at}", "areas" => areas }))
    end)
  end

  # A figure that became a letter of its look, or a letter that became a figure; or, where it stands apart, one too many or too few.
  def slip(inward, random, space)
    kinds = [-> { inward.tr("0123456789", "OIZEASGTBG") }, -> { inward }]
    kinds += [-> { "#{inward}X" }, -> { inward[0..1] }, -> { inward[0] }] unless space.strip.empty? && !space.match?(/\u00a0|\u2009|\u202f|\u3000|\t| /)
    found = kinds.sample(random: random).call
    found.match?(/\A[EA]/) ? inward : found
  end

  def completions(text)
    code = GateMile::Postcode.of("GB", text).british
    districts = code.district.nil? ? %w[1 2 10 11 15 16 20 1A].map { |number| "#{code.area}#{number}" } : [code.outward]
    districts += %w[A B].map { |letter| "#{code.outward}#{letter}" } if code.inward.nil? && code.outward.match?(/[A-Z]\d\z/)
    districts.flat_map { |outward| %w[1AA 1AB 1BB 2AA 9ZZ].select { |rest| rest.start_with?(code.inward.to_s) }.map { |rest| "#{outward} #{rest}" } }
  end
end
