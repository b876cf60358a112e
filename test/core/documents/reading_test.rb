# frozen_string_literal: true

require_relative "../../support/core"

# Whatever a book, a cart or a plan says, it is read or refused with {GateMile::Invalid} and the place; nothing else ever
# comes out, and what was read can be quoted.
class ReadingTest < Minitest::Test
  include CoreSupport

  RICH = JSON.parse(File.read(File.join(ROOT, "demo/book.json"))).merge(
    "products" => [{ "sku" => "A", "name" => "A", "price" => "3.50", "weight" => "0.4 kg", "size" => { "length" => "9 cm", "width" => "4 cm",
                                                                                                       "height" => "2 cm" } },
                   { "sku" => "B", "name" => "B", "price" => "80.00", "weight" => "30 LB", "hazardous" => true, "tags" => ["big"] }]
  )
  # What people and programs put where something else belongs. No JSON says bytes of another encoding, but a program may.
  ODD = [nil, true, false, 0, -1, 7, 1.5, 10**40, Float::INFINITY, "", " ", "0", "-3", "5 KG", "12 Lb", "3 IN", "1e9", "XYZ", "2026-13-45", "2026-02-30T25:00",
         "\xFF\xFEa", "caf\xE9".dup.force_encoding("ISO-8859-1"), "a\u0000b", "é\u0301", "x" * 5000, "#{"a" * 3000}!", "9" * 4000, ["\xC3"], { "\xC3" => 1 },
         [], {},
         [[]], [nil], { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 KG", "amount" => "1" }] }].freeze
  CART = { "lines" => [{ "sku" => "A", "quantity" => 3 }, { "sku" => "B", "quantity" => 1 }, { "name" => "Made to order", "quantity" => 2,
                                                                                               "unit_price" => "9.00", "weight" => "1 KG" }],
           "destination" => { "country" => "GB", "region" => "CON", "postcode" => "TR29 4ZZ", "lines" => ["1 Quay", "PO Box 3"] }, "group" => "Trade",
           "coupons" => ["KEEL"], "promotions" => ["Spring"], "offer_uses" => { "free" => 2 }, "order_discount" => "1.00" }.freeze

  # Sixty lists in one another can be read, one more can't; what goes out is JSON, a false included; texts end where they are said to.
  def test_where_reading_ends
    nested = ->(levels) { (1..levels).inject(1) { |inner, _| [inner] } }
    assert_equal([true, false], [60, 61].map { |levels| GateMile::Reader.readable?(nested.call(levels)) })
    assert_equal({ "a" => [false, true, nil, 1, "b", "1.5"] }, GateMile::Plain.of({ a: [false, true, nil, 1, :b, 1.5] }))
    proof = ->(length) { { "id" => "p", "name" => "P", "cart" => {}, "expects" => { "methods" => [{ "method" => "m", "messages" => ["x" * length] }] } } }
    said = [300, 301].map { |length| problems_of { book(proofs: [proof.call(length)]) }.map(&:last) & [:too_long] }
    assert_equal [[], [:too_long]], said
  end

  def test_a_rich_book_with_anything_in_any_place
    random = Random.new(20)
    refused = quoted = 0
    Rounds.of(700).times do
      broken = spoilt(RICH, random)
      book = GateMile::Book.compile(broken)
      quote = book.quote(GateMile::Cart.parse(CART, book.currency), at: AT)
      quote.dump
      assert_equal book.dump, GateMile::Book.compile(book.dump).dump
      quoted += 1
    rescue GateMile::Invalid => e
      refused += 1
      assert(e.problems.all? { |problem| problem.pointer.start_with?("/") || problem.pointer.empty? }, e.message)
    end
    assert_operator quoted, :>, Rounds.of(16)
    assert_operator refused, :>, Rounds.of(200)
  end

  def test_a_cart_with_anything_in_any_place
    random = Random.new(21)
    book = GateMile::Book.compile(RICH)
    quoted = 0
    Rounds.of(900).times do
      sent = GateMile::Cart.parse(spoilt(CART, random), book.currency)
      quoted += 1
      JSON.generate(book.quote(sent, at: AT).dump)
    rescue GateMile::Invalid => e
      refute_empty e.problems
    end
    assert_operator quoted, :>, Rounds.of(150)
  end

  def test_texts_that_are_no_utf8_are_told_where_they_are
    names = ["\xFF", "caf\xE9", [0xD800].pack("U"), "a".encode("UTF-16LE")]
    names.each do |name|
      assert_equal([["/zones/0/name", :not_utf8]], problems_of { book(zones: [{ "id" => "uk", "name" => name, "areas" => [] }]) })
      assert_equal([["/lines/0/name", :not_utf8]], problems_of { cart({ "lines" => [{ "name" => name, "quantity" => 1 }] }) })
      assert_equal([["", :not_utf8]], problems_of { GateMile::Documents.parse(GateMile::Plan, { name => 1 }, GateMile::Currency["GBP"]) })
    end
    assert_equal([["/lines/0/unit_price", :not_finite]], problems_of do
      cart({ "lines" => [{ "name" => "A", "quantity" => 1, "unit_price" => Float::INFINITY }] })
    end)
    deep = (1..80).inject({ "all" => [] }) { |tree, _| { "all" => [tree] } }
    found = problems_of { book(rules: [{ "id" => "r", "name" => "R", "when" => deep, "then" => [] }]) }
    assert_equal [:nested], found.map(&:last)
    plain = "Kingdom".encode("US-ASCII")
    assert_empty(problems_of { book(zones: [{ "id" => "uk", "name" => plain, "areas" => [] }, { "id" => "all", "name" => "All", "areas" => [] }]) })
  end

  # A currency that can't be read hides no other problem, whatever in the book is an amount.
  def test_an_unknown_currency_and_everything_that_is_in_it
    steps = { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", "amount" => "1" }, { "at" => "-5", "amount" => "x" }] }
    parts = { store: { **STORE, "currency" => "QQQ", "boxes" => [{ "id" => "b", "name" => "B", "size" => {}, "cost" => "1.00" }] },
              rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => { "schedule" => steps, "minimum" => "1.00", "ending" => "0.95" } }],
              offers: [{ "id" => "o", "name" => "O", "threshold" => { "measure" => "value", "from" => "75.00" },
                         "effect" => { "kind" => "off", "amount" => "1.00" } }],
              rules: [{ "id" => "q", "name" => "Q", "when" => { "all" => [{ "fact" => "value", "from" => "1.00" }] },
                        "then" => [{ "kind" => "add", "amount" => "1.00" }] }] }
    found = problems_of { book(**parts) }
    assert_includes found, ["/store/currency", :unknown_currency]
    assert_includes found, ["/rates/0/plan/schedule/steps/1/at", :negative]
    assert_includes found, ["/rates/0/plan/schedule/steps/1/amount", :not_an_amount]
    assert_empty(found.map(&:first).grep(/minimum|ending|offers|rules|cost/), "what may be right in the right currency is not called wrong")
    missing = problems_of { GateMile::Book.compile(document(**parts, store: parts[:store].except("currency"))) }
    assert_includes missing, ["/store/currency", :missing]
    assert_equal([["/store/currency", :unknown_currency]], problems_of { book(store: STORE.merge("currency" => "XTS")) })
  end

  def test_holidays_are_dates
    days = %w[2026-12-25 2028-02-29 2027-02-29 2026-13-45 2026-6-1 soon]
    found = problems_of { book(store: STORE.merge("holidays" => days)) }
    assert_equal([2, 3, 4, 5].map { |at| ["/store/holidays/#{at}", :not_a_date] }, found)
  end

  # Nothing takes long however long it is: lengths are bounded before any pattern reads them.
  def test_long_texts_are_refused_by_their_length
    long = ["#{"a" * 60_000}!", "1" * 60_000, " " * 60_000, "1#{" " * 60_000}x", "9 #{"k" * 60_000}", "A#{" TO " * 9000}"]
    [GateMile::Weight, GateMile::Length, GateMile::Volume].each { |measure| long.each { |text| assert_equal(:not_a_measure, malformed { measure.parse(text) }) } }
    long.each do |text|
      assert_equal(:not_an_amount, malformed { GateMile::Money.parse(text, GateMile::Currency["GBP"]) })
      assert_includes(%i[bad_clause bad_range], malformed { GateMile::Clause.parse(text, "DE") })
      assert_equal([["/lines/0/weight", :too_long]], problems_of { cart({ "lines" => [{ "name" => "A", "quantity" => 1, "weight" => text }] }) })
    end
  end

  private

  # One to three places of a document with something else in them, or gone.
  def spoilt(document, random)
    copy = Marshal.load(Marshal.dump(document))
    [1, 1, 1, 2].sample(random: random).times do
      *path, last = places(copy).sample(random: random)
      holder = path.inject(copy) { |part, key| part[key] }
      next holder.delete(last) if holder.is_a?(Hash) && random.rand(5).zero?

      holder[last] = Marshal.load(Marshal.dump(ODD.sample(random: random)))
    end
    copy
  end

  def places(part, path = [])
    keys = part.is_a?(Hash) ? part.keys : part.each_index.to_a
    keys.flat_map { |key| [[*path, key], *(part[key].is_a?(Hash) || part[key].is_a?(Array) ? places(part[key], [*path, key]) : [])] }
  end
end
