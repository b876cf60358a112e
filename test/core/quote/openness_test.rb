# frozen_string_literal: true

require "json_schemer"
require_relative "../../support/policies"

# What is not known: an address of which a part is missing, facts that a cart does not carry. Nothing is guessed, nobody is
# told that there is nothing while there may be something, and whatever may change is called so.
class OpennessTest < Minitest::Test
  include PoliciesSupport

  def test_an_outer_region_leaves_the_ones_inside_it_open
    tenerife = { "kind" => "regions", "country" => "ES", "regions" => ["TF"] }
    shop = zoned([tenerife], [country("ES")])
    landed = lambda { |region|
      written(quote(shop, [line], { "country" => "ES", "region" => region }.compact).landing).values_at("status", "zone", "candidates", "decides")
    }
    assert_equal ["undetermined", nil, %w[z0 z1], "region"], landed.call("CN")
    assert_equal([["zone", "z0", nil, nil], ["zone", "z1", nil, nil], ["zone", "z1", nil, nil]], %w[TF GC MD].map { |region| landed.call(region) })
    assert_equal ["undetermined", nil, %w[z0 z1], "region"], landed.call(nil)
    whole = zoned([{ "kind" => "regions", "country" => "ES", "regions" => ["CN"] }], [country("ES")])
    assert_equal "z0", quote(whole, [line], { "country" => "ES", "region" => "TF" }).landing.zone.id, "a region covers those inside it"
    rule = lambda { |region|
      { "id" => "r", "name" => "R", "when" => { "all" => [{ "fact" => "region", "country" => "ES", "of" => [region] }] }, "then" => [{ "kind" => "hide" }] }
    }
    found = lambda { |of, region|
      quote(zoned([country("ES")], rules: [rule.call(of)]), [line], { "country" => "ES", "region" => region }).method_quotes.first.then do |one|
        [one.status, one.provisional]
      end
    }
    assert_equal [[:available, [:region]], [:unavailable, []], [:available, []]], [found.call("TF", "CN"), found.call("TF", "TF"), found.call("TF", "MD")]
  end

  def test_a_shop_that_knows_only_the_world_asks_nobody_where
    world = [{ "kind" => "world" }]
    assert_equal([:priced, "z0"], quote(zoned(world), [line], {}).then { |one| [one.status, one.landing.zone.id] })
    assert_equal :undetermined, quote(zoned(world, [country("GB")]), [line], {}).status
    assert_equal %w[z0 z1], written(quote(zoned(world, [country("GB")]), [line], {}).landing)["candidates"], "the world leaves no gap"
    assert_equal ["z0", nil], written(quote(zoned([country("GB")]), [line], {}).landing)["candidates"]
    every = GateMile::Countries::CODES.map { |code| country(code) }
    assert_equal %w[z0 z1], written(quote(zoned(every.first(100), every.drop(100)), [line], {}).landing)["candidates"], "every country is somebody's"
    off = GateMile::Book.compile(document(
                                   zones: [{ "id" => "z0", "name" => "A", "areas" => world },
                                           { "id" => "z1", "name" => "B", "active" => false, "areas" => [country("GB")] }], rates: []
                                 ))
    assert_equal "z0", quote(off, [line], {}).landing.zone.id
  end

  def test_none_is_possible_only_where_no_zone_may_remain
    only = ->(list) { country("GB").merge("only" => list) }
    except = ->(list) { country("GB").merge("except" => list) }
    candidates = ->(shop, to) { written(quote(shop, [line], { "country" => "GB", **to }).landing)["candidates"] }
    assert_equal %w[z0 z1], candidates.call(zoned([only.call(%w[IV HS])], [except.call(%w[IV HS])]), {}), "the one takes what the other leaves"
    assert_equal ["z0", "z1", nil], candidates.call(zoned([only.call(%w[IV])], [except.call(%w[IV HS])]), {}), "HS is nobody's"
    assert_equal %w[z0 z1], candidates.call(zoned([only.call(["PA20 to PA49"])], [except.call(["PA20 to PA49"])]), { "postcode" => "PA" })
    assert_equal ["z0", nil], candidates.call(zoned([only.call(["PA20"])]), { "postcode" => "PA" })
    assert_nil candidates.call(zoned([only.call(["PA20"])]), { "postcode" => "PA20" })
    parts = GateMile::Regions.outermost("CA")
    regions = ->(list) { { "kind" => "regions", "country" => "CA", "regions" => list } }
    landing = quote(zoned([regions.call(parts.first(5))], [regions.call(parts.drop(5))]), [line], to("CA")).landing
    assert_equal %w[z0 z1], written(landing)["candidates"]
    assert_equal ["z0", nil], written(quote(zoned([regions.call(parts.first(5))]), [line], to("CA")).landing)["candidates"]
  end

  def test_a_narrowed_rate_without_the_postcode
    inside = [{ "kind" => "country", "country" => "GB", "only" => ["TR"] }]
    shop = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("4.00"), "areas" => inside }])
    found = lambda { |postcode|
      quote(shop, [line], { "country" => "GB", "postcode" => postcode }.compact).then do |one|
        [one.status, one.method_quotes.first.price&.to_s, one.method_quotes.first.provisional]
      end
    }
    assert_equal [[:priced, "4.00", [:postcode]], [:priced, "4.00", []], [:nothing_available, nil, []]],
                 [found.call(nil), found.call("TR29 4ZZ"), found.call("PA2 0AB")]
    assert_includes quote(shop, [line], to("GB")).method_quotes.first.reckoning.map(&:code), :"rate.narrowed_perhaps"
    grid = { "schedule" => { "kind" => "grid", "rows" => { "measure" => "quantity", "at" => ["0"] }, "cells" => [%w[2 5]],
                             "columns" => { "areas" => [{ "name" => "In", "areas" => inside }, { "name" => "Out",
                                                                                                 "areas" => [country("GB").merge("except" => ["TR"])] }] } } }
    shop = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => grid }], store: STORE.merge("nothing_text" => "Sorry."))
    open = quote(shop, [line], to("GB"))
    assert_equal [:undetermined, :incomplete, [:postcode], nil], [open.status, open.method_quotes.first.status, open.method_quotes.first.provisional, open.text]
    assert_equal :priced, quote(shop, [line], { "country" => "GB", "postcode" => "PA2 0AB" }).status
    both = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => grid },
                        { "id" => "s", "zone" => "uk", "method" => "n", "active" => false, "plan" => flat("1") }])
    assert_equal :undetermined, quote(both, [line], to("GB")).status
    assert_equal %i[incomplete unavailable], quote(both, [line], to("GB")).method_quotes.map(&:status)
  end

  # A free method that hides the paid ones, and a rule on a fact that is not known: what may come and go is told at both.
  def test_what_comes_back_when_the_free_method_goes
    free = { "id" => "o", "name" => "Free", "methods" => ["m"], "effect" => { "kind" => "free" }, "hides_paid" => true }
    rule = ->(tree, action = { "kind" => "hide", "methods" => ["m"] }) { { "id" => "r", "name" => "R", "when" => tree, "then" => [action] } }
    scotland = { "fact" => "postcode", "country" => "GB", "of" => ["IV"] }
    found = lambda do |rules, postcode = nil|
      quote(book(offers: [free], rules: rules), [line], { "country" => "GB", "postcode" => postcode }.compact).method_quotes.to_h do |one|
        [one.method_id, [one.price&.to_s, one.provisional]]
      end
    end
    hides = [rule.call({ "all" => [scotland] })]
    assert_equal({ "m" => ["0.00", [:postcode]], "n" => [nil, [:postcode]] }, found.call(hides))
    assert_equal({ "n" => ["3.00", []], "m" => [nil, []] }, found.call(hides, "IV1 1AA"))
    assert_equal({ "m" => ["0.00", []], "n" => [nil, []] }, found.call(hides, "TR29 4ZZ"))
    # The other way round: as long as nothing is said it is hidden, and if it comes the paid one goes.
    assert_equal({ "n" => ["3.00", [:postcode]], "m" => [nil, [:postcode]] }, found.call([rule.call({ "none" => [scotland] })]))
    assert_equal [["0.00", [:postcode]], [nil, [:postcode]]],
                 found.call([rule.call({ "all" => [scotland] }, { "kind" => "add", "amount" => "1.00", "methods" => ["m"] })]).values
    assert_equal [nil, []], found.call([rule.call({ "all" => [scotland] }, { "kind" => "message", "text" => "Far", "methods" => ["m"] })])["n"],
                 "a message changes no price"
    # Narrowed to a part of its zone.
    shop = book(offers: [free], rates: [{ "id" => "a", "zone" => "uk", "method" => "m", "plan" => flat("4"),
                                          "areas" => [country("GB").merge("only" => ["TR"])] },
                                        { "id" => "b", "zone" => "uk", "method" => "n", "plan" => flat("3") }])
    assert_equal({ "m" => [:postcode], "n" => [:postcode] }, quote(shop, [line], to("GB")).method_quotes.to_h { |one| [one.method_id, one.provisional] })
    # Two free ones: as long as one of them is sure, nothing comes back.
    sure = quote(book(offers: [free.merge("methods" => nil).compact], rules: [rule.call({ "all" => [scotland] })], methods: methods_of("m", "n", "p"),
                      rates: %w[m n p].map { |id| { "id" => id, "zone" => "uk", "method" => id, "plan" => flat("3") } }), [line], to("GB"))
    assert_equal({ "m" => [:postcode], "n" => [], "p" => [] }, sure.method_quotes.to_h { |one| [one.method_id, one.provisional] })
  end

  # Whatever a fact turns out to be, a method that was not called provisional stays as it was.
  def test_what_is_not_called_provisional_is_final
    random = Random.new(41)
    changed = 0
    Rounds.of(400).times do
      setup = shop(random)
      setup["offers"].each { |offer| offer["hides_paid"] = true if random.rand(2).zero? }
      shop = GateMile::Book.compile(setup)
      sent = random_cart(random)
      sent["destination"] = { "country" => "GB" }
      before = shop.quote(cart(sent), at: AT).method_quotes.to_h { |one| [one.method_id, one] }
      [%w[IV1 1AA], %w[PA21 1AA], %w[TR29 1AA]].map { |parts| parts.join(" ") }.product(["PO Box 4", "1 Quay"]).each do |postcode, street|
        whole = sent.merge("destination" => { "country" => "GB", "postcode" => postcode, "lines" => [street] })
        shop.quote(cart(whole), at: AT).method_quotes.each do |after|
          was = before[after.method_id]
          next if was.provisional.any?

          assert_equal [was.status, was.price], [after.status, after.price], JSON.generate([setup.slice("offers", "rules"), whole])
        end
        changed += 1 if before.values.any? { |one| one.provisional.any? }
      end
    end
    assert_operator changed, :>, Rounds.of(60)
  end

  FAR = { "all" => [{ "fact" => "postcode", "country" => "GB", "of" => ["IV"] }] }.freeze
  OWN = [{ "id" => "t", "name" => "By hand", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "3.00" } } }].freeze
  FREE = { "id" => "o", "name" => "Free", "effect" => { "kind" => "free" }, "methods" => ["m"], "hides_paid" => true }.freeze

  # Methods of a cart of which the postcode is not known, where rules that do these things may hold.
  def with_open_rules(*actions, treated: false, offers: [FREE])
    rules = actions.each_with_index.map { |does, at| { "id" => "r#{at}", "name" => "R#{at}", "when" => FAR, "then" => [does] } }
    goods = %w[A B].map { |sku| { "sku" => sku, "name" => sku, "price" => "1.00", "weight" => "1 kg" } }
    goods.last["treatments"] = ["t"] if treated
    shop = book(products: goods, offers: offers, rules: rules, treatments: treated ? OWN : [])
    quote(shop, [line("A"), line("B")], to("GB")).method_quotes.to_h { |one| [one.method_id, [one.status, one.provisional]] }
  end

  # A price is called provisional only where what is not known can change it: each way in which open rules may hold is tried.
  def test_what_can_not_change_is_not_called_provisional
    m = ->(kind, **more) { { "kind" => kind, "methods" => ["m"], **more.transform_keys(&:to_s) } }
    # The free method has own prices on it: nothing that is open makes it free, and so nothing hides the other.
    assert_equal({ "m" => [:available, [:postcode]], "n" => [:available, []] }, with_open_rules(m.call("add", amount: "2.00"), treated: true))
    [m.call("price", amount: "0.00"), m.call("off", percent: "100")].each do |does|
      assert_equal [:available, [:postcode]], with_open_rules(does, treated: true)["n"], "it may be free, and hide"
    end
    # A share of nothing is nothing; a cap above the price takes nothing off; of two rules the second undoes the first.
    assert_equal [:available, []], with_open_rules(m.call("add", percent: "50"))["m"]
    assert_equal [:unavailable, []], with_open_rules(m.call("cap", amount: "2.00"))["n"]
    undone = [{ "kind" => "add", "amount" => "9.00", "methods" => ["n"] }, { "kind" => "price", "amount" => "3.00", "methods" => ["n"] }]
    assert_equal [:available, []], with_open_rules(*undone, offers: [])["n"]
    said = with_open_rules(m.call("message", text: "By boat"))
    assert_equal [[:available, [:postcode]], [:unavailable, []]], said.values_at("m", "n"), "what is said may change, what is hidden not"
    assert_equal [:unavailable, [:postcode]], with_open_rules(m.call("hide"))["n"]
  end

  def test_a_rule_by_the_value_of_ordinary_lines_looks_at_those_of_its_method
    goods = [{ "sku" => "A", "name" => "A", "price" => "30.00" }, { "sku" => "P", "name" => "Pallet", "price" => "90.00", "treatments" => ["t"] }]
    apart = [{ "id" => "t", "name" => "Own", "methods" => ["m"], "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "9.00" } } }]
    over = lambda { |basis|
      [{ "id" => "r", "name" => "R", "when" => { "all" => [{ "fact" => "value", "from" => "100.00", "basis" => basis }.compact] },
         "then" => [{ "kind" => "off", "amount" => "1.00" }] }]
    }
    pays = lambda do |basis, store = STORE|
      quote(book(products: goods, treatments: apart, rules: over.call(basis), store: store), [line("A"), line("P")], to("GB"))
        .then { |one| [one.method_quotes.to_h { |method| [method.method_id, method.price.to_s] }, one.verdicts.first.held?] }
    end
    assert_equal [{ "m" => "12.50", "n" => "2.00" }, true], pays.call(nil)
    # At m the pallet goes apart, and 30.00 is left; at n it is an ordinary line.
    assert_equal [{ "m" => "13.50", "n" => "2.00" }, true], pays.call({ "lines" => "ordinary" })
    assert_equal [{ "m" => "13.50", "n" => "2.00" }, true], pays.call(nil, STORE.merge("basis" => { "lines" => "ordinary" }))
    assert_equal [{ "m" => "12.50", "n" => "2.00" }, true], pays.call({ "lines" => "all" }, STORE.merge("basis" => { "lines" => "ordinary" }))
    shop = book(products: goods, treatments: apart, rules: over.call({ "lines" => "ordinary" }))
    sent = cart({ "lines" => [line("A"), line("P")], "destination" => to("GB") })
    pieces = GateMile::PriceLines.new(shop, sent, "quantity", 12, at: AT).of
    assert_equal([["uk-m", [1, 3], [4, 12]], ["uk-n", [1, 12]]], pieces.map { |rate, list| [rate, *list.map { |piece| [piece.from, piece.to] }] })
  end

  # docs/engine.md, section 3: the store has one basis; what a plan, an offer or a rule does not say of its own is the store's.
  def test_a_partial_basis_keeps_the_stores_other_choices
    store = STORE.merge("prices_include_tax" => false, "tax_classes" => [{ "id" => "s", "name" => "S", "rate" => "20" }],
                        "basis" => { "discounts" => "before", "tax" => "without", "lines" => "all" })
    shop = GateMile::Book.compile(document(store: store)).store
    resolved = ->(own) { written(shop.basis_for(own && GateMile::Documents.parse(GateMile::Basis, own))) }
    whole = { "discounts" => "before", "tax" => "without", "lines" => "all" }
    assert_equal [whole, whole.merge("tax" => "with"), whole.merge("lines" => "ordinary")],
                 [resolved.call(nil), resolved.call({ "tax" => "with" }), resolved.call({ "lines" => "ordinary" })]
    own = { "lines" => "shipping" }
    offer = { "id" => "o", "name" => "O", "threshold" => { "measure" => "value", "from" => "10.00", "basis" => own }, "effect" => { "kind" => "free" } }
    shop = book(store: store, offers: [offer], rules: [])
    assert_equal own, shop.dump["offers"][0]["threshold"]["basis"], "what was not said is not made up when it is written"
    sent = { "name" => "X", "quantity" => 1, "unit_price" => "10.00", "discount" => "3.00" }
    assert_equal "0.00", quote(shop, [sent], to("GB")).method_quotes.first.price.to_s, "10.00 before the discount and without tax, as the store counts"
    steps = { "kind" => "steps", "measure" => "value",
              "steps" => [{ "at" => "0", "amount" => "1" }, { "at" => "10.00", "amount" => "2" }, { "at" => "12.00", "amount" => "3" }] }
    plan = lambda { |basis|
      book(store: store, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => { "schedule" => steps, "basis" => basis }.compact }])
    }
    assert_equal(%w[2.00 3.00 1.00], [nil, { "tax" => "with" }, { "discounts" => "after" }].map do |basis|
      quote(plan.call(basis), [sent], to("GB")).method_quotes.first.price.to_s
    end)
  end

  def test_an_offers_name_never_lies
    goods = [{ "sku" => "A", "name" => "A", "price" => "80.00" }, { "sku" => "F", "name" => "Kit", "price" => "5.00", "treatments" => ["t"] }]
    apart = [{ "id" => "t", "name" => "Own", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "1.75" } } }]
    offer = { "id" => "o", "name" => "O", "label" => "Free from £75", "effect" => { "kind" => "free" } }
    found = lambda do |change, *skus, rules: []|
      quote(book(products: goods, treatments: apart, offers: [offer.merge(change)], rules: rules, rates: [{ "id" => "r", "zone" => "uk", "method" => "m",
                                                                                                            "plan" => flat("4.50") }]),
            skus.map { |sku| line(sku) }, to("GB")).method_quotes.first.then do |one|
        [one.name, one.price.to_s]
      end
    end
    assert_equal [["Free from £75", "0.00"], %w[Tracked 1.75], ["Free from £75", "0.00"]],
                 [found.call({}, "A"), found.call({}, "A", "F"), found.call({ "own_prices" => true }, "A", "F")]
    assert_equal ["Kits only", "1.75"], found.call({ "label_more" => "Kits only" }, "A", "F")
    assert_equal %w[Tracked 2.50], found.call({ "effect" => { "kind" => "free", "most" => "2.00" } }, "A"), "capped, so not free"
    fixed = { "label" => "Only £2", "effect" => { "kind" => "fixed", "amount" => "2.00" } }
    assert_equal [["Only £2", "2.00"], %w[Tracked 3.75]], [found.call(fixed, "A"), found.call(fixed, "A", "F")]
    off = { "label" => "£1 off", "effect" => { "kind" => "off", "amount" => "1.00" } }
    assert_equal ["£1 off", "5.25"], found.call(off, "A", "F"), "what is taken off leaves any price"
    rule = ->(action) { [{ "id" => "r", "name" => "R", "when" => { "all" => [] }, "then" => [action] }] }
    assert_equal %w[Tracked 2.00], found.call({}, "A", rules: rule.call({ "kind" => "add", "amount" => "2.00" })), "a rule asks for money after all"
    assert_equal ["By rule", "0.00"], found.call({}, "A", rules: rule.call({ "kind" => "rename", "text" => "By rule" }))
    assert_equal ["Free from £75", "0.00"], found.call({}, "A", "F", rules: rule.call({ "kind" => "price", "amount" => "0.00" }))
  end

  private

  def methods_of(*ids) = ids.map { |id| { "id" => id, "code" => id.upcase, "name" => id } }

  def zoned(*lists, **parts)
    zones = lists.each_with_index.map { |areas, at| { "id" => "z#{at}", "name" => "Zone #{at}", "areas" => areas } }
    book(zones: zones, rates: zones.map { |zone| { "id" => zone["id"], "zone" => zone["id"], "method" => "m", "plan" => flat("3") } }, **parts)
  end
end
