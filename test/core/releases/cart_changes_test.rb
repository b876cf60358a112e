# frozen_string_literal: true

require_relative "../../support/recipes"
require_relative "../../support/mutations"

# What changes for carts between two books: everything that is told is so, and nothing that any cart shows is missing.
class CartChangesTest < Minitest::Test
  include RecipesSupport
  include MutationsSupport

  BOOKS = Rounds.of(6)
  TO = ["TR29 4ZZ", "HS1 2AA"].freeze

  def changes(old, new) = GateMile::CartChanges.new(old, new, now: AT)

  def offered(book, cart, at)
    at = at ? GateMile::LocalMoment.utc(at, book.store.time_zone) : AT
    book.quote(cart(cart), at: at).method_quotes.select(&:available?).to_h { |one| [one.code, [one.name, one.price.to_s]] }
  end

  def carts(random)
    Array.new(120) do
      lines = GOODS.sample(random.rand(1..3), random: random).map { |sku, *| { "sku" => sku, "quantity" => random.rand(1..9) } }
      { "lines" => lines, "destination" => { "country" => "GB", "postcode" => TO.sample(random: random) },
        "group" => [nil, "Trade"].sample(random: random) }.compact
    end
  end

  # Each change is looked at once more in both books, by its own cart; and where a cart at random differs, there is one.
  def test_what_is_told_is_so_and_nothing_is_missing
    told = 0
    BOOKS.times do |seed|
      random = Random.new(seed)
      document = recipe(random)
      old = GateMile::Book.compile(document)
      pool = carts(random)
      before = pool.map { |cart| offered(old, cart, nil) }
      mutations(document, %w[rates offers rules treatments]).sample(6, random: random).each do |path, mutant|
        new = GateMile::Book.compile(mutant)
        list = changes(old, new).list
        differs = pool.each_with_index.find { |cart, at| offered(new, cart, nil) != before[at] }
        refute_empty list, "book #{seed}, #{path}: #{differs&.first}" if differs
        list.each { |one| so(old, new, one, path) }
        told += list.size
      end
    end
    assert_operator told, :>, BOOKS
  end

  def test_the_same_book_changes_nothing
    document = recipe(Random.new(1))
    same = changes(GateMile::Book.compile(document), GateMile::Book.compile(JSON.parse(JSON.generate(document))))
    assert_empty same.list
    assert_predicate same, :whole?
    assert_equal [[], []], [same.zones_gained, same.zones_lost]
  end

  # No rate, offer or rule is another, and yet what counts towards free shipping is.
  def test_a_setting_of_the_shop
    taxed = STORE.merge("tax_classes" => [{ "id" => "s", "name" => "Standard", "rate" => "20" }])
    offer = { "id" => "o", "name" => "Free", "threshold" => { "measure" => "value", "from" => "30.00" }, "effect" => { "kind" => "free" } }
    old, new = [taxed, taxed.merge("basis" => { "tax" => "without" })].map { |store| book(store: store, offers: [offer]) }
    list = changes(old, new).list
    refute_empty list
    list.each { |one| so(old, new, one, "basis") }
  end

  def test_one_price
    old = book
    new = book(rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => flat("5.25") }, document["rates"][1]])
    list = changes(old, new).list
    assert_equal([["uk", [["TRACKED", "4.50", "5.25"]]]],
                 list.map { |one| [one.zone, one.methods.map { |method| [method.code, method.before.to_s, method.after.to_s] }] })
    assert_operator list.first.count, :>=, 1
    assert_equal({ "code" => "TRACKED", "name" => "Tracked", "before" => "4.50", "after" => "5.25" }, list.first.dump["methods"].first)
  end

  # A method that goes weighs more than one that comes, and that more than any price.
  def test_the_largest_first
    rates = document["rates"]
    old = book(zones: zones("north" => "FR", "south" => "ES", "west" => "IE"),
               rates: [on("north", "m", "4.00"), on("south", "m", "4.00"), on("south", "n", "1.00"), on("west", "m", "4.00"), *rates])
    new = book(zones: zones("north" => "FR", "south" => "ES", "west" => "IE"),
               rates: [on("north", "m", "9.00"), on("south", "m", "4.00"), on("west", "m", "4.00"), on("west", "n", "1.00"), *rates])
    assert_equal %w[south west north], changes(old, new).list.map(&:zone)
  end

  def test_zones_that_come_and_go
    all = zones("north" => "FR", "south" => "ES")
    old = book(zones: all, rates: [on("north", "m", "4.00"), on("south", "m", "6.00")])
    new = book(zones: all.map do |zone|
      zone["id"] == "south" ? zone.merge("active" => false) : zone
    end, rates: [on("north", "m", "4.00"), on("south", "m", "6.00")])
    found = changes(old, new)
    assert_equal [%w[South], []], [found.zones_lost.map(&:name), found.zones_gained.map(&:name)]
    assert_equal([%w[South], []], changes(new, old).then { |back| [back.zones_gained.map(&:name), back.zones_lost.map(&:name)] })
    gone = found.list.find { |one| one.zone == "south" }
    assert_equal([["6.00", nil]], gone.methods.map { |one| [one.before.to_s, one.after] })
  end

  # Words that a shopper reads where there is nothing to choose are a change too.
  def test_words_where_nothing_is_available
    rates = [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => flat("4.50"), "active" => false }]
    silent, spoken = [nil, "Ring us."].map { |text| book(store: STORE.merge({ "nothing_text" => text }.compact), rates: rates) }
    proofs = [{ "id" => "p", "name" => "Nothing", "cart" => { "lines" => [line], "destination" => to("GB") },
                "expects" => { "status" => "nothing_available" } }]
    silent, spoken = [silent, spoken].map { |one| GateMile::Book.compile(one.dump.merge("proofs" => proofs)) }
    list = changes(silent, spoken).list
    assert_equal [[nil, "Ring us."]], list.map(&:text).uniq
    assert_equal(["uk", ["Nothing"]], list.map { |one| [one.zone, one.proofs] }.find { |_, proofs| proofs.any? })
  end

  # Kept carts are told by name; goods that differ are looked at alone.
  def test_proofs_and_goods
    by_weight = { "schedule" => { "kind" => "steps", "measure" => "weight", "edges" => "from",
                                  "steps" => [{ "at" => "0 kg", "amount" => "3.00" }, { "at" => "5 kg", "amount" => "8.00" }] } }
    proofs = [{ "id" => "p", "name" => "A shackle", "cart" => { "lines" => [line], "destination" => to("GB") }, "expects" => { "status" => "priced" } }]
    rates = [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => by_weight }]
    old = book(rates: rates, proofs: proofs)
    heavier = document["products"].map { |one| one["sku"] == "A" ? one.merge("weight" => "6 kg") : one }
    list = changes(old, book(rates: rates, proofs: proofs, products: heavier)).list
    assert_equal([[["A shackle"], [["3.00", "8.00"]]]], list.map { |one| [one.proofs, one.methods.map { |method| [method.before.to_s, method.after.to_s] }] })
    assert_operator list.first.count, :>=, 2, "by the proof, and alone"
  end

  # Who has waited long enough is told what was found, and that it is not all.
  def test_it_ends_when_it_is_told_to
    document = recipe(Random.new(2))
    old = GateMile::Book.compile(document)
    new = GateMile::Book.compile(mutations(document, %w[rates]).first.last)
    stopped = GateMile::CartChanges.new(old, new, now: AT, stop: -> { true })
    assert_empty stopped.list
    refute_predicate stopped, :whole?
  end

  # The street of an address is no part of any price but for whether it is a box: nothing else of it has to be kept.
  def test_a_shortened_address_costs_the_same
    streets = { nil => nil, [] => [], ["  "] => [], ["12 High Street", "Upper End"] => ["A street"], ["P.O. Box 12"] => ["PO Box 1"],
                ["BFPO 58"] => ["BFPO 1"] }
    streets.each do |lines, short|
      address = GateMile::Address.new(country: "GB", postcode: "TR29 4ZZ", lines: lines)
      found = address.shortened
      short.nil? ? assert_nil(found.lines) : assert_equal(short, found.lines)
      assert_equal [address.po_box?, address.military?, address.street.empty?], [found.po_box?, found.military?, found.street.empty?], lines.inspect
      assert_equal address.with(lines: nil), found.with(lines: nil)
    end
  end

  private

  def zones(countries) = countries.map { |id, code| { "id" => id, "name" => id.capitalize, "areas" => [country(code)] } } + document["zones"].first(1)
  def on(zone, method, amount) = { "id" => "#{zone}-#{method}", "zone" => zone, "method" => method, "plan" => flat(amount) }

  def so(old, new, one, path)
    before, after = [old, new].map { |book| offered(book, one.cart, one.at) }
    one.methods.each do |method|
      shown = [before, after].map { |side| side[method.code]&.last }
      assert_equal [method.before&.to_s, method.after&.to_s], shown, "#{path}: #{one.cart}"
    end
  end
end
