# frozen_string_literal: true

require_relative "../../support/core"
require "yaml"

# Each kind of line that a reckoning can have, and each cause why there is no price, from the smallest shop and cart that
# lead to it. The amounts are worked by hand, as the comments beside them say.
class EveryLineTest < Minitest::Test
  include CoreSupport

  FLAT = ->(amount) { { "schedule" => { "kind" => "flat", "amount" => amount } } }
  STEPS = lambda do |measure, *steps, **more|
    { "schedule" => { "kind" => "steps", "measure" => measure, "steps" => steps.map do |at, rest|
      { "at" => at }.merge(rest)
    end } }.merge(more.transform_keys(&:to_s))
  end
  GOODS = [{ "sku" => "ROPE", "name" => "Rope", "price" => "12.00", "weight" => "0.4 kg", "class" => "small", "size" => { "length" => "20 cm",
                                                                                                                          "width" => "10 cm",
                                                                                                                          "height" => "5 cm" } },
           { "sku" => "ANCHOR", "name" => "Anchor", "price" => "90.00", "weight" => "9 kg", "class" => "heavy" },
           { "sku" => "OAR", "name" => "Oar", "price" => "30.00", "weight" => "2 kg", "treatments" => ["own"] },
           { "sku" => "FLAG", "name" => "Flag", "price" => "8.00", "weight" => "0.1 kg", "treatments" => ["plus"] },
           { "sku" => "FLARE", "name" => "Flare", "price" => "20.00", "weight" => "0.3 kg", "treatments" => ["road"] },
           { "sku" => "BARE", "name" => "Bare", "price" => "5.00" },
           { "sku" => "CARD", "name" => "Gift card", "price" => "25.00", "ships" => false }].freeze
  OWN = { "kind" => "graduated", "steps" => [{ "from" => 1, "amount" => "6.00" }, { "from" => 3, "amount" => "4.00" }] }.freeze
  SHOP = {
    products: GOODS, classes: [{ "id" => "small", "name" => "Small" }, { "id" => "heavy", "name" => "Heavy" }],
    treatments: [{ "id" => "own", "name" => "Oars", "price" => { "kind" => "apart", "charge" => OWN } },
                 { "id" => "plus", "name" => "Flags", "price" => { "kind" => "along", "plus" => "1.00" } },
                 { "id" => "road", "name" => "By road", "travel" => { "never" => ["m"] } }],
    zones: [{ "id" => "uk", "name" => "UK", "areas" => [{ "kind" => "country", "country" => "GB" }] }],
    methods: [{ "id" => "m", "code" => "M", "name" => "Tracked" }],
    rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => FLAT["4.50"] }],
    groups: [{ "id" => "trade", "name" => "Trade" }]
  }.freeze
  TROUBLE = { "silent" => { "kind" => "amount", "amount" => "9.00" }, "refused" => { "kind" => "none" }, "unusable" => { "kind" => "plan" } }.freeze

  # Answers every question with the same.
  Port = Struct.new(:reply) do
    def answers(requests) = requests.to_h { |request| [request, reply] }
  end

  # What a rate is made of; what goes into the cart; the lines that are wanted: code, amount, and numbers among theirs.
  LINES = [
    [{}, { "ROPE" => 2, "CARD" => 1 },
     [["lines.need_no_shipping", nil, { names: ["Gift card"] }],
      ["lines.ordinary", nil, { lines: 1, quantity: 2, value: "24.00", weight: "0.8 kg", apart: 0 }],
      ["schedule.flat", "4.50", { zone: "UK" }], ["price.total", "4.50", {}]]],
    # Five oars: two at 6.00 and three at 4.00 is 24.00. Nothing is left for the ordinary rate.
    [{}, { "OAR" => 5 },
     [["lines.apart", nil, { name: "Oar", level: :product, treatment: "Oars", units: 5 }], ["lines.none_ordinary", nil, {}],
      ["treated.apart", "24.00", { counting: :graduated, parts: [{ units: 2, each: "6.00" }, { units: 3, each: "4.00" }] }],
      ["price.total", "24.00", {}]]],
    # 4.50 for the cart and 1.00 for each of two flags.
    [{}, { "FLAG" => 2 }, [["lines.along", nil, { name: "Flag", treatment: "Flags" }], ["treated.fee", "2.00", { units: 2, each: "1.00" }],
                           ["price.total", "6.50", {}]]],
    # 3.00 for the first unit and three more at 1.25.
    [{ "plan" => { "schedule" => { "kind" => "first", "first" => "3.00", "additional" => "1.25" } } }, { "ROPE" => 4 },
     [["schedule.first", "6.75", { first: "3.00", more: 3, additional: "1.25" }], ["price.total", "6.75", {}]]],
    # 9.8 kg is 4.8 kg over 5 kg: five started kg at 0.30 on 7.00.
    [{ "plan" => STEPS["weight", ["0 kg", { "amount" => "4.00" }], ["5 kg", { "amount" => "7.00", "each" => "0.30", "increment" => "1 kg" }]] },
     { "ANCHOR" => 1, "ROPE" => 2 }, [["schedule.steps", "8.50", { measure: "weight", number: "9.8 kg", started: 5, base: "7.00" }],
                                      ["price.total", "8.50", {}]]],
    # 2.00 and 5 % of 90.00.
    [{ "plan" => STEPS["value", ["0", { "amount" => "2.00", "percent" => "5" }]] }, { "ANCHOR" => 1 },
     [["schedule.steps", "6.50", { percent: "5", of: "90.00", base: "2.00" }], ["price.total", "6.50", {}]]],
    [{ "plan" => { "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "5 kg"] },
                                   "columns" => { "measure" => "value", "at" => %w[0 50] },
                                   "cells" => [%w[1.00 2.00], %w[3.00 4.00]] } } }, { "ANCHOR" => 1 }, [["schedule.grid", "4.00", {}],
                                                                                                        ["price.total", "4.00", {}]]],
    # A class each, 3.00 and 8.00, added up; then the higher; then the lower.
    *{ "sum" => "11.00", "highest" => "8.00", "lowest" => "3.00" }.map do |how, amount|
      [{ "plan" => { "group" => "class", "combine" => how,
                     "classes" => [{ "class" => "small", "charge" => "once" }.merge(FLAT["3.00"]), { "class" => "heavy",
                                                                                                     "charge" => "once" }.merge(FLAT["8.00"])] } },
       { "ANCHOR" => 1, "ROPE" => 1 }, [["plan.combine", amount, { how: how, count: 2 }], ["price.total", amount, {}]]]
    end,
    # 4.50, and 0.50 and 10 % of it for handling: 0.95. At least 6.00, then up to the next .95.
    [{ "plan" => FLAT["4.50"].merge("handling" => { "fixed" => "0.50", "percent" => "10", "per" => "order" }, "minimum" => "6.00",
                                    "ending" => "0.95") }, { "ROPE" => 1 },
     [["adjust.handling", "5.45", { fixed: "0.50", percent: "10", of: "4.50", added: "0.95" }], ["adjust.minimum", "6.00", { from: "5.45" }],
      ["adjust.ending", "6.95", { from: "6.00" }], ["price.total", "6.95", {}]]],
    [{ "plan" => FLAT["40.00"].merge("maximum" => "25.00") }, { "ROPE" => 1 }, [["adjust.maximum", "25.00", { from: "40.00" }],
                                                                                ["price.total", "25.00", {}]]],
    [{ "areas" => [{ "kind" => "country", "country" => "GB", "only" => ["TR29"] }] }, { "ROPE" => 1 }, [["rate.narrowed_perhaps", nil,
                                                                                                         { field: :postcode }]],
     { to: { "country" => "GB" } }],
    [{ "name" => "By van" }, { "ROPE" => 1 }, [["finish.renamed", nil, { from: "Tracked", to: "By van" }]]],
    # What has no weight is counted as a kg: by 2 kg, 2.00 a kg.
    [{ "plan" => STEPS["billable_weight", ["0 kg", { "amount" => "1.00" }], ["1 kg", { "amount" => "5.00" }], group: "parcel",
                                                                                                              parcels: { "kind" => "one",
                                                                                                                         "unit_weight" => "1 kg" }] },
     { "BARE" => 2 }, [["parcels.stand_in", nil, { names: ["Bare"], weight: "1 kg" }], ["schedule.steps", "5.00", { number: "2 kg" }]]]
  ].freeze

  # Offers and rules, on a rate of 4.50; the lines they leave in the reckoning of a cart of 24.00.
  POLICIES = [
    [{ offers: [{ "effect" => { "kind" => "off", "amount" => "1.50" } }] }, [["offer.acted", "1.50", { taken: "1.50", base: "4.50" }],
                                                                             ["price.total", "3.00", {}]]],
    [{ offers: [{ "effect" => { "kind" => "fixed", "amount" => "9.00" } }] }, [["offer.no_gain", nil, {}], ["price.total", "4.50", {}]]],
    [{ offers: [{ "effect" => { "kind" => "free" } }, { "id" => "o2", "effect" => { "kind" => "percent", "percent" => "10" } }] },
     [["offer.acted", "4.50", { offer: "Offer o1" }], ["offer.beaten", nil, { offer: "Offer o2", price: "4.05" }], ["price.total", "0.00", {}]]],
    [{ offers: [{ "threshold" => { "measure" => "value", "from" => "30" } }] }, [["offer.below", nil, { here: "24.00", from: "30", remaining: "6.00" }]]],
    [{ offers: [{ "threshold" => { "measure" => "value", "from" => "5", "below" => "20" } }] }, [["offer.over", nil, { here: "24.00", below: "20" }]]],
    [{ offers: [{ "threshold" => { "measure" => "weight", "from" => "1 kg" } }], cart: { "BARE" => 1 } }, [["offer.unknown", nil, {}]]],
    [{ offers: [{ "label" => "Ours to pay" }] }, [["price.total", "0.00", {}], ["offer.renamed", nil, { from: "Tracked", to: "Ours to pay" }]]],
    [{ rules: [[{ "kind" => "rename", "text" => "Van" }]] }, [["rule.renamed", nil, { to: "Van" }]]],
    [{ rules: [[{ "kind" => "message", "text" => "Hello" }]] }, [["rule.message", nil, { text: "Hello" }]]],
    # Half off 4.50 is 2.25, at least 3.00, one more, and 4.00 at the most: 4.00.
    [{ rules: [[{ "kind" => "off", "percent" => "50" }, { "kind" => "floor", "amount" => "3.00" }, { "kind" => "add", "amount" => "1.10" },
                { "kind" => "cap", "amount" => "4.00" }]] },
     [["rule.price", "2.25", { kind: :off, percent: "50", before: "4.50" }], ["rule.price", "3.00", { kind: :floor, given: "3.00", before: "2.25" }],
      ["rule.price", "4.10", { kind: :add, before: "3.00" }], ["rule.price", "4.00", { kind: :cap, before: "4.10" }]]]
  ].freeze

  # What a carrier answers, and the lines that come of it: the ladder is 9.00 for silence, no price for a refusal, and the
  # rate's own 7.00 for nonsense.
  CARRIED = [
    [:answered, { "handling" => { "percent" => "10" } },
     [["live.answer", "5.00", { service: "Petrel Slow", parcels: 1 }], ["live.markup", "5.50", { percent: "10", added: "0.50" }],
      ["price.total", "5.50", {}]]],
    [:silent, {}, [["live.silent", nil, { service: "Petrel Slow", said: "told" }], ["live.fallback", "9.00", { trouble: :silent }],
                   ["price.total", "9.00", {}]]],
    [:unusable, {}, [["live.unusable", nil, {}], ["live.fallback_plan", nil, { trouble: :unusable }], ["price.total", "7.00", {}]]],
    [:fault, {}, [["live.fault", nil, {}], ["live.fallback", "9.00", { trouble: :fault }]]],
    [:refused, {}, [["live.refused", nil, { said: "told" }]], [["live_failed", { trouble: :refused, said: "told" }]]]
  ].freeze

  # What stands against a price: a change of the rate or the shop, the cart, and the causes with numbers among theirs.
  CAUSES = [
    [{ methods: [{ "id" => "m", "code" => "M", "name" => "Tracked", "active" => false }] }, { "ROPE" => 1 }, [["method_off", {}]]],
    [{ rate: { "active" => false } }, { "ROPE" => 1 }, [["rate_off", {}]]],
    [{}, { "GONE" => 1 }, [["unknown_product", { sku: "GONE" }]]],
    [{}, { "FLARE" => 1 }, [["line_barred", { treatment: "By road", name: "Flare" }]]],
    [{ rate: { "plan" => nil } }, { "ROPE" => 1 }, [["no_price", {}]]],
    [{ rate: { "areas" => [{ "kind" => "country", "country" => "GB", "only" => ["BT"] }] } }, { "ROPE" => 1 }, [["outside_areas", {}]]],
    [{ rate: { "plan" => STEPS["weight", ["0 kg", { "amount" => "4.00" }], ["30 kg", { "none" => true }]] } }, { "ANCHOR" => 4 }, [["beyond",
                                                                                                                                    { number: "36 kg",
                                                                                                                                      start: "30 kg" }]]],
    [{ rate: { "plan" => STEPS["weight", ["0 kg", { "amount" => "4.00" }], ["1 kg", { "amount" => "5.00" }]] } }, { "BARE" => 1 }, [["no_weight",
                                                                                                                                     { names: ["Bare"] }]]],
    [{ rate: { "plan" => STEPS["longest", ["0 cm", { "amount" => "4.00" }], ["1 m", { "amount" => "5.00" }]] } }, { "BARE" => 1 }, [["no_size",
                                                                                                                                     { names: ["Bare"] }]]],
    [{ rate: { "plan" => { "group" => "class", "combine" => "sum", "classes" => [{ "class" => "small",
                                                                                   "charge" => "once" }.merge(FLAT["3.00"])] } } }, { "ANCHOR" => 1 },
     [["no_class_price", { names: ["Anchor"] }]]],
    [{ rate: { "plan" => { "group" => "class", "combine" => "sum", "classes" => [{ "class" => "heavy", "carried" => false }] } } },
     { "ANCHOR" => 1 }, [["not_carried", { names: ["Anchor"] }]]],
    [{ rate: { "plan" => { "group" => "parcel", "parcels" => { "kind" => "one", "up_to" => "5 kg" } }.merge(FLAT["4.00"]) } }, { "ANCHOR" => 1 },
     [["too_heavy", { names: ["Anchor"], most: "5 kg" }]]],
    [{ rate: { "plan" => { "group" => "parcel", "parcels" => { "kind" => "boxes" } }.merge(FLAT["4.00"]) } }, { "ROPE" => 1 }, [["no_boxes", {}]]],
    [{ rules: [{ "id" => "x", "name" => "None", "when" => { "all" => [] }, "then" => [{ "kind" => "hide" }] }] }, { "ROPE" => 1 },
     [["hidden_by_rule", { rule: "None", how: :hide }]]],
    [{}, { "CARD" => 1 }, []]
  ].freeze

  def test_each_line_of_a_rate
    LINES.each do |rate, goods, wanted, more|
      quote = quoted(with(rate), goods, **more.to_h)
      assert_lines wanted, quote, rate
      assert_predicate quote, :available?, rate.inspect unless more
    end
  end

  def test_each_line_of_offers_and_rules
    POLICIES.each do |parts, wanted|
      offers = parts.fetch(:offers, []).each_with_index.map do |offer, at|
        { "id" => "o#{at + 1}", "name" => "Offer o#{at + 1}", "effect" => { "kind" => "free" } }.merge(offer)
      end
      rules = parts.fetch(:rules, []).each_with_index.map do |actions, at|
        { "id" => "x#{at}", "name" => "Rule #{at}", "when" => { "all" => [] },
          "then" => actions }
      end
      assert_lines wanted, quoted(SHOP.merge(offers: offers, rules: rules), parts.fetch(:cart, { "ROPE" => 2 })), parts
    end
  end

  def test_each_line_of_carriers
    CARRIED.each do |status, live, wanted, causes|
      rate = { "plan" => FLAT["7.00"], "live" => { "services" => [{ "carrier" => "p", "service" => "S" }], "ladder" => TROUBLE }.merge(live) }
      shop = with(rate).merge(carriers: [{ "id" => "p", "name" => "Petrel", "services" => [{ "code" => "S", "name" => "Slow" }] }],
                              store: STORE.merge("ship_from" => { "country" => "GB", "postcode" => "TR29 4ZZ" }))
      quote = quoted(shop, { "ROPE" => 1 }, carriers: Port.new(reply(status)))
      assert_lines wanted, quote, status
      assert_equal causes.to_a.map(&:first), quote.causes.map { |cause| cause.code.to_s }, status
    end
  end

  def test_each_cause
    CAUSES.each do |change, goods, wanted|
      shop = with(change.fetch(:rate, {})).merge(change.except(:rate))
      quote = quoted(shop, goods)
      assert_equal wanted.map(&:first), Array(quote).flat_map(&:causes).map { |cause| cause.code.to_s }, change.inspect
      wanted.zip(Array(quote).flat_map(&:causes)) { |(code, numbers), cause| assert_equal numbers, told(cause.numbers.slice(*numbers.keys)), code }
    end
  end

  # The last amount of a reckoning is the price, and each amount after the first comes from the one before it.
  def test_the_last_amount_is_the_price
    LINES.each do |rate, goods, _, more|
      quote = quoted(with(rate), goods, **more.to_h)
      next unless quote.available?

      assert_equal quote.price, quote.reckoning.reverse.find { |step| step.code == :"price.total" }.amount
    end
  end

  private

  def with(rate) = SHOP.merge(rates: [SHOP[:rates].first.merge(rate)])

  # @return [GateMile::MethodQuote, Array] the only one; none where nothing ships
  def quoted(shop, goods, to: { "country" => "GB", "postcode" => "TR29 4ZZ" }, carriers: nil)
    lines = goods.map { |sku, units| { "sku" => sku, "quantity" => units } }
    book(**shop).quote(cart({ "lines" => lines, "destination" => to }), at: AT, carriers: carriers).method_quotes.first || []
  end

  def reply(status)
    return GateMile::Reply.failed(status, "told") unless status == :answered

    five = GateMile::Money.parse("5.00", GateMile::Currency["GBP"])
    GateMile::Reply.new(status: :answered, services: { "S" => GateMile::ServiceAnswer.new(status: :ok, prices: [five], days: nil) }, age: 2)
  end

  # The wanted lines are there, in their order; others may stand between them.
  def assert_lines(wanted, quote, about)
    steps = quote.reckoning
    wanted.each do |code, amount, numbers|
      at = steps.index { |step| step.code.to_s == code && fits?(step, amount, numbers) }
      assert at, "#{about.inspect}: #{code} #{amount} #{numbers} is not among\n#{quote.reckoning.map do |step|
        [step.code, step.amount&.to_s,
         told(step.numbers)]
      end.join("\n")}"
      steps = steps.drop(at + 1)
    end
  end

  def fits?(step, amount, numbers)
    (amount.nil? || step.amount.to_s == amount) && told(step.numbers.slice(*numbers.keys)) == numbers
  end

  # Numbers as they are written in the tables above.
  def told(value)
    case value
    when Hash then value.transform_values { |one| told(one) }
    when Array then value.map { |one| told(one) }
    when Symbol, Integer, nil then value
    else value.to_s
    end
  end
end
