# frozen_string_literal: true

require_relative "../../support/recipes"
# Of this library only the generator itself is loaded: the rest asks for a YAML that Ruby has not any more.
%w[test_pair pair_collection ipo ipo/horizontal ipo/vertical].each { |part| require "pairwise/#{part}" }

# What a walk proposes. Boundaries are looked at as boundary value analysis has it: the value at a boundary and the ones
# right beside it on both sides (three-value analysis; ISTQB Certified Tester Foundation Level Syllabus 4.0, 4.2.2).
# Classes, groups and zones are covered in pairs (pairwise testing; Kuhn, Kacker and Lei, Practical Combinatorial
# Testing, NIST Special Publication 800-142, 2010): the pairs come from a library that makes such lists, and every one
# of them has its cart.
class WalkTest < Minitest::Test
  include RecipesSupport

  STEPS = lambda do |measure, edges, *steps|
    { "schedule" => { "kind" => "steps", "measure" => measure, "edges" => edges,
                      "steps" => steps.map { |at, amount| amount ? { "at" => at, "amount" => amount } : { "at" => at, "none" => true } } } }
  end
  # A measure, its boundary, and what stands right below, at and right above it: penny, unit, gram, millimetre, millilitre.
  BOUNDARIES = { "value" => ["40", [3999, 4000, 4001]], "quantity" => ["3", [2, 3, 4]], "weight" => ["2 kg", ["1.999 kg", "2 kg", "2.001 kg"]],
                 "billable_weight" => ["2 kg", ["1.999 kg", "2 kg", "2.001 kg"]], "longest" => ["60 cm", ["59.9 cm", "60 cm", "60.1 cm"]],
                 "volume" => ["8 l", ["7999 ml", "8000 ml", "8001 ml"]] }.freeze

  def walked(plan, **parts)
    book = book(rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => plan }], **parts)
    [book, GateMile::Walk.of_rate(book, book.rates.first, now: AT).proposals]
  end

  def measure(book, cart, name)
    basket = book.basket(cart(cart))
    case name
    when "value" then basket.shipping.value(book.store.basis)
    when "quantity" then basket.shipping.quantity
    when "longest" then basket.shipping.longest
    when "volume" then basket.shipping.lines.sum { |line| line.size.volume * line.quantity }
    else basket.shipping.weight
    end
  end

  def base(name, text)
    return text if text.is_a?(Integer)

    { "longest" => GateMile::Length, "volume" => GateMile::Volume }.fetch(name, GateMile::Weight).parse(text).base
  end

  # Of every measure, by both kinds of edges: three carts at its boundary, and the price that each of them must have.
  def test_three_values_at_every_boundary
    BOUNDARIES.each do |name, (at, three)|
      { "from" => %w[4.00 7.00 7.00], "up_to" => %w[4.00 4.00 7.00] }.each do |edges, prices|
        book, proposals = walked(STEPS[name, edges, ["0 #{at[/[a-z]+/]}".strip.to_s, "4.00"], [at, "7.00"]])
        found = three.map { |text| proposals.find { |one| measure(book, one.cart, name) == base(name, text) } }
        assert found.all?, "#{name} by #{edges}: #{three.zip(found).select { |_, one| one.nil? }}"
        assert_equal prices, found.map { |one| book.quote(cart(one.cart), at: AT).method_quotes.first.price.to_s }, "#{name} by #{edges}"
      end
    end
  end

  # A live rate is walked with an answer and with each kind of trouble, made up; its own plan where the ladder comes to it.
  def test_ladders_of_live_rates
    carrier = { "id" => "p", "name" => "Petrel Post", "services" => [{ "code" => "S", "name" => "Slow" }] }
    ladder = { "silent" => { "kind" => "amount", "amount" => "9.00" }, "refused" => { "kind" => "plan" } }
    live = { "services" => [{ "carrier" => "p", "service" => "S" }], "ladder" => ladder }
    plan = STEPS["value", "from", ["0", "4.00"], ["40", "7.00"]]
    book = book(carriers: [carrier], store: STORE.merge("ship_from" => { "country" => "GB", "postcode" => "TR29 4ZZ" }),
                rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan, "live" => live }])
    proposals = GateMile::Walk.of_rate(book, book.rates.first, now: AT).proposals
    priced = ->(one) { book.quote(cart(one.cart), at: AT, carriers: one.port).method_quotes.first.price&.to_s }
    told = proposals.select { |one| one.reasons.any? { |reason| reason[:code] == :carriers } }
    assert_equal({ "answered" => "10.00", "silent" => "9.00", "refused" => "4.00", "unusable" => nil }, told.to_h { |one| [one.carriers, priced.call(one)] })
    edges = proposals.select { |one| one.reasons.any? { |reason| reason[:code] == :edge } }
    assert_equal [["refused"], %w[4.00 7.00]], [edges.map(&:carriers).uniq, edges.map(&priced).uniq.sort]
    # What an edit of the ladder changes is found by the carts of a comparison.
    rate = book.rates.first
    other = book.with_rate(rate.with(live: rate.live.with(ladder: rate.live.ladder.merge(silent: GateMile::LiveRate::Fallback::NONE))))
    methods = GateMile::CartChanges.new(book, other, now: AT).list.flat_map(&:methods)
    assert_equal([["9.00", nil]], methods.map { |one| [one.before&.to_s, one.after&.to_s] })
  end

  # The carts read back as they were meant, and none stands there twice.
  def test_no_cart_twice
    3.times do |seed|
      book = GateMile::Book.compile(recipe(Random.new(seed)))
      proposals = GateMile::Walk.of_board(book, now: AT).proposals
      assert_equal proposals.size, proposals.uniq { |one| [one.cart, one.at] }.size
      proposals.each do |one|
        assert_equal one.cart, cart(one.cart).dump
        assert one.reasons.any? && one.reasons.all? { |reason| reason[:code].is_a?(Symbol) }
      end
      assert_equal proposals.map(&:cart), GateMile::Walk.of_board(book, now: AT).proposals.map(&:cart), "always the same"
    end
  end

  def test_all_pairs_of_class_group_and_zone
    shop = recipe(Random.new(1))
    book = GateMile::Book.compile(shop)
    names = [CLASSES.values, ["Retail", "Trade", nil], ZONES.keys]
    wanted = Pairwise::IPO.new(names).build.flat_map { |one| one.each_with_index.to_a.combination(2).to_a }.uniq
    carts = GateMile::Walk.of_board(book, now: AT).proposals.map do |one|
      [one.cart["lines"].filter_map { |line| line["class"] }, one.cart["group"], book.zones.land(cart(one.cart).destination).zone&.id]
    end
    missing = wanted.reject { |pair| carts.any? { |one| pair.all? { |value, at| at.zero? ? one[0] == [value] : one[at] == value } } }
    assert_empty missing
    assert_equal(CLASSES.values.combination(2).to_a, CLASSES.values.combination(2).select { |pair| carts.any? { |classes,| classes == pair } })
  end

  def offer(**fields)
    { "id" => "o", "name" => "Offer", "methods" => ["m"], "effect" => { "kind" => "off", "amount" => "1.00" }, **fields.transform_keys(&:to_s) }
  end

  # For one thing that an offer asks for at a time: what it takes off with it and without it.
  def sides(code, parts = {}, **fields)
    book = book(offers: [offer(**fields)], **parts)
    GateMile::Walk.of_offer(book, book.offers.first, now: AT).proposals.select { |one| one.reasons.any? { |reason| reason[:code] == code } }.map do |one|
      reason = one.reasons.find { |found| found[:code] == code }
      at = one.at ? GateMile::LocalMoment.utc(one.at, "Europe/London") : AT
      quote = book.quote(cart(one.cart), at: at)
      price = quote.method_quotes.find { |method| method.method_id == "m" }&.price&.to_s
      [reason.slice(:side, :count, :coupon, :group_name, :name).values.first, price] if quote.landing.zone.id == "uk"
    end.compact.to_h
  end

  def test_both_sides_of_what_an_offer_asks_for
    groups = { groups: [{ "id" => "g", "name" => "Trade" }] }
    coupons = { coupons: [{ "id" => "k", "code" => "KEEL" }, { "id" => "x", "code" => "MAST" }] }
    heavy = { classes: [{ "id" => "h", "name" => "Heavy" }] }
    assert_equal({ below: "4.50", above: "3.50" }, sides(:threshold, threshold: { "measure" => "value", "from" => "50" }).slice(:below, :above))
    assert_equal({ "Trade" => "3.50" }, sides(:group, groups, groups: { "only" => ["g"] }).slice("Trade"))
    assert_equal({ "KEEL" => "3.50", "MAST" => "4.50" }, { "KEEL" => "3.50" }.merge(sides(:coupon, coupons, coupons: ["k"])))
    assert_equal({ before: "4.50", first: "3.50", last: "3.50", after: "4.50" }, sides(:moment, starts: "2026-07-01T08:00", ends: "2026-08-01T00:00"))
    assert_equal({ last: "3.50", after: "4.50" }, sides(:uses, first: 3))
    assert_equal({ "Heavy" => "4.50" }, sides(:blocked, heavy, blocking: { "classes" => ["h"] }))
  end

  # The first and the last minute of coupons and of what methods are open for.
  def test_first_and_last_minutes
    book = book(coupons: [{ "id" => "k", "code" => "KEEL", "starts" => "2026-07-01T08:00", "ends" => "2026-08-01T00:00" }],
                offers: [offer(coupons: ["k"])],
                methods: [{ "id" => "m", "code" => "M", "name" => "M", "delivery" => { "from" => "09:00", "until" => "17:30" } },
                          { "id" => "n", "code" => "N", "name" => "N" }])
    at = GateMile::Walk.of_zone(book, book.zone("uk"), now: AT).proposals.filter_map(&:at)
    %w[2026-07-01T07:59 2026-07-01T08:00 2026-07-31T23:59 2026-08-01T00:00].each { |one| assert_includes at, one }
    %w[08:59 09:00 17:29 17:30].each { |one| assert(at.any? { |moment| moment.end_with?("T#{one}") }, one) }
  end

  # Both sides of every border of a zone, and of the areas that a rate is narrowed to.
  def test_both_sides_of_borders
    zones = [{ "id" => "uk", "name" => "UK", "areas" => [{ "kind" => "country", "country" => "GB", "only" => ["PA20 to PA49", "IV"] }] },
             { "id" => "rest", "name" => "Rest", "areas" => [country("GB")] }]
    rates = [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => flat("4.50"),
               "areas" => [{ "kind" => "country", "country" => "GB", "only" => ["IV51"] }] }]
    book = book(zones: zones, rates: rates)
    places = GateMile::Walk.of_zone(book, book.zone("uk"), now: AT).proposals.filter_map { |one| one.cart.dig("destination", "postcode") }.uniq
    landed = places.to_h { |code| [code, book.zones.land(GateMile::Address.new(country: "GB", postcode: code, lines: [])).zone.id] }
    assert_equal %w[rest uk], landed.values.uniq.sort
    %w[PA201AA PA499ZZ PA501AA IV11AA IV519ZZ IV521AA].each { |code| assert_includes(places.map { |one| one.delete(" ") }, code) }
  end

  # Every cell of a grid has a cart of its own that pays just that.
  def test_every_cell
    amounts = Array.new(3) { |row| Array.new(3) { |column| "#{row + 1}.#{column + 1}0" } }
    book, proposals = walked({ "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "2 kg", "9 kg"] },
                                               "columns" => { "measure" => "value", "at" => %w[0 30 90] }, "cells" => amounts } })
    paid = proposals.map { |one| book.quote(cart(one.cart), at: AT).method_quotes.first.price&.to_s }
    assert_empty amounts.flatten - paid
  end

  # Goods at own prices at every number of units that counts, and beside others.
  def test_every_step_of_an_own_price
    book = GateMile::Book.compile(recipe(Random.new(4)))
    counts = GateMile::Walk.of_zone(book, book.zone("near"), now: AT).proposals.flat_map { |one| one.cart["lines"] }
                           .select { |line| line["sku"] == "AN" }.map { |line| line["quantity"] }.uniq
    assert_empty [1, 2, 3, 4] - counts
  end

  # Of a rate and of an offer less is walked than of their zone, and all of it is about them.
  def test_a_walk_of_one_thing_is_about_it
    book = GateMile::Book.compile(recipe(Random.new(5)))
    whole = GateMile::Walk.of_zone(book, book.zone("near"), now: AT).proposals.size
    rate = GateMile::Walk.of_rate(book, book.rates.first, now: AT)
    offer = GateMile::Walk.of_offer(book, book.offers.first, now: AT)
    assert_operator rate.proposals.size, :<=, whole
    assert_equal [["near"], ["near-post"]], [rate.zones.map(&:id), rate.rates.map(&:id)]
    assert_equal [["near"], ["post"]], [offer.zones.map(&:id), offer.rates.map(&:method_id).uniq]
    assert rate.whole? && offer.whole?
    nowhere = book.with(zones: book.zones.map { |zone| zone.with(active: false) })
    assert_empty GateMile::Walk.of_zone(nowhere, nowhere.zone("near"), now: AT).proposals
  end
end
