# frozen_string_literal: true

require_relative "../../support/core"

# What a proof holds a cart to, how it is written, and what becomes of it.
class ProofsTest < Minitest::Test
  include CoreSupport

  CART = { "lines" => [{ "sku" => "A", "quantity" => 2 }], "destination" => { "country" => "GB" } }.freeze

  def proof(expects, cart = CART, **fields)
    document = { "id" => "p", "name" => "P", "cart" => cart, "expects" => expects, **fields.transform_keys(&:to_s) }
    GateMile::ProofForms::PROOF.parse(document, GateMile::Setting.new(GateMile::Currency["GBP"], "Europe/London"))
  end

  def ran(proof, book = self.book, now: AT) = GateMile::Proving.new(book, now: now).run(proof)
  def wanted(id, kind, **fields) = { "method" => id, "is" => kind, **fields.transform_keys(&:to_s) }

  # Each kind of price, where it holds and where it does not.
  def test_prices
    { ["exact", "4.50"] => :holds, ["exact", "4.51"] => :changed, ["at_most", "4.50"] => :holds, ["at_most", "4.49"] => :changed,
      ["at_least", "4.50"] => :holds, ["at_least", "4.51"] => :changed, ["free", nil] => :changed, ["offered", nil] => :holds,
      ["not_offered", nil] => :changed }.each do |(is, amount), state|
      outcome = ran(proof({ "methods" => [wanted("m", is, amount: amount)] }))
      assert_equal state, outcome.state, is
      assert_equal [], outcome.departures if state == :holds
    end
  end

  def test_what_differs_is_told_once_and_by_kind
    expects = { "status" => "nothing_available", "zone" => "all", "only" => true, "ordered" => true, "text" => "No",
                "methods" => [wanted("m", "exact", amount: "9.00", marks: ["cheapest"], messages: ["Hello"])] }
    codes = ran(proof(expects)).departures.map(&:code)
    assert_equal %i[status zone text price mark message offered], codes
    order = ran(proof({ "ordered" => true, "methods" => [wanted("m", "offered"), wanted("n", "offered")] })).departures
    assert_equal([[:order, %w[m n], %w[n m]]], order.map { |one| [one.code, one.wanted, one.gets] })
    gone = ran(proof({ "methods" => [wanted("m", "free")] }), book(rates: [])).departures
    assert_equal([[:gone, "m", { kind: :free }]], gone.map { |one| [one.code, one.method_id, one.wanted] })
  end

  # Taken over from what a cart gets it holds at once, wherever the cart goes; and accepted it holds again.
  def test_taken_over_it_holds
    after = book(rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => flat("2.00") }])
    [CART, CART.merge("destination" => { "country" => "FR" }), CART.merge("lines" => []), { "lines" => [{ "sku" => "V", "quantity" => 1 }] },
     CART.merge("destination" => {})].each do |document|
      quote = book.quote(cart(document), at: AT)
      kept = proof({ "zone" => "uk" }, document).with(expected: GateMile::Expected.of(quote))
      assert_equal :holds, ran(kept).state, document.inspect
      again = kept.with(expected: kept.expected.accepting(after.quote(kept.cart, at: AT)))
      assert_equal :holds, ran(again, after).state, document.inspect
      assert_equal again, GateMile::ProofForms::PROOF.parse(GateMile::ProofForms::PROOF.write(again), GateMile::Setting.new(after.currency, "Europe/London"))
    end
  end

  # Bounds that hold stay bounds; one that does not moves to what is paid now.
  def test_accepting_says_as_much_as_before
    expects = { "methods" => [wanted("m", "at_most", amount: "5.00"), wanted("n", "at_most", amount: "2.00")] }
    found = proof(expects).expected.accepting(book.quote(cart(CART), at: AT))
    assert_equal([[:at_most, "5.00"], [:at_most, "3.00"]], found.methods.map { |one| [one.kind, one.amount.to_s] })
    refute found.only
  end

  # Neither green nor red: what it speaks of is not there.
  def test_what_is_gone_makes_it_unclear
    { no_product: proof({ "zone" => "uk" }, CART.merge("lines" => [{ "sku" => "GONE", "quantity" => 1 }])),
      no_class: proof({ "zone" => "uk" }, CART.merge("lines" => [{ "name" => "X", "unit_price" => "1.00", "quantity" => 1, "class" => "Gone" }])),
      no_group: proof({ "zone" => "uk" }, CART.merge("group" => "Gone")), no_coupon: proof({ "zone" => "uk" }, CART.merge("coupons" => ["GONE"])),
      no_method: proof({ "methods" => [wanted("gone", "not_offered")] }), no_zone: proof({ "zone" => "gone" }) }.each do |code, proof|
      outcome = ran(proof)
      assert_equal [:unclear, [code]], [outcome.state, outcome.unclear.map { |one| one[:code] }]
    end
    own = { "sku" => "GONE", "quantity" => 1, "unit_price" => "3.00" }
    assert_equal :holds, ran(proof({ "zone" => "uk" }, CART.merge("lines" => [own]))).state
  end

  # A coupon that is over is one that a cart can hold.
  def test_a_coupon_that_is_over_is_no_riddle
    over = book(coupons: [{ "id" => "k", "code" => "KEEL", "ends" => "2026-01-01T00:00" }])
    assert_equal :holds, ran(proof({ "zone" => "uk" }, CART.merge("coupons" => ["keel"])), over).state
  end

  def test_days_of_the_week
    weekend = book(rules: [{ "id" => "r", "name" => "r", "when" => { "all" => [{ "fact" => "weekday", "of" => [3] }] },
                             "then" => [{ "kind" => "hide", "methods" => ["m"] }] }])
    kept = proof({ "methods" => [wanted("m", "offered")] }, weekdays: [1, 2, 3, 4, 5], time: "12:00")
    outcome = ran(kept, weekend)
    assert_equal [:changed, 3], [outcome.state, GateMile::LocalMoment.local(outcome.at, "Europe/London").to_date.cwday]
    # Where no setting looks at the clock, all days are one.
    assert_equal 1, GateMile::Proving.new(book, now: AT).times(kept).size
    assert_equal 2, GateMile::Proving.new(weekend, now: AT).times(kept).size
    late = proof({ "zone" => "uk" }, at: "2026-06-01T23:30")
    assert_equal [Time.utc(2026, 6, 1, 22, 30)], GateMile::Proving.new(book, now: AT).times(late)
  end

  def test_bad_input_is_told_at_its_place
    setting = GateMile::Setting.new(GateMile::Currency["GBP"], "Europe/London")
    bad = { "id" => "p", "name" => "P", "cart" => { "lines" => [{ "quantity" => 0 }] }, "at" => "soon", "weekdays" => [9], "time" => "noon",
            "expects" => { "status" => "fine", "methods" => [wanted("m", "exact"), wanted("m", "about", amount: "1"), { "is" => "free" }], "foo" => 1 },
            "recorded" => [{ "carrier" => "c", "at" => "now", "asked" => {}, "status" => "maybe" }] }
    problems = problems_of { GateMile::ProofForms::PROOF.parse(bad, setting) }
    assert_equal({ "/cart/lines/0/sku" => :sku_or_name, "/cart/lines/0/quantity" => :out_of_range, "/at" => :not_a_moment, "/weekdays" => :out_of_range,
                   "/expects/status" => :not_one_of, "/expects/methods/0/amount" => :missing, "/expects/methods/1/is" => :not_one_of,
                   "/expects/methods/1/method" => :twice, "/expects/methods/2/method" => :missing, "/expects/foo" => :unknown_field,
                   "/expects/methods/1/amount" => :unknown_field, "/recorded/0/at" => :not_a_moment, "/recorded/0/status" => :not_one_of },
                 problems.to_h.except("/time"))
    moment = { "carrier" => "c", "asked" => {}, "status" => "refused", "services" => {} }
    told = lambda { |at|
      problems_of { GateMile::ProofForms::PROOF.parse(bad.slice("id", "name").merge("cart" => CART, "expects" => { "zone" => "uk" }, "recorded" => [moment.merge("at" => at)]), setting) }
    }
    assert_empty told.call("2026-06-01T10:00:00Z")
    ["2026-13-01T10:00:00Z", "2026-06-01 10:00", "2026-06-01T10:00:00Z ", 7].each { |at| assert_equal [["/recorded/0/at", :not_a_moment]], told.call(at), at }
    nothing = bad.slice("id", "name").merge("cart" => CART, "expects" => {})
    assert_equal([["/expects", :expects_nothing]], problems_of { GateMile::ProofForms::PROOF.parse(nothing, setting) })
    both = { "id" => "p", "name" => "P", "cart" => CART, "expects" => { "zone" => "uk" }, "at" => "2026-06-01T10:00", "weekdays" => [1], "time" => "10:00" }
    assert_equal([["/weekdays", :at_or_weekdays]], problems_of { GateMile::ProofForms::PROOF.parse(both, setting) })
  end

  def test_names_and_ids_are_of_one_proof_each
    one = { "id" => "p", "name" => "Same", "cart" => CART, "expects" => { "zone" => "uk" } }
    assert_equal([["/proofs/1/id", :twice], ["/proofs/1/name", :twice]], problems_of { book(proofs: [one, one.merge("name" => "same ")]) })
    kept = book(proofs: [one, one.merge("id" => "q", "name" => "Other", "tags" => ["t"], "note" => "n", "at" => "2026-06-01T10:00")])
    assert_equal kept.proofs, GateMile::Book.compile(kept.dump).proofs
    assert_equal %w[Same Other], kept.with_rate(kept.rates.first).proofs.map(&:name)
  end

  # Where two reckonings part is the first line in which they differ, with the setting that it comes of.
  def test_the_line_in_which_they_part
    by_weight = { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => [{ "at" => "0 kg", "amount" => "4.00" }] },
                  "handling" => { "fixed" => "1.00", "per" => "order" } }
    dearer = by_weight.merge("handling" => { "fixed" => "1.50", "per" => "order" })
    before, after, off = [by_weight, dearer, dearer].each_with_index.map do |plan, at|
      book(rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => plan, "active" => at < 2 }]).quote(cart(CART), at: AT)
    end
    parting = GateMile::Parting.all(before, after).first
    assert_equal [%i[adjust.handling adjust.handling], "5.00", "5.50"],
                 [parting.first.map(&:code), parting.before.price.to_s, parting.after.price.to_s]
    assert_equal({ kind: "rate", id: "uk-m", field: "plan" }, parting.setting)
    gone = GateMile::Parting.all(after, off).first
    assert_equal [:rate_off, [nil, nil]], [gone.cause.code, gone.first]
    assert_empty GateMile::Parting.all(before, before)
  end
end
