# frozen_string_literal: true

require_relative "../../support/core"

# What an audit says of offers: of their texts, and of one that never counts beside another.
class OfferAuditTest < Minitest::Test
  include CoreSupport

  PLACES = [{ "country" => "GB" }, { "country" => "FR" }].freeze
  RATES = [%w[uk m 4.50], %w[uk n 3.00], %w[all m 12.00], %w[all n 0.80]].freeze

  def shop(offers, **more)
    rates = RATES.map { |zone, method, amount| { "id" => "#{zone}-#{method}", "zone" => zone, "method" => method, "plan" => flat(amount) } }
    book(offers: offers, rates: rates, groups: [{ "id" => "g", "name" => "Trade" }], **more)
  end

  def free(**fields)
    { "id" => "o", "name" => "O", "effect" => { "kind" => "free" }, "threshold" => { "measure" => "value", "from" => "75.00" },
      **fields.transform_keys(&:to_s) }
  end

  def texts(text, **fields)
    GateMile::OfferTexts.new(*shop([free(milepost: { "texts" => { "away" => text } }, **fields)]).then do |shop|
      [shop,
       shop.offers.first]
    end).list
  end

  # Which amounts a text may name: its threshold, its end, and what the offer makes of a price.
  def test_amounts_in_texts
    { "Free from £75" => nil, "Free from £75.00" => nil, "Free from 75 €" => nil, "Free from £80" => "80", "Spend £ 70.50 more" => "70.50",
      "Spend {remaining} more" => nil, "Order 12 ropes by 5 o'clock" => nil, "£75, not £95" => "95", "Free from £75,00" => nil }.each do |text, figure|
      found = texts(text).select { |one| one.code == :text_amount }
      assert_equal [figure].compact, found.map { |one| one.numbers[:figure] }, text
    end
    below = { "measure" => "value", "from" => "75.00", "below" => "200.00" }
    assert_empty texts("From £75 to £200", threshold: below)
    assert_empty texts("From £75 you pay £2", effect: { "kind" => "fixed", "amount" => "2.00" })
    assert_empty texts("From £75 up to £5 off", effect: { "kind" => "percent", "percent" => "50", "most" => "5.00" })
    # A threshold of weight says nothing of money.
    assert_empty texts("Save £3 from 10 kg", threshold: { "measure" => "weight", "from" => "10 kg" })
  end

  def test_over_and_at_least
    told = ["over £75", "Over  75", "more\nthan £75", "above an order of £75", "beyond a basket value of 75", "Heavier than 75"]
    quiet = ["from £75", "£75 and over", "over the counter", "all over £75 islands", "at least £75", "We look after more than parcels"]
    assert_empty(told.reject { |text| texts(text).any? { |one| one.code == :milepost_over } })
    assert_empty(quiet.select { |text| texts(text).any? { |one| one.code == :milepost_over } })
  end

  # The label is one of the texts; an offer without a threshold has nothing to be wrong about.
  def test_labels
    offer = shop([free(label: "Free over £60")])
    assert_equal({ milepost_over: "label", text_amount: "label" },
                 GateMile::OfferTexts.new(offer, offer.offers.first).list.to_h { |one| [one.code, one.numbers[:moment]] })
    always = shop([free(label: "Free over £60").except("threshold")])
    assert_empty GateMile::OfferTexts.new(always, always.offers.first).list
  end

  def some(random, *list) = list.sample(random: random)

  def effect(random)
    some(random, { "kind" => "free" }, { "kind" => "fixed", "amount" => some(random, "1.00", "2.00") }, { "kind" => "off", "amount" => some(random,
                                                                                                                                            "1.00", "2.00") },
         { "kind" => "percent", "percent" => some(random, "10", "50", "100") }, { "kind" => "percent", "percent" => "50", "most" => "1.00" })
  end

  def threshold(random)
    some(random, nil, { "measure" => "value", "from" => some(random, "2.00", "4.00", "6.00") }, { "measure" => "value", "from" => "2.00", "below" => "6.00" },
         { "measure" => "quantity", "from" => some(random, 1, 2, 3) })
  end

  def offer(random, id)
    { "id" => id, "name" => id, "effect" => effect(random), "threshold" => threshold(random), "zones" => some(random, nil, nil, ["uk"]),
      "methods" => some(random, nil, nil, ["m"], %w[m n]), "groups" => some(random, nil, nil, nil, { "only" => ["g"] }) }.compact
  end

  def asked
    @asked ||= PLACES.product([nil, "Trade"], [*1..4], ["1.00", "1.90", "2.00", "6.00"]).map do |to, group, quantity, price|
      cart({ "lines" => [line("A", quantity, unit_price: price)], "destination" => to, "group" => group }.compact)
    end
  end

  def prices(book) = asked.map { |cart| book.quote(cart, at: AT).method_quotes.map { |one| [one.method_id, one.price&.minor] } }

  # Whoever is beaten is missed by nobody: without it every cart of a small world pays the same. All kinds of effects,
  # thresholds, zones, methods and groups, by chance.
  def test_the_beaten_one_never_counts
    beaten = 0
    Rounds.of(600).times do |seed|
      random = Random.new(seed)
      two = [offer(random, "a"), offer(random, "b")]
      both = shop(two)
      winner, loser = both.offers.permutation(2).find { |one, other| GateMile::OfferRival.new(one, other, both.offers.to_a).always_wins? }
      next if winner.nil?

      beaten += 1
      assert_equal prices(both), prices(shop(two.reject { |one| one["id"] == loser.id })), "seed #{seed}: #{two.inspect}"
    end
    assert_operator beaten, :>, Rounds.of(25), "the world has beaten ones"
  end

  # Nothing is beaten by itself, by what is not always there, or by one that it goes together with.
  def test_who_is_not_beaten
    wins = lambda do |one, other|
      made = shop([free(id: "a", name: "A", **one), free(id: "b", name: "B", **other)], coupons: [{ "id" => "k", "code" => "KEEL" }])
      GateMile::OfferRival.new(*made.offers.first(2), made.offers.to_a).always_wins?
    end
    assert wins.call({}, {}), "the same twice: the higher one counts"
    refute wins.call({ coupons: ["k"] }, {})
    refute wins.call({ ends: "2027-01-01T00:00" }, {})
    refute wins.call({ zones: ["uk"] }, {})
    assert wins.call({ zones: ["uk"] }, { zones: ["uk"] })
    refute wins.call({ threshold: { "measure" => "value", "from" => "80.00" } }, {})
    refute wins.call({}, { combines: true })
    single = shop([free])
    refute_predicate GateMile::OfferRival.new(single.offers.first, single.offers.first, single.offers.to_a), :always_wins?
  end
end
