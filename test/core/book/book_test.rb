# frozen_string_literal: true

require_relative "../../support/core"
require "json_schemer"
require "open3"
require "time"

class BookTest < Minitest::Test
  include CoreSupport

  # ISO 3166-1 as Debian's package iso-codes holds it.
  def test_country_codes_against_debians_iso_codes
    listed = JSON.parse(File.read("/usr/share/iso-codes/json/iso_3166-1.json")).fetch("3166-1").map do |entry|
      entry["alpha_2"]
    end
    assert_equal listed.sort, GateMile::Countries::CODES
  end

  # One treatment takes the place of the one with its id, and of no other.
  def test_with_another_treatment
    treated = %w[a b].map { |id| { "id" => id, "name" => id, "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "3.00" } } } }
    shop = book(treatments: treated)
    other = shop.treatments.first.with(name: "other")
    assert_equal([%w[other b], %w[a b]], [shop.with_treatment(other), shop].map { |one| one.treatments.map(&:name) })
  end

  def test_every_problem_of_a_document_is_told_at_its_place
    bad = document(store: STORE.merge("currency" => "GBX", "time_zone" => "Europe/Tarrow"),
                   products: [{ "sku" => "A", "name" => "x" * 300, "price" => "-1", "colour" => "red" }],
                   zones: [{ "id" => "z", "name" => "", "areas" => [country("XX"), { "kind" => "moon" }] }],
                   methods: "none", rates: [{ "id" => "r", "zone" => "z", "method" => "m", "plan" => { "schedule" => { "kind" => "tidal" } } }])
    expected = [["/store/currency", :unknown_currency], ["/store/time_zone", :unknown_time_zone],
                ["/products/0/name", :too_long], ["/products/0/price", :negative], ["/products/0/colour", :unknown_field], ["/zones/0/name", :missing],
                ["/zones/0/areas/0/country", :unknown_country], ["/zones/0/areas/1/kind", :not_one_of],
                ["/methods", :not_a_list], ["/rates/0/plan/schedule/kind", :not_one_of]]
    assert_equal expected.sort, problems_of { GateMile::Book.compile(bad) }.sort
  end

  def test_parts_that_do_not_go_together
    bad = document(zones: [{ "id" => "z", "name" => "Isles", "areas" => [] }, { "id" => "y", "name" => "ISLES", "areas" => [] }],
                   rates: [{ "id" => "r", "zone" => "z", "method" => "m" }, { "id" => "s", "zone" => "z", "method" => "m" },
                           { "id" => "t", "zone" => "gone", "method" => "m" }])
    assert_equal([["/zones/1/name", :twice], ["/rates/2/zone", :unknown_id], ["/rates/1/method", :twice]],
                 problems_of { GateMile::Book.compile(bad) })
    assert_equal [["", :not_an_object]], problems_of { GateMile::Book.compile([]) }.first(1)
  end

  def test_carts_that_can_not_be_quoted
    { line("A", 0) => :out_of_range, line("A", 1_000_000_000) => :out_of_range, line("A", 1.5) => :not_whole,
      line("A", "2") => :not_whole }.each do |bad, code|
      assert_equal([["/lines/0/quantity", code]], problems_of { cart({ "lines" => [bad] }) })
    end
    assert_equal([["/destination/country", :unknown_country]], problems_of do
      cart({ "lines" => [], "destination" => to("XX") })
    end)
    assert_equal([["/lines", :missing]], problems_of { cart({}) })
    assert_equal([["/lines/0/unit_price", :too_many_decimals]], problems_of do
      cart({ "lines" => [line("A", 1, unit_price: "1.999")] })
    end)
  end

  def test_dump_is_the_inverse_of_compile_and_fits_the_published_schemas
    demo = JSON.parse(File.read(File.join(ROOT, "demo/book.json")))
    book = GateMile::Book.compile(demo)
    assert_equal book.dump, GateMile::Book.compile(JSON.parse(JSON.generate(book.dump))).dump
    opening = JSON.parse(File.read(File.join(ROOT, "demo/cart.json")))
    priced = book.quote(cart(opening), at: AT)
    refused = quote(book, [line("NOPE")], to("GB"))
    { "book" => [demo, book.dump, document], "cart" => [opening, cart(opening).dump],
      "quote" => [priced.dump, refused.dump] }.each do |name, values|
      schema = JSONSchemer.schema(JSON.parse(File.read(File.join(ROOT, "docs/formats/#{name}.schema.json"))))
      values.each { |value| assert_empty(schema.validate(value).map { |error| error["error"] }) }
    end
  end

  def test_bin_quote_prints_the_quote_of_the_book
    files = %w[book.json cart.json].map { |name| File.join(ROOT, "docs/formats/examples", name) }
    out, status = Open3.capture2(File.join(ROOT, "bin/quote"), *files, AT.iso8601)
    assert status.success?
    book = GateMile::Book.compile(JSON.parse(File.read(files.first)))
    expected = book.quote(GateMile::Cart.parse(JSON.parse(File.read(files.last)), book.currency), at: AT).dump
    assert_equal expected, JSON.parse(out)
    assert_equal "19.00", expected["methods"].first["price"]
    _, error, failed = Open3.capture3(File.join(ROOT, "bin/quote"), "/nowhere.json", files.last)
    refute failed.success?
    assert_match %r{\A/nowhere.json: No such file}, error
  end

  # The core stands alone: it loads, all of it, with the libraries of its own Gemfile, and its code names nothing of the
  # world outside.
  def test_the_core_knows_nothing_of_the_world
    own = { "RUBYOPT" => nil, "BUNDLE_GEMFILE" => File.join(ROOT, "core/Gemfile"), "BUNDLE_PATH" => File.join(ROOT, "vendor/bundle") }
    out, status = Open3.capture2e(own, "ruby", "-rbundler/setup",
                                  "-I#{File.join(ROOT, "core")}", "-e", "require 'gate_mile'; GateMile.load_all; print GateMile::Book::FORMAT")
    assert_equal ["gate-mile/book", true], [out, status.success?]
    code = Dir[File.join(ROOT, "core/**/*.rb")].flat_map do |file|
      File.readlines(file).grep_v(/^\s*#/).map do |text|
        [file, text]
      end
    end
    foreign = /\b(File\.|IO\.|Dir\b|ENV\b|Socket\b|Random\b|Process\b|ActiveRecord|Sinatra|Faraday)|Time\.now|Date\.today|\brand\b|\.to_f\b|Float\(/
    assert_empty(code.select { |_, text| text.match?(foreign) })
  end
end
