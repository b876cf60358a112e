# frozen_string_literal: true

require_relative "../../support/core"
require "open3"

# Postcodes in the form of one country that lie in another: they land there, and it is said. France and the United States are held against the
# open lists of the npm packages codes-postaux 4.1.2 and zipcodes 8.0.0.
class OwnCountriesTest < Minitest::Test
  include CoreSupport

  WEB = File.expand_path("../../../web", __dir__)

  def listed(script) = JSON.parse(Open3.capture2("node", "-e", "console.log(JSON.stringify(#{script}))", chdir: WEB)[0])
  def of(country, code) = GateMile::OwnCountries.of(country, GateMile::Postcode.of(country, code))

  # The first three figures of a commune's number, as the statistical office gives it (INSEE).
  OVERSEAS = { "971" => "GP", "972" => "MQ", "973" => "GF", "974" => "RE", "975" => "PM", "976" => "YT", "977" => "BL", "978" => "MF", "984" => "TF",
               "986" => "WF", "987" => "PF", "988" => "NC" }.freeze

  def test_france
    found = listed("require('codes-postaux/codes-postaux.json')").group_by { |one| one["codePostal"] }
    expected = found.transform_values { |all| all.map { |one| OVERSEAS[one["codeCommune"][0, 3]] }.uniq }
    assert_operator expected.count { |_, countries| countries != [nil] }, :>, 100
    wrong = expected.select { |code, countries| countries.size == 1 && of("FR", code) != countries.first }
    assert_empty(wrong.reject { |code, _| code.start_with?("980") }, "Monaco is no commune of France")
    assert_equal "MC", of("FR", "98000")
  end

  def test_united_states
    states = listed("require('zipcodes').codes").select { |_, found| found["country"] == "US" }.transform_values { |found| found["state"] }
    territories = %w[PR VI AS GU MP PW FM MH]
    wrong = states.reject { |code, state| of("US", code) == (state if territories.include?(state)) }
    assert_empty wrong
  end

  PLACES = { %w[FR 97133] => "BL", %w[FR 97150] => "MF", %w[FR 97110] => "GP", %w[FR 98000] => "MC", %w[FI 22100] => "AX", ["GB", "GX11 1AA"] => "GI",
             %w[NO 9170] => "SJ", %w[NO 8099] => "SJ", %w[IT 00120] => "VA", %w[IT 47890] => "SM", %w[CH 9490] => "LI", %w[US 96960] => "MH",
             %w[AU 2899] => "NF", %w[DK 3900] => "GL", ["GB", "FIQQ 1ZZ"] => "FK", ["GB", "JE2 3AB"] => "JE", %w[CN 999077] => "HK" }.freeze
  HOME = { "FR" => "75001", "FI" => "20100", "GB" => "G1 1AA", "NO" => "9100", "IT" => "00100", "CH" => "9480", "US" => "96700", "AU" => "2900",
           "DK" => "3800", "CN" => "100000" }.freeze

  # Where a zone holds the country and another one the world, such an address goes to the world, and is told where it lies.
  def test_where_they_land
    PLACES.each do |(country, code), own|
      zones = { "home" => country(country), "all" => { "kind" => "world" } }.map { |id, area| { "id" => id, "name" => id, "areas" => [area] } }
      shop = book(zones: zones, rates: [])
      land = ->(text) { shop.zones.land(GateMile::Address.new(country: country, postcode: text, lines: [])) }
      landing = land.call(code)
      assert_equal ["all", own, true], [landing.zone.id, landing.place.country, landing.remarks.include?(:own_country)], [country, code].inspect
      assert_equal own, GateMile::QuoteDocument.landing(landing)["country"]
      home = land.call(HOME.fetch(country))
      assert_equal ["home", false], [home.zone.id, home.remarks.include?(:own_country)], country
    end
  end

  # A zone that names the place itself gets it, and no word is said to whoever names the right country.
  def test_a_zone_of_their_own
    zones = %w[FR BL].map { |code| { "id" => code, "name" => code, "areas" => [country(code)] } }
    shop = book(zones: zones, rates: [])
    land = ->(country, code) { shop.zones.land(GateMile::Address.new(country: country, postcode: code, lines: [])) }
    assert_equal(%w[BL BL FR], [%w[FR 97133], %w[BL 97133], %w[FR 75001]].map { |place| land.call(*place).zone.id })
    refute_includes land.call("BL", "97133").remarks, :own_country
  end
end
