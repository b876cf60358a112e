# frozen_string_literal: true

require_relative "../../support/core"

# Whatever stands in a document, the core answers with values or with the places of what is wrong; it never breaks.
class TotalTest < Minitest::Test
  include CoreSupport

  NONSENSE = [nil, true, 0, -1, 1.5, 10**30, "", " ", "0", "-0", "1e9", "£4", "IV", "#", "x" * 500, "\u0000", "é\u0301", [], {},
              [[]], { "kind" => "flat" }, ["IV", 3, nil], "1 to 9", "PA2 to PA1"].freeze

  def test_a_document_with_anything_in_any_place
    random = Random.new(5)
    whole = document(zones: [{ "id" => "uk", "name" => "UK",
                               "areas" => [{ "kind" => "country", "country" => "GB", "only" => %w[IV PA20],
                                             "except" => ["KW1"] },
                                           { "kind" => "regions", "country" => "US", "regions" => %w[CA NY] }] },
                             { "id" => "all", "name" => "Rest", "areas" => [{ "kind" => "world" }] }])
    Rounds.of(1500).times do
      broken = spoil(JSON.parse(JSON.generate(whole)), random)
      book = begin
        GateMile::Book.compile(broken)
      rescue GateMile::Invalid => e
        assert(e.problems.all? { |problem| problem.pointer.is_a?(String) && problem.code.is_a?(Symbol) })
        next
      end
      assert_equal book.dump, GateMile::Book.compile(book.dump).dump
    end
  end

  def test_a_cart_with_anything_in_any_place
    random = Random.new(6)
    book = book()
    quoted = 0
    Rounds.of(1500).times do
      broken = spoil({ "lines" => [line("A", 2), line("V", 1, unit_price: "3.00", weight: "3 oz")],
                       "destination" => { "country" => "GB", "region" => "SCT", "postcode" => "IV1 1AA",
                                          "lines" => ["PO Box 3"] } }, random)
      sent = begin
        cart(broken)
      rescue GateMile::Invalid
        next
      end
      quoted += 1
      quote = book.quote(sent, at: AT)
      assert_equal quote.dump, book.quote(cart(JSON.parse(JSON.generate(sent.dump))), at: AT).dump
      quote.method_quotes.each { |method| assert_equal method.available?, !method.price.nil? }
    end
    assert_operator quoted, :>, Rounds.of(100)
  end

  def test_findings_and_ladders_of_whatever_compiles
    random = Random.new(8)
    texts = ["IV", "IV#", "PA20 to PA80", "10##", "1000 to 1999", "TR29 4ZZ", "45", "@1", "0", "999999"]
    Rounds.of(200).times do
      areas = Array.new(random.rand(1..3)) do
        code = %w[GB DE US JE AQ NL CA].sample(random: random)
        { "kind" => "country", "country" => code,
          "only" => texts.sample(random.rand(0..3), random: random).select { |text| fine?(text, code) },
          "except" => texts.sample(random.rand(0..2), random: random).select { |text| fine?(text, code) } }
      end
      zones = book(zones: [{ "id" => "uk", "name" => "One", "areas" => areas },
                           { "id" => "all", "name" => "Two", "areas" => areas.first(1) }]).zones
      GateMile::ZoneFindings.new(zones).list.each do |finding|
        next if finding.example.nil? || finding.code == :partly_covered

        assert_equal finding.other, zones.land(finding.example).zone&.id, finding.dump.inspect
      end
      address = GateMile::Address.new(country: areas.first["country"], postcode: texts.sample(random: random),
                                      lines: [])
      ladder = GateMile::Ladder.new(zones, address)
      if ladder.landing.zone
        assert_equal ladder.landing.zone, ladder.rungs.find { |rung|
          rung.outcome == :won
        }&.entry&.zone
      end
      assert_equal written(zones.land(address)), written(ladder.landing)
    end
  end

  private

  def fine?(text, country) = malformed { GateMile::Clause.parse(text, country) }.nil?

  # Puts nonsense into one to three places of a document.
  def spoil(document, random)
    random.rand(1..3).times do
      holder = document
      key = nil
      loop do
        keys = holder.is_a?(Hash) ? holder.keys : holder.each_index.to_a
        break if keys.empty?

        key = keys.sample(random: random)
        deeper = holder[key]
        break if random.rand(4).zero? || !(deeper.is_a?(Hash) || deeper.is_a?(Array)) || deeper.empty?

        holder = deeper
      end
      holder[key] = NONSENSE.sample(random: random) unless key.nil? || holder.empty?
    end
    document
  end
end
