# frozen_string_literal: true

require_relative "core"

# Shops as merchants set them up, made by recipes: zones, classes, goods, rates of every kind, treatments, an offer or
# three, a rule or three. Nothing is wrong with any of them. All is invented.
module RecipesSupport
  include CoreSupport

  GOODS = [["R8", "Rope, 8 mm", "1.20", "0.06 kg", "coil"], ["R12", "Rope, 12 mm", "2.10", "0.11 kg", "coil"], ["CH", "Chart", "14.00", "0.15 kg", "flat"],
           ["PB", "Pilot book", "32.00", "0.9 kg", "flat"], ["AN", "Anchor", "89.00", "9 kg", "heavy"], ["CN", "Chain, 10 m", "64.00", "14 kg", "heavy"],
           ["FL", "Flares", "48.00", "1.1 kg", "fire"], ["LA", "Lamp", "27.50", "0.7 kg", "coil"]].freeze
  CLASSES = { "coil" => "Coils", "flat" => "Flat", "heavy" => "Heavy", "fire" => "Flares" }.freeze
  ZONES = { "near" => ["Near", [{ "kind" => "country", "country" => "GB", "except" => %w[HS ZE] }]],
            "isles" => ["Isles", [{ "kind" => "country", "country" => "GB", "only" => %w[HS ZE] }]],
            "abroad" => ["Abroad", [{ "kind" => "country", "country" => "IE" }, { "kind" => "country", "country" => "FR" }]] }.freeze

  def one_of(random, *list) = list.sample(random: random)

  # @return [Hash] a book document
  def recipe(random)
    document(
      products: GOODS.map { |sku, name, price, weight, group| product(sku, name, price, weight, group) },
      classes: CLASSES.map { |id, name| { "id" => id, "name" => name } }, treatments: treatments(random),
      groups: [{ "id" => "retail", "name" => "Retail" }, { "id" => "trade", "name" => "Trade" }],
      zones: ZONES.map { |id, (name, areas)| { "id" => id, "name" => name, "areas" => areas } },
      methods: [{ "id" => "post", "code" => "POST", "name" => "Post" }, { "id" => "van", "code" => "VAN", "name" => "Van" },
                { "id" => "pallet", "code" => "PALLET", "name" => "Pallet" }],
      rates: rates(random), **policies(offers(random)), rules: rules(random)
    )
  end

  private

  # A coupon that some offer asks for.
  def policies(offers) = { offers: offers, coupons: offers.any? { |one| one["coupons"] } ? [{ "id" => "spring", "code" => "SPRING" }] : [] }

  def product(sku, name, price, weight, group)
    { "sku" => sku, "name" => name, "price" => price, "weight" => weight, "class" => group,
      "size" => { "length" => "30 cm", "width" => "20 cm", "height" => "10 cm" }, "hazardous" => group == "fire",
      "treatments" => { "CH" => ["by_tube"], "AN" => ["by_piece"] }[sku] }.compact
  end

  def treatments(random)
    [{ "id" => "by_tube", "name" => "Charts by the tube", "methods" => ["post"],
       "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => one_of(random, "3.40", "4.10") } } },
     { "id" => "by_piece", "name" => "Anchors by the piece", "methods" => ["van"],
       "price" => { "kind" => "apart", "charge" => { "kind" => one_of(random, "graduated", "whole"),
                                                     "steps" => [{ "from" => 1, "amount" => "14.00" },
                                                                 { "from" => 3, "amount" => one_of(random, "9.00", "11.00") }] } } }]
  end

  def rates(random)
    ZONES.keys.flat_map do |zone|
      [["post", by_weight(random)], ["van", one_of(random, by_value(random), by_class(random), first(random))],
       ["pallet", flat(one_of(random, "58.00", "72.00"))]]
        .map do |method, plan|
        { "id" => "#{zone}-#{method}", "zone" => zone, "method" => method, "plan" => plan }
      end
    end
  end

  def by_weight(random)
    base = random.rand(300..700)
    steps = [["0 kg", 0], ["2 kg", 250], ["10 kg", 700], ["30 kg", 1900]].map { |at, more| { "at" => at, "amount" => pounds(base + more) } }
    steps.last.merge!("each" => "0.80", "increment" => "1 kg")
    { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => steps },
      **one_of(random, {}, { "handling" => { "fixed" => "0.75", "per" => "order" } }) }
  end

  def by_value(random)
    base = random.rand(900..1400)
    { "schedule" => { "kind" => "steps", "measure" => "value",
                      "steps" => [{ "at" => "0", "amount" => pounds(base) }, { "at" => "60", "amount" => pounds(base - 250) }] } }
  end

  def by_class(random)
    own = { "coil" => 700, "flat" => 500, "heavy" => 2100, "fire" => 1500 }.map do |id, minor|
      { "class" => id, "charge" => "once", "schedule" => { "kind" => "flat", "amount" => pounds(minor + random.rand(90)) } }
    end
    others = { "charge" => "once", "schedule" => { "kind" => "flat", "amount" => "8.80" }, "unclassed" => true }
    { "group" => "class", "combine" => one_of(random, "sum", "highest"), "classes" => own, "others" => others }
  end

  def first(random)
    { "schedule" => { "kind" => "first", "first" => pounds(random.rand(800..1200)), "additional" => one_of(random, "0.90", "1.30") },
      **one_of(random, {}, { "maximum" => "45.00" }) }
  end

  def pounds(minor) = format("%.2f", minor/100r)

  def offers(random)
    [{ "id" => "over", "name" => "Free from 75", "zones" => ["near"], "methods" => ["post"], "threshold" => { "measure" => "value", "from" => "75.00" },
       "effect" => { "kind" => "free" }, **one_of(random, {}, { "groups" => { "except" => ["trade"] } }, { "blocking" => { "classes" => ["heavy"] } }) },
     { "id" => "trade", "name" => "Trade pays less", "groups" => { "only" => ["trade"] }, "methods" => %w[post van],
       "effect" => { "kind" => "percent", "percent" => one_of(random, "15", "20"), **one_of(random, {}, { "most" => "3.00" }) }, "combines" => true },
     { "id" => "spring", "name" => "Spring coupon", "coupons" => ["spring"], "methods" => ["van"], "effect" => { "kind" => "off", "amount" => "2.50" },
       "combines" => true, **one_of(random, {}, { "starts" => "2026-03-01T00:00", "ends" => "2027-06-01T00:00" }) }].first(random.rand(1..3))
  end

  def rules(random)
    [{ "id" => "long", "name" => "Heavy carts by pallet", "when" => { "all" => [{ "fact" => "weight", "over" => "60 kg" }] },
       "then" => [{ "kind" => "only", "methods" => ["pallet"] }] },
     { "id" => "late", "name" => "No van at the weekend", "when" => { "any" => [{ "fact" => "weekday", "of" => [6, 7] }] },
       "then" => [{ "kind" => "hide", "methods" => ["van"] }] },
     { "id" => "fire", "name" => "Flares cost more",
       "when" => { "all" => [{ "fact" => "class", "of" => ["fire"], "lines" => "any" }, { "fact" => "zone", "of" => ["isles"] }] },
       "then" => [{ "kind" => "add", "methods" => %w[post van], "amount" => one_of(random, "4.00", "6.50") }] }].first(random.rand(1..3))
  end
end
