# frozen_string_literal: true

require_relative "../../support/core"
require "countries"
require "uk_postcode"

class GeographyTest < Minitest::Test
  include CoreSupport

  # Debian's iso-codes is a second, independent list of ISO 3166-2. In these countries it differs from ours (that of the
  # countries gem), for one reason each:
  DIFFERING = {
    "BI" => "ours keeps the former province of Bujumbura beside its two successors", "CV" => "ours has the two groups of islands too",
    "FR" => "ours has the codes of 2021 and later (Paris, Lyon, Alsace), Debian's the letters of overseas departments",
    "GT" => "ours has the digits of 2021, Debian's the letters before", "IN" => "ours has the letters of 2023 (CG, OD, TS, UK)",
    "IQ" => "ours has the Kurdistan Region too", "IS" => "ours has the merged municipality of 2022, Debian's the merged ones",
    "LR" => "the gem invents codes for two new counties; ours leaves them out", "LV" => "ours has the municipalities of the reform of 2021",
    "MA" => "ours has regions and prefectures that the standard has withdrawn", "MH" => "ours has an atoll that Debian's leaves out",
    "ZA" => "ours has ZN for KwaZulu-Natal, which the standard writes KZN since 2020"
  }.freeze

  def test_regions_against_debians_iso_codes
    listed = JSON.parse(File.read("/usr/share/iso-codes/json/iso_3166-2.json")).fetch("3166-2").map do |entry|
      entry["code"]
    end
    theirs = listed.group_by { |code| code[0, 2] }.transform_values { |codes| codes.map { |code| code[3..] }.sort }
    differing = GateMile::Countries::CODES.reject do |country|
      GateMile::Regions.of(country).sort - (country == "US" ? GateMile::Regions::MILITARY : []) == theirs.fetch(
        country, []
      )
    end
    assert_equal DIFFERING.keys - ["LR"], differing
    parents = JSON.parse(File.read("/usr/share/iso-codes/json/iso_3166-2.json")).fetch("3166-2").select do |entry|
      entry["parent"]
    end
    parents.each do |entry|
      country, code = entry["code"].split("-", 2)
      next unless ([code, entry["parent"].split("-").last] - GateMile::Regions.of(country)).empty?

      assert_equal entry["parent"].split("-").last, GateMile::Regions.chain(country, code)[1]
    end
    assert_equal 51, (GateMile::Regions.of("US") - GateMile::Regions::US_OUTLYING - GateMile::Regions::MILITARY).size
  end

  # The territories with two codes: the standard's own remark on each ("included also as a country"), from memory.
  def test_places_with_two_spellings_are_one
    zones = zones_of([{ "kind" => "regions", "country" => "US", "regions" => %w[PR CA] }, country("GP")],
                     [country("HK"), country("US"), country("FR")])
    { %w[US PR] => 0, ["PR", nil] => 0, %w[FR 971] => 0, %w[FR GP] => 0, %w[CN HK] => 1, %w[US CA] => 0, %w[US NY] => 1, ["GU", nil] => nil,
      %w[FR RE] => nil, %w[FR IDF] => 1 }.each do |(code, region), zone|
      landing = land(zones, "country" => code, "region" => region)
      if zone
        assert_equal("z#{zone}", landing.zone&.id,
                     "#{code} #{region}")
      else
        assert_equal(:none, landing.status, "#{code} #{region}")
      end
    end
    man = zones_of([country("GB")], [country("IM"), country("JE"), country("GG")])
    { "IM29 4ZZ" => "z1", "JE29 4ZZ" => "z1", "GY29 4ZZ" => "z1", "TR29 4ZZ" => "z0" }.each do |code, zone|
      assert_equal zone, land(man, "country" => "GB", "postcode" => code).zone.id
    end
    GateMile::Territories::BY_REGION.each do |country, places|
      places.each { |region, code| assert_includes GateMile::Countries::CODES, code, "#{country}-#{region}" }
    end
  end

  # uk_postcode is a second opinion on structure: area, district and outward code of thousands of generated postcodes.
  def test_british_postcodes_against_uk_postcode
    random = Random.new(3)
    Rounds.of(4000).times do
      text = british(random)
      theirs = UKPostcode.parse(text)
      next unless theirs.full? && theirs.valid?

      ours = GateMile::Postcode.of("GB", random.rand(2).zero? ? text.downcase : text.delete(" "))
      assert ours.well_formed?
      assert_equal [theirs.area, theirs.outcode], [ours.levels.first, ours.levels[-2]], text
      wrong = text.sub(/\d/) { |digit| ((digit.to_i + 1) % 10).to_s }
      assert GateMile::Clause.parse(theirs.outcode, "GB").match?(ours, true)
      refute GateMile::Clause.parse(theirs.outcode, "GB").match?(GateMile::Postcode.of("GB", wrong), true),
             "#{text} #{wrong}"
    end
  end

  # Published forms of postcodes, against those that the countries gem carries: whatever we write is one of theirs.
  def test_forms_against_the_countries_gem
    GateMile::Postcode::FORMS.each do |code, form|
      theirs = ISO3166::Country[code].postal_code_format or next
      ours = form.tr("#", "0").tr("@", "A").tr("*", "0")
      sample = if %w[CA IE NL
                     MT].include?(code)
                 { "CA" => "K1A 0B1", "IE" => "D02 X285", "NL" => "1012 AB",
                   "MT" => "VLT 1117" }[code]
               else
                 ours
               end
      assert GateMile::Postcode.of(code, sample).well_formed?, code
      digits = theirs.scan(/\\d(?:\{(\d)(?:,\d)?\})?/).sum do |count|
        (count.first || 1).to_i
      end + theirs.gsub(/\\d(\{[\d,]+\})?/, "").scan(/\d/).size
      assert_operator digits, :>=, 1, code if form.include?("#")
    end
    published = { "US" => "00501-0001", "CA" => "K1A 0B1", "IE" => "D02 X285", "NL" => "1012 AB", "GB" => "EC1A 1BB" } # from memory
    assert(published.all? { |code, text| GateMile::Postcode.of(code, text).well_formed? })
    assert_equal "00501", GateMile::Postcode.of("US", "00501-0001").text
    refute(%w[GB US NL].any? { |code| GateMile::Postcode.of(code, "1A").well_formed? })
  end

  def test_clauses_meet_what_they_say
    { "PA2" => { "PA2 0AB" => true, "PA20 9XX" => false }, "B" => { "B1 1AA" => true, "BT1 1AA" => false },
      "EC1" => { "EC1A 1BB" => true, "EC10 1BB" => false },
      "PA20 to PA49" => { "PA34 4AA" => true, "PA50 4AA" => false, "PH20 1AA" => false }, "IV#" => { "IV3 5AA" => true, "IV30 5AA" => false },
      "TR29 4ZZ" => { "tr294zz" => true, "TR29 4ZY" => false } }.each do |clause, cases|
      cases.each { |text, expected| assert_equal expected, meets?("GB", clause, text), "#{clause} #{text}" }
    end
    { %w[US 452 45201-1234] => true, %w[US 452 45301] => false, ["DE", "1000 to 1999", "19998"] => true, ["DE", "1000 to 1999", "20001"] => false,
      ["CA", "K1A", "K1A 0B1"] => true, ["IE", "D02", "D02 X285"] => true, ["NL", "1012", "1012 AB"] => true, ["NL", "101#", "1012 AB"] => true,
      ["NL", "####A@", "1012 AB"] => true, ["NL", "####B@", "1012 AB"] => false }.each do |(country, clause, text), expected|
      assert_equal expected, meets?(country, clause, text), "#{clause} #{text}"
    end
    { "1999 to 1000" => :range_backwards, "100 to 1999" => :range_lengths, "A1 to B2" => :range_letters, "#" => :only_wildcards, "" => :bad_clause,
      "10!" => :bad_clause, "X to Y" => :bad_range, "1" * 21 => :bad_clause }.each do |text, code|
      assert_equal code, malformed { GateMile::Clause.parse(text, "DE") }, text
    end
    list = GateMile::ClauseList.parse("IV; HS,\n\nbad!, iv\nKW", "GB")
    assert_equal [%w[IV HS KW], 1, [{ position: 3, line: 3, text: "bad!", code: :bad_clause }]],
                 [list.clauses.map(&:text), list.duplicates, list.faults]
  end

  def test_the_most_specific_wins_and_equals_go_by_the_list
    parts = [[{ "kind" => "world" }], [country("GB")], [{ "kind" => "regions", "country" => "GB", "regions" => ["SCT"] }],
             [country("GB").merge("only" => %w[G EH])],
             [{ "kind" => "regions", "country" => "GB", "regions" => ["SCT"], "only" => ["G"] }], [country("GB").merge("only" => ["EH1"])]]
    zones = zones_of(*parts)
    { ["SCT", "G1 1AA"] => "z4", ["SCT", "EH1 1AA"] => "z3", ["SCT", "IV1 1AA"] => "z2", %w[GLG IV11AA] => "z2",
      ["ENG", "TR1 1AA"] => "z1" }.each do |(region, code), zone|
      assert_equal zone, land(zones, "country" => "GB", "region" => region, "postcode" => code).zone.id
    end
    assert_equal "z0", land(zones, "country" => "JP").zone.id
    assert_equal(%w[z1 z0], [["B1 1AA"], ["BT1 1AA"]].map do |code,|
      land(zones_of([country("GB").merge("only" => ["BT"])], [country("GB").merge("except" => ["BT"])]), "country" => "GB", "postcode" => code).zone.id
    end)
  end

  # A plain, slow reading of the rules agrees with the index on generated zones and addresses, whatever is known of them.
  def test_the_index_against_a_plain_matcher
    random = Random.new(7)
    Rounds.of(500).times do
      list = Array.new(random.rand(1..4)) { Array.new(random.rand(1..3)) { area(random) } }
      zones = zones_of(*list)
      6.times do
        address = address(random)
        landing = land(zones, address)
        found = landing.candidates || [landing.zone]
        assert_equal plain(zones.to_a, address), found.to_set { |zone| zone&.id }, [list, address].inspect
      end
    end
  end

  def test_post_office_boxes_and_military_mail
    boxes = ["PO Box 12", "P.O. Box 7", "p o box 3", "POB 44", "Post Office Box 9", "Postfach 12 34", "BP 45", "Boîte postale 3", "Apartado 9", "Postbus 1",
             "Casella postale 8", "P O B 12", "PO BOX12", "P.O.Box12", "p.o. box: 7", "PO Box N-123", "Post Office Box", "GPO Box 4", "P/O Box 9",
             "Skrytka pocztowa 3", "Cx. Postal 12", "Τ.Θ. 1200", "а/я 15", "私書箱 12", "우체국 사서함 7"]
    homes = ["12 Boxwood Lane", "The Post House", "Pobble Street 4", "Box Hill Farm", "The Old Post Office, Box Hill 3", "Old Post Office, Box, Corsham",
             "The PO, Box", "Post Office Box Hill Road", "Box House", "3 Box Lane", "Post Box Cottage", "Bobbox 4", "Pl. 3 Maja 12", "Pf 3", "C.P. 28001"]
    assert(boxes.all? { |line| GateMile::Address.new(lines: [line]).po_box? })
    assert(homes.none? { |line| GateMile::Address.new(lines: [line]).po_box? })
    # Short forms that mean a box in one country and something else in another.
    [["SE", "Box 123"], ["FI", "PL 12"], ["NO", "Pb 9"], ["DE", "Pf. 12 34"], ["CH", "C.P. 12"], ["TR", "P.K. 34"]].each do |country, line|
      assert_equal [true, false], [country, "GB"].map { |one| GateMile::Address.new(country: one, lines: [line]).po_box? }, line
    end
    # Each sign by itself, and the same in another country or beside it. British Forces postcodes begin with BF1 (from memory).
    { ["US", "AE", nil, []] => true, ["US", "US-AP", nil, []] => true, ["GB", nil, nil, ["BFPO 801"]] => true,
      ["GB", nil, "BF1 2AT", []] => true, ["GB", nil, "bfpo 58", []] => true, ["CA", "AE", nil, []] => false,
      ["US", "NY", nil, []] => false, ["DE", nil, "BF1 2AT", []] => false, ["GB", nil, "B1 1AA", []] => false,
      ["GB", nil, "TR29 4ZZ", ["12 Harbour Row"]] => false }.each do |(country, region, postcode, lines), wanted|
      found = GateMile::Address.new(country: country, region: region, postcode: postcode, lines: lines).military?
      assert_equal wanted, found, [country, region, postcode, lines].inspect
    end
    assert_equal "z0",
                 land(zones_of([{ "kind" => "regions", "country" => "US", "regions" => ["AE"] }]), "country" => "US",
                                                                                                   "region" => "AE").zone.id
  end

  # By country: what a clause is, a postcode without its zero and with it, another one of the same clause, one of another.
  ZEROS = { "US" => %w[021 2140 02140], "BR" => %w[0131 1310-100 01310-100], "AU" => %w[08 800 0800],
            "DE" => ["01000 to 01999", "1067", "01067"] }.freeze

  # A postcode that lost its zero counts as with it: for what clauses match, and what they do not; and it is told.
  def test_a_lost_zero_is_restored
    ZEROS.each do |country, (only, short, full)|
      zones = zones_of([{ "kind" => "country", "country" => country, "only" => [only] }], [{ "kind" => "country", "country" => country }])
      landed = [short, full].map { |code| land(zones, "country" => country, "postcode" => code) }
      assert_equal [%w[z0 z0], [[:lost_zero], []]], [landed.map { |one| one.zone.id }, landed.map(&:remarks)], country
    end
    zones = zones_of([{ "kind" => "country", "country" => "US", "only" => ["214"] }], [{ "kind" => "country", "country" => "US" }])
    assert_equal(%w[z1 z1 z0 z1], %w[2140 02140 21401 2140-1234].map { |code| land(zones, "country" => "US", "postcode" => code).zone.id })
  end

  # Eircodes: the routing key of Dublin 6W lies among the numbered ones, and is no part of D06. Japanese ones may have their sign in front.
  def test_codes_with_a_form_of_their_own
    ireland = ->(*only) { zones_of([{ "kind" => "country", "country" => "IE", "only" => only }], [{ "kind" => "country", "country" => "IE" }]) }
    zones = ireland.call("D01 to D24")
    assert_equal(%w[z0 z0 z0 z1], ["D6W XY12", "D6W", "D24 A1B2", "T12 A1B2"].map { |code| land(zones, "country" => "IE", "postcode" => code).zone.id })
    assert_equal "postcode", land(zones, "country" => "IE", "postcode" => "D6").decides
    # Where it lies outside the range, and where another code is typed as far as "D6" or the range is of another letter, nothing is open.
    apart = ["D07 to D24", "T01 to T24"].map { |only| land(ireland.call(only), "country" => "IE", "postcode" => "D6").zone&.id }
    assert_equal %w[z1 z1], apart
    assert_equal "z1", land(ireland.call("D01 to D05", "D07 to D24", "D06"), "country" => "IE", "postcode" => "D6W XY12").zone.id
    japan = zones_of([{ "kind" => "country", "country" => "JP", "only" => ["900"] }], [{ "kind" => "country", "country" => "JP" }])
    assert_equal(%w[z0 z0 z1], ["〒900-0001", "〒 900-0001", "〒100-0001"].map { |code| land(japan, "country" => "JP", "postcode" => code).zone.id })
  end

  private

  def zones_of(*lists)
    GateMile::Zones.new(lists.each_with_index.map do |areas, index|
      reader = GateMile::Reader.new({ "id" => "z#{index}", "name" => "Zone #{index}", "areas" => areas })
      GateMile::Documents.read(GateMile::Zone, reader).tap { assert_empty reader.problems.map(&:to_h) }
    end)
  end

  def address_of(fields) = GateMile::Documents.read(GateMile::Address, GateMile::Reader.new(fields))
  def land(zones, fields) = zones.land(address_of(fields))

  def meets?(country, clause, text)
    GateMile::Clause.parse(clause, country).match?(GateMile::Postcode.of(country, text), GateMile::Postcode.structured?(country))
  end

  def british(random)
    area = %w[AB B BT EC G IV KA L PA PH TR ZE].sample(random: random)
    "#{area}#{random.rand(1..60)}#{if area == "EC"
                                     %w[A
                                        W].sample(random: random)
                                   end} #{random.rand(10)}#{%w[AA XY
                                                               ZZ].sample(random: random)}"
  end

  CODES = { "GB" => ["PA", "PA2", "PA20", "PA20 to PA22", "P#", "PA##", "IV", "IV1 1AA", "EC1", "EC1A"],
            "DE" => ["1", "12", "120 to 129", "12#", "12345", "5", "10000 to 20000"] }.freeze
  ADDRESSES = { "GB" => ["PA2 0AB", "PA20 2AB", "PA20", "PA", "IV1 1AA", "IV1", "EC1A 1BB", "EC1", nil], "DE" => ["12345", "12", "1", "54321", "12999", nil],
                "FR" => [nil, "1"] }.freeze
  private_constant :CODES, :ADDRESSES

  def area(random)
    return { "kind" => "world" } if random.rand(8).zero?

    country = %w[GB DE].sample(random: random)
    regions = { "GB" => %w[SCT ENG GLG], "DE" => %w[BE BY] }[country].sample(random.rand(1..2), random: random)
    fields = if random.rand(3).zero?
               { "kind" => "regions", "country" => country,
                 "regions" => regions }
             else
               country(country)
             end
    %w[only except].each do |list|
      if random.rand(3).zero?
        fields = fields.merge(list => CODES[country].sample(random.rand(1..3),
                                                            random: random))
      end
    end
    fields
  end

  def address(random)
    country = %w[GB GB DE FR].sample(random: random)
    region = { "GB" => ["SCT", "ENG", "GLG", nil], "DE" => ["BE", "BY", nil],
               "FR" => [nil] }[country].sample(random: random)
    { "country" => country, "region" => region, "postcode" => ADDRESSES[country].sample(random: random) }
  end

  # All zones that could be meant: walk the areas by how specific they are, stop at the first that surely holds.
  def plain(zones, fields)
    areas = zones.flat_map { |zone| zone.areas.map { |area| [zone, area] } }
    level = lambda do |area|
      next 4 if area.kind == :world
      next area.kind == :regions ? 0 : 1 if area.only.any?

      area.kind == :regions ? 2 : 3
    end
    possible = Set[]
    areas.each_with_index.sort_by { |(_, area), index| [level.call(area), index] }.each do |(zone, area),|
      held = holds(area, fields)
      possible << zone.id unless held == :no
      return possible if held == :yes
    end
    possible.empty? || whole(fields).any? { |one| areas.none? { |_, area| holds(area, one) == :yes } } ? possible << nil : possible
  end

  # Every whole address that what is known may be the beginning of, as far as the areas above can tell them apart.
  def whole(fields)
    code = fields["postcode"]
    codes = [code]
    codes = every_postcode(fields["country"]) if code.nil? && fields["country"] != "FR"
    codes = completions(fields["country"], code) if fields["country"] != "FR" && GateMile::Postcode.of(fields["country"], code)&.partial?
    codes.product(whole_regions(fields)).map { |postcode, region| fields.merge("postcode" => postcode, "region" => region) }
  end

  def every_postcode(country)
    return %w[B EC IV PA].flat_map { |area| completions("GB", area) } if country == "GB"

    (0..99_999).step(97).map { |number| format("%05d", number) } + ["12345"]
  end

  def whole_regions(fields)
    { nil => { "GB" => %w[GLG EDH WLS CON], "DE" => %w[BE BY HH], "FR" => [nil] }.fetch(fields["country"]), "SCT" => %w[GLG EDH],
      "ENG" => %w[CON DEV] }.fetch(fields["region"]) { [fields["region"]] }
  end

  def holds(area, fields)
    return :yes if area.kind == :world
    return :no unless area.country == fields["country"]

    chain = fields["region"] && GateMile::Regions.chain(area.country, fields["region"])
    region = area.kind == :country || (chain ? in_chain(area, chain) : :maybe)
    code = GateMile::Postcode.of(area.country, fields["postcode"])
    parts = [region, meets_one(area.only, code, area.country, true),
             denies(meets_one(area.except, code, area.country, false))]
    return :no if parts.include?(false)

    parts.all?(true) ? :yes : :maybe
  end

  # Where only an outer region is known, an area of regions inside it may hold.
  def in_chain(area, chain)
    return true if chain.intersect?(area.regions)

    area.regions.any? { |region| GateMile::Regions.chain(area.country, region).include?(chain.first) } ? :maybe : false
  end

  def denies(answer) = answer == :maybe ? :maybe : !answer

  def meets_one(clauses, code, country, none)
    return none if clauses.empty?
    return :maybe if code.nil?
    return true if clauses.any? { |clause| clause.match?(code, GateMile::Postcode.structured?(country)) }

    if code.partial? && clauses.any? do |clause|
      completions(country, code.text).any? do |text|
        clause.match?(GateMile::Postcode.of(country, text), country == "GB")
      end
    end
      :maybe
    else
      false
    end
  end

  # Every way in which the beginning of a postcode can go on, as far as the clauses above can tell them apart.
  def completions(country, text)
    return (0..9).to_a.repeated_permutation(5 - text.length).map { |digits| text + digits.join } if country == "DE"

    districts = text.match?(/\d/) ? [text, "#{text}A"] : (1..99).map { |number| "#{text}#{number}" } + ["#{text}1A"]
    districts.flat_map { |district| ["#{district}1AA", "#{district}9ZZ"] }
  end
end
