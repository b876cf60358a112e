# frozen_string_literal: true

require_relative "../../support/core"

class QuoteTest < Minitest::Test
  include CoreSupport

  def test_a_cart_from_end_to_end
    found = quote(book, [line(" a ", 4)], to("gb"))
    assert_equal :priced, found.status
    assert_equal %w[uk-n uk-m], found.method_quotes.map(&:rate)
    assert_equal(%w[3.00 4.50], found.method_quotes.map { |method| method.price.to_s })
    assert_equal [[:cheapest], []], found.method_quotes.map(&:marks)
    assert_equal "0.84 kg", found.measures.weight.to_s
  end

  def test_the_reckoning_ends_in_the_price_and_leads_to_the_setting
    method = quote(book, [line, line("V", 2)], to("GB")).method_quotes.last
    assert_equal %i[lines lines ordinary price], method.reckoning.map(&:step)
    flat = method.reckoning.find { |step| step.code == :"schedule.flat" }
    assert_equal({ kind: "rate", id: "uk-m", field: "plan" }, flat.setting)
    assert_equal method.price, method.reckoning.last.amount
    assert_equal ["Voucher"], method.reckoning.first.numbers[:names]
  end

  def test_never_free_by_omission
    rates = [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => nil },
             { "id" => "s", "zone" => "uk", "method" => "n", "plan" => flat("0") }]
    found = quote(book(rates: rates), [line], to("GB"))
    assert_equal({ "s" => "0.00", "r" => nil }, found.method_quotes.to_h { |method| [method.rate, method.price&.to_s] })
    assert_equal :incomplete, found.method_quotes.last.status
    unknown = quote(book, [line("NOPE")], to("GB"))
    assert_equal :nothing_available, unknown.status
    assert_equal([[:unknown_product]] * 2, unknown.method_quotes.map { |method| method.causes.map(&:code) })
    assert_equal :priced, quote(book, [line("NOPE", 1, unit_price: "2.00")], to("GB")).status
  end

  def test_each_not_available_names_all_its_causes
    parts = { methods: [{ "id" => "m", "code" => "T", "name" => "T", "active" => false }],
              rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "active" => false }] }
    causes = quote(book(**parts), [line("NOPE")], to("GB")).method_quotes.first.causes.map(&:code)
    assert_equal %i[method_off rate_off unknown_product no_price], causes
  end

  def test_what_the_quote_says_without_a_price
    assert_equal :empty, quote(book, [], to("GB")).status
    assert_equal :nothing_ships, quote(book, [line("V")], {}).status
    assert_equal :nothing_available, quote(book, [line], to("FR")).status
    near = book(zones: [{ "id" => "uk", "name" => "UK", "areas" => [country("GB")] },
                        { "id" => "all", "name" => "All", "active" => false, "areas" => [{ "kind" => "world" }] }])
    assert_equal :not_served, quote(near, [line], to("FR")).status
    undetermined = quote(near, [line], {})
    assert_equal :undetermined, undetermined.status
    assert_equal({ "status" => "undetermined", "candidates" => ["uk", nil], "decides" => "country" },
                 written(undetermined.landing))
  end

  def test_a_name_of_its_own_and_the_merchants_order
    rates = [{ "id" => "r", "zone" => "uk", "method" => "m", "name" => "By road", "plan" => flat("9") },
             { "id" => "s", "zone" => "uk", "method" => "n", "plan" => flat("1") }]
    found = quote(book(rates: rates, store: STORE.merge("method_order" => "merchant")), [line], to("GB"))
    assert_equal ["By road", "Next day"], found.method_quotes.map(&:name)
    assert_equal :"finish.renamed", found.method_quotes.first.reckoning.last.code
  end

  # A slow, plain second opinion: walk the zones for the country, then for the world, and list its rates by price.
  def test_generated_books_against_a_plain_reading
    random = Random.new(20_260_601)
    Rounds.of(2000).times do
      parts = generated(random)
      book = book(**parts)
      address = to(random.rand(8).zero? ? nil : %w[GB IE FR DE JP].sample(random: random))
      found = quote(book, [line("A", random.rand(1..9))], address)
      assert_equal(plain(parts, address["country"]), found.method_quotes.select(&:available?).map do |m|
        [m.rate, m.price.to_s]
      end)
      assert_equal found.dump,
                   quote(GateMile::Book.compile(JSON.parse(JSON.generate(book.dump))), found_lines(found), address).dump
    end
  end

  private

  def found_lines(quote) = quote.lines.map { |found| line(found.sku, found.quantity) }

  def generated(random)
    zones = Array.new(random.rand(0..4)) do |index|
      places = [{ "kind" => "world" }, *%w[GB IE FR DE].map do |code|
        country(code)
      end].sample(random.rand(0..3), random: random)
      { "id" => "z#{index}", "name" => "Zone #{index}", "active" => random.rand(5).positive?, "areas" => places }
    end
    rates = zones.flat_map do |zone|
      %w[m n].sample(random.rand(0..2), random: random).map do |method|
        plan = flat(format("%.2f", random.rand(0..3))) if random.rand(4).positive?
        { "id" => "#{zone["id"]}#{method}", "zone" => zone["id"], "method" => method,
          "active" => random.rand(5).positive?, "plan" => plan }
      end
    end
    { zones: zones, rates: rates }
  end

  def plain(parts, code)
    world = { "kind" => "world" }
    on = parts[:zones].select { |zone| zone["active"] && zone["areas"].any? }
    # Without an address only a shop that knows nothing but the world has an answer.
    return [] if code.nil? && !(on.one? && on.first["areas"].include?(world))

    zone = on.find { |candidate| candidate["areas"].include?(country(code)) } ||
           on.find { |candidate| candidate["areas"].include?(world) }
    rates = parts[:rates].select { |rate| zone && rate["zone"] == zone["id"] && rate["active"] && rate["plan"] }
    rates.map { |rate| [rate["id"], rate["plan"]["schedule"]["amount"]] }.each_with_index
         .sort_by { |(_, amount), index| [Rational(amount), index] }.map(&:first)
  end
end
