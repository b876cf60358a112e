# frozen_string_literal: true

require "time"
require_relative "../../support/policies"

class PoliciesTest < Minitest::Test
  include PoliciesSupport

  # Two readings of sections 5 and 6 on generated books and carts: every price, every name.
  def test_offers_and_rules_against_a_slow_second_reading
    random = Random.new(1)
    seen = Hash.new(0)
    Rounds.of(1200).times do
      document = shop(random)
      sent = random_cart(random)
      local = pick(random, MOMENTS)
      quote = GateMile::Book.compile(document).quote(cart(sent), at: GateMile::LocalMoment.utc(local, "Europe/London"))
      expected = Slowly.new(document, sent, local).prices
      found = quote.method_quotes.to_h { |method| [method.method_id, [method.price&.minor, method.name]] }
      assert_equal expected.transform_values(&:first), found.transform_values(&:first), JSON.pretty_generate([document.slice("offers", "rules"), sent, local])
      found.each { |id, (price, name)| assert_equal expected[id].last, name if price }
      quote.method_quotes.flat_map(&:outcomes).each { |outcome| seen[outcome.state] += 1 }
      quote.outlooks.each { |outlook| seen[outlook.state] += 1 }
    end
    %i[acted no_gain beaten below over no_share blocked not_for_them].each { |state| assert_operator seen[state], :>, 5, "#{state} of #{seen}" }
  end

  # Common practice, no source: a threshold that is exactly reached counts; goods left out take the whole cart out of it,
  # unless they pay their own way.
  def test_thresholds_as_the_trade_reads_them
    free = { "id" => "o", "name" => "Free", "threshold" => { "measure" => "value", "from" => "40.00" }, "effect" => { "kind" => "free" } }
    goods = [{ "sku" => "N", "name" => "N", "price" => "19.99", "weight" => "1 kg" }, { "sku" => "P", "name" => "P", "price" => "0.02", "weight" => "1 kg" },
             { "sku" => "H", "name" => "H", "price" => "45.00", "weight" => "20 kg", "class" => "h" }]
    plan = { "schedule" => { "kind" => "steps", "measure" => "weight",
                             "steps" => [{ "at" => "0 kg", "amount" => "4.50" }, { "at" => "10 kg", "amount" => "12.00" }] } }
    setup = { products: goods, classes: [{ "id" => "h", "name" => "Heavy" }], rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }] }
    pays = lambda { |offer, *lines|
      quote(book(**setup, offers: [offer]), lines, to("GB")).method_quotes.first.price.to_s
    }
    assert_equal(%w[4.50 4.50 0.00], [1, 2, 3].map { |units| pays.call(free, line("N", units)) })
    assert_equal "0.00", pays.call(free, line("N", 2), line("P", 1))
    blocked = free.merge("blocking" => { "classes" => ["h"] })
    assert_equal "12.00", pays.call(blocked, line("N", 3), line("H"))
    paying = free.merge("paying" => { "classes" => ["h"] })
    assert_equal "12.00", pays.call(paying, line("N", 3), line("H"))
    own = { "schedule" => { "kind" => "flat", "amount" => "5.00" }, "group" => "unit" }
    setup[:rates].first["plan"] = own
    assert_equal "5.00", pays.call(paying, line("N", 3), line("H"))
    assert_equal "10.00", pays.call(paying.merge("paying_count" => false), line("N", 1), line("H"))
  end

  # IANA tz database, Europe/London 2026: clocks go forward on 29 March at 01:00 UTC and back on 25 October at 01:00 UTC.
  def test_moments_on_the_nights_when_clocks_change
    at = ->(text, role) { GateMile::LocalMoment.utc(text, "Europe/London", role: role).strftime("%m-%dT%H:%M") }
    assert_equal %w[03-29T01:00 03-29T01:00], [at.call("2026-03-29T01:30", :start), at.call("2026-03-29T01:30", :end)]
    assert_equal %w[03-29T00:59 03-29T01:00], [at.call("2026-03-29T00:59", :start), at.call("2026-03-29T02:00", :start)]
    assert_equal %w[10-25T00:30 10-25T01:30], [at.call("2026-10-25T01:30", :start), at.call("2026-10-25T01:30", :end)]
    # Lord Howe Island moves by half an hour: forward on 4 October 2026 at 02:00, so 02:10 is not there.
    assert_equal "2026-10-03T15:30", GateMile::LocalMoment.utc("2026-10-04T02:10", "Australia/Lord_Howe").strftime("%Y-%m-%dT%H:%M")
    free = { "id" => "o", "name" => "Night", "effect" => { "kind" => "free" }, "starts" => "2026-10-25T01:30", "ends" => "2026-10-25T01:45" }
    shop = book(offers: [free])
    prices = %w[00:29 00:30 01:29 01:44 01:45].map do |time|
      shop.quote(cart({ "lines" => [line], "destination" => to("GB") }), at: Time.iso8601("2026-10-25T#{time}:00Z")).method_quotes.first.price.to_s
    end
    assert_equal %w[3.00 0.00 0.00 0.00 3.00], prices
  end

  def test_what_an_offer_lacks_is_said_in_numbers
    texts = GateMile::Milepost::MOMENTS.to_h { |moment| [moment, "#{moment} {remaining}"] }
    free = { "id" => "o", "name" => "Free", "threshold" => { "measure" => "value", "from" => "10.00" }, "zones" => ["uk"], "groups" => { "except" => ["g"] },
             "blocking" => { "skus" => ["B"] }, "effect" => { "kind" => "free" }, "milepost" => { "texts" => texts, "near" => "3.00" } }
    shop = book(offers: [free], groups: [{ "id" => "g", "name" => "Trade" }],
                products: { "A" => "1.90", "B" => "9.00" }.map { |sku, price| { "sku" => sku, "name" => sku, "price" => price, "weight" => "1 kg" } })
    seen = lambda { |lines, to, **more|
      found = shop.quote(cart({ "lines" => lines, "destination" => to, **more.transform_keys(&:to_s) }), at: AT).outlooks.first
      [found.state, found.remaining.to_s, found.moment]
    }
    assert_equal [:below, "10.00", "before"], seen.call([], {})
    assert_equal [:below, "8.10", "away"], seen.call([line("A")], to("GB"))
    assert_equal [:below, "2.40", "nearly"], seen.call([line("A", 4)], {})
    assert_equal [:acted, "", "reached"], seen.call([line("A", 6)], to("GB"))
    assert_equal [:blocked, "", nil], seen.call([line("A", 6), line("B")], to("GB"))
    assert_equal [:not_for_them, "", "not_for_you"], seen.call([line("A", 6)], to("FR"))
    assert_equal [:not_for_them, "", "not_for_you"], seen.call([line("A", 6)], to("GB"), group: "TRADE")
  end

  def test_facts_that_the_cart_does_not_carry
    rule = { "id" => "r", "name" => "No boxes", "when" => { "all" => [{ "fact" => "zone", "of" => ["uk"] }, { "fact" => "po_box" }] },
             "then" => [{ "kind" => "hide", "methods" => ["m"] }] }
    ask = lambda { |shop, to|
      shop.quote(cart({ "lines" => [line], "destination" => to }), at: AT).method_quotes.to_h do |one|
        [one.method_id, [one.price&.to_s, one.provisional]]
      end
    }
    shop = book(rules: [rule])
    assert_equal({ "m" => ["4.50", [:street]], "n" => ["3.00", []] }, ask.call(shop, to("GB")))
    assert_equal [nil, []], ask.call(shop, to("GB").merge("lines" => ["P.O. Box 7"]))["m"]
    assert_equal ["4.50", []], ask.call(shop, to("GB").merge("lines" => ["7 Quay"]))["m"]
    none = rule.merge("when" => { "none" => [{ "fact" => "postcode", "country" => "GB", "of" => ["IV27"] }] })
    assert_equal [nil, [:postcode]], ask.call(book(rules: [none]), to("GB").merge("postcode" => "IV"))["m"]
    billed = rule.merge("when" => { "all" => [{ "fact" => "region", "country" => "GB", "of" => ["SCT"], "address" => "billing" }] })
    assert_equal ["4.50", [:billing_country]], ask.call(book(rules: [billed]), to("GB"))["m"]
  end

  BAD = {
    ["offers", { "starts" => "2026-12-02T00:00", "ends" => "2026-12-01T00:00" }] => ["/offers/0/ends", :ends_before],
    ["offers", { "threshold" => { "measure" => "value", "from" => "0" } }] => ["/offers/0/threshold/from", :zero],
    ["offers", { "threshold" => { "measure" => "value", "from" => "9", "below" => "8" } }] => ["/offers/0/threshold/below", :below_from],
    ["offers", { "milepost" => { "texts" => { "away" => "{price} more" } } }] => ["/offers/0/milepost/texts/away", :unknown_placeholder],
    ["offers", { "milepost" => { "link" => "javascript:alert(1)" } }] => ["/offers/0/milepost/link", :not_a_link],
    ["offers", { "zones" => ["uk"], "milepost" => { "zones" => ["all"] } }] => ["/offers/0/milepost/zones/0", :wider_than_offer],
    ["offers", { "methods" => ["gone"] }] => ["/offers/0/methods/0", :unknown_id],
    ["offers", { "blocking" => {} }] => ["/offers/0/blocking", :no_goods],
    ["offers", { "starts" => "2026-02-30T00:00" }] => ["/offers/0/starts", :not_a_moment],
    ["rules",
     { "when" => { "all" => [{ "any" => [{ "none" => [{ "all" => [{ "any" => [] }] }] }] }] } }] => ["/rules/0/when/all/0/any/0/none/0/all/0", :too_deep],
    ["rules", { "when" => { "all" => [{ "fact" => "value" }] } }] => ["/rules/0/when/all/0/from", :no_bound],
    ["rules", { "when" => { "all" => [{ "fact" => "class", "of" => ["x"] }] } }] => ["/rules/0/when/all/0/of/0", :unknown_id],
    ["rules", { "when" => { "all" => [], "any" => [] } }] => ["/rules/0/when", :no_group],
    ["rules", { "then" => [] }] => ["/rules/0/then", :does_nothing],
    ["rules", { "then" => [{ "kind" => "off", "percent" => "120" }] }] => ["/rules/0/then/0/percent", :out_of_percent]
  }.freeze

  def test_bad_offers_and_rules_are_told_at_their_place
    whole = { "offers" => { "id" => "o", "name" => "O", "effect" => { "kind" => "free" } },
              "rules" => { "id" => "r", "name" => "R", "when" => { "all" => [] }, "then" => [{ "kind" => "hide" }] } }
    BAD.each do |(list, fields), problem|
      assert_equal([problem], problems_of { book(list.to_sym => [whole[list].merge(fields)]) })
    end
    assert_equal([["/coupons/1/code", :twice]], problems_of { book(coupons: [{ "id" => "a", "code" => "Keel " }, { "id" => "b", "code" => "KEEL" }]) })
    whole.each { |list, item| assert_empty(problems_of { book(list.to_sym => [item]) }) }
  end

  # Each finding with the setup that has it and one that has not.
  def test_what_is_wrong_with_offers
    goods = [{ "sku" => "N", "name" => "Net", "price" => "10.00", "cost" => "9.00", "weight" => "1 kg", "class" => "s" },
             { "sku" => "A", "name" => "Anchor", "price" => "2.00", "weight" => "20 kg", "class" => "h" }]
    found = lambda { |fields, products = goods|
      shop = book(products: products, classes: [{ "id" => "s", "name" => "Small" }, { "id" => "h", "name" => "Heavy" }],
                  offers: [{ "id" => "o", "name" => "O", "methods" => ["m"], "effect" => { "kind" => "free" },
                             "threshold" => { "measure" => "value", "from" => "30.00" } }.merge(fields).compact])
      GateMile::OfferFindings.new(shop, AT).list
    }
    codes = ->(fields, *products) { found.call(fields, *products).map { |one| [one.code, one.numbers[:reason]].compact } }
    assert_equal [[:offer_loss]], codes.call({})
    assert_empty codes.call({}, [goods.first.merge("cost" => "1.00")])
    assert_includes codes.call({ "zones" => ["all"] }), %i[offer_never no_rate]
    assert_includes codes.call({ "ends" => "2026-05-31T00:00" }), [:offer_over]
    assert_includes codes.call({ "blocking" => { "classes" => %w[s h] } }), %i[offer_spoilt all_spoil]
    assert_includes codes.call({ "threshold" => { "measure" => "value", "from" => "30.00", "below" => "90.00" } }), [:offer_closes]
    assert_includes codes.call({ "blocking" => { "classes" => ["h"] } }, [*goods, { "sku" => "L", "name" => "Loose", "price" => "3.00", "weight" => "1 kg" }]),
                    [:offer_unclassed]
    assert_includes codes.call({ "label" => "Free over 30" }), [:milepost_over]
    dear = found.call({ "blocking" => { "classes" => ["h"] }, "methods" => %w[m n] }).find { |one| one.code == :pays_more }
    assert_equal ["Anchor", "2.00", "3.00"], dear.numbers.values_at(:name, :price, :more).map(&:to_s)
    assert_equal([["N", 3], ["A", 1]], dear.cart["lines"].map { |one| one.values_at("sku", "quantity") })
    # An accent may be one sign or two: "CAFÉ" in both forms of Unicode (UAX 15) is one code.
    composed = "CAF\u00C9"
    apart = "cafe\u0301"
    taken = book(coupons: [{ "id" => "c", "code" => composed }])
    found = [composed, apart].map { |code| taken.quote(cart({ "lines" => [line], "coupons" => [code] }), at: AT).refused }
    assert_equal [[], []], found
    assert_equal([["/coupons/1/code", :twice]], problems_of do
      book(coupons: [composed, apart].each_with_index.map do |code, at|
        { "id" => at.to_s, "code" => code }
      end)
    end)
    shop = book(coupons: [{ "id" => "k", "code" => "KEEL" }])
    assert_equal [:coupon_unused], GateMile::OfferFindings.new(shop, AT).list.map(&:code)
  end

  def test_what_a_threshold_leaves
    goods = [{ "sku" => "A", "name" => "A", "price" => "12.00", "cost" => "4.00", "weight" => "1 kg" },
             { "sku" => "B", "name" => "B", "price" => "1.00", "weight" => "1 kg" }]
    cost = { "schedule" => { "kind" => "flat", "amount" => "6.20" } }
    shop = book(products: goods, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("4.50"), "cost" => cost }],
                offers: [{ "id" => "o", "name" => "O", "effect" => { "kind" => "free" }, "threshold" => { "measure" => "value", "from" => "50.00" } }])
    margins = ->(lines) { GateMile::Margins.new(shop, cart({ "lines" => lines, "destination" => to("GB") }), shop.offers.first, AT) }
    rows = margins.call([line("A", 2)]).rows.map { |row| [row.at, row.value, row.margin, row.paid, row.cost, row.left].map(&:to_s) }
    # 24.00 of goods bring 16.00; topped up to 50.00 they bring 16.00 × 50/24 = 33.33.
    assert_equal [%w[cart 24.00 16.00 4.50 6.20 14.30], %w[threshold 50.00 33.33 0.00 6.20 27.13]], rows
    unknown = margins.call([line("B", 60)])
    assert_equal [["B"], ["0.00", nil]], [unknown.unknown, unknown.rows.first.then { |row| [row.paid.to_s, row.left] }]
  end
end
