# frozen_string_literal: true

require_relative "../../support/recipes"

# Mistakes that merchants make, planted one at a time into shops that are in order: each is found, and nothing is told
# of the shops as they were.
class MistakesTest < Minitest::Test
  include RecipesSupport

  FLAT = ->(amount) { { "schedule" => { "kind" => "flat", "amount" => amount } } }
  STEPS = ->(measure, *steps) { { "schedule" => { "kind" => "steps", "measure" => measure, "steps" => steps.map { |at, amount| step(at, amount) } } } }
  GRID = lambda do |at, *cells|
    { "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", at] }, "columns" => { "measure" => "value", "at" => %w[0 50] },
                      "cells" => cells } }
  end
  HEAVY_ENDS = { "group" => "class", "combine" => "sum",
                 "classes" => [{ "class" => "heavy", "charge" => "once", "schedule" => { "kind" => "steps", "measure" => "weight",
                                                                                         "steps" => [{ "at" => "0 kg", "amount" => "4.00" },
                                                                                                     { "at" => "12 kg", "none" => true }] } }],
                 "others" => { "charge" => "once", "unclassed" => true, **FLAT["3.00"] } }.freeze
  LIVE = { "services" => [{ "carrier" => "swift", "service" => "std" }], "ladder" => %w[silent refused unusable].to_h do |one|
    [one, { "kind" => "amount", "amount" => "9.00" }]
  end }.freeze

  def self.step(at, amount) = amount ? { "at" => at, "amount" => amount } : { "at" => at, "none" => true }

  # A shop that can be changed at one place.
  class Shop
    attr_reader :doc

    def initialize(doc) = @doc = Marshal.load(Marshal.dump(doc))

    def rate(id = "near-post", **fields)
      found = doc["rates"].find { |one| one["id"] == id }
      found.merge!(fields.transform_keys(&:to_s))
      self
    end

    # Only this rate is left in its zone.
    def only(id, **fields)
      zone = doc["rates"].find { |one| one["id"] == id }["zone"]
      doc["rates"].reject! { |one| one["zone"] == zone && one["id"] != id }
      rate(id, **fields)
    end

    def offer(id = "new", **fields)
      doc["offers"] << { "id" => id, "name" => id, "effect" => { "kind" => "free" }, "methods" => ["van"], **fields.transform_keys(&:to_s) }
      self
    end

    def rule(*parts, id: "new", **action)
      doc["rules"] << { "id" => id, "name" => id, "when" => { "all" => parts }, "then" => [action.transform_keys(&:to_s)] }
      self
    end

    def treatment(id, group: nil, sku: nil, **fields)
      doc["treatments"] << { "id" => id, "name" => id, **fields.transform_keys(&:to_s) }
      (doc["classes"].find { |one| one["id"] == group }["treatments"] ||= []) << id if group
      (doc["products"].find { |one| one["sku"] == sku }["treatments"] ||= []) << id if sku
      self
    end

    def live(id = "near-van", **fields)
      doc["carriers"] = [{ "id" => "swift", "name" => "Swift", "services" => [{ "code" => "std", "name" => "Standard" }] }]
      doc["store"] = doc["store"].merge("ship_from" => { "country" => "GB", "postcode" => "TR29 4ZZ" })
      rate(id, plan: nil, live: LIVE.merge(fields.transform_keys(&:to_s)))
    end

    def free_from(amount = "75.00", **fields) = offer("gift", threshold: { "measure" => "value", "from" => amount }, **fields)

    def by_class(**amounts)
      classes = amounts.except(:others).map do |id, amount|
        { "class" => id.to_s, "charge" => "once", **(amount == :no ? { "carried" => false } : FLAT[amount]) }
      end
      others = amounts[:others] && { "charge" => "once", **FLAT[amounts[:others]], "unclassed" => true }
      { "group" => "class", "combine" => "sum", "classes" => classes, "others" => others }.compact
    end
  end

  HEAVY = { "fact" => "class", "of" => ["heavy"], "lines" => "any" }.freeze

  # @return [Array<Array(String, Symbol, Hash, Proc)>] what was done, what is found, some of its numbers, and how
  MISTAKES = [
    # Free by accident.
    ["a step at 0", :free_by_accident, { what: :step, figure: "5 kg" }, lambda { |s|
      s.rate(plan: STEPS["weight", ["0 kg", "4.00"], ["5 kg", "0"], ["10 kg", "9.00"]])
    }],
    ["the last step by weight at 0", :free_by_accident, { what: :step }, ->(s) { s.rate(plan: STEPS["weight", ["0 kg", "4.00"], ["5 kg", "0"]]) }],
    ["a step by value in the middle at 0", :free_by_accident, { what: :step }, lambda { |s|
      s.rate(plan: STEPS["value", ["0", "4.00"], %w[20 0], ["50", "3.00"]])
    }],
    ["a step by quantity at 0", :free_by_accident, { what: :step }, ->(s) { s.rate(plan: STEPS["quantity", ["0", "4.00"], %w[6 0], ["9", "3.00"]]) }],
    ["the first step at 0", :free_by_accident, { what: :first_step }, ->(s) { s.rate(plan: STEPS["weight", ["0 kg", "0"], ["5 kg", "7.00"]]) }],
    ["the first step by value at 0", :free_by_accident, { what: :first_step }, ->(s) { s.rate(plan: STEPS["value", %w[0 0], ["50", "7.00"]]) }],
    ["a class at 0", :free_by_accident, { what: :class, figure: "Heavy" }, ->(s) { s.rate(plan: s.by_class(coil: "5.00", heavy: "0", others: "6.00")) }],
    ["everything else at 0", :free_by_accident, { what: :others }, ->(s) { s.rate(plan: s.by_class(coil: "5.00", heavy: "9.00", others: "0")) }],
    ["a grid cell at 0", :free_by_accident, { what: :cell }, lambda { |s|
      s.rate(plan: GRID["5 kg", ["4.00", "0"], ["6.00", "5.00"]])
    }],
    ["handling of -100 %", :free_by_accident, { what: :handling }, lambda { |s|
      s.rate(plan: FLAT["4.00"].merge("handling" => { "percent" => "-100", "per" => "order" }))
    }],
    ["a markup of -100 %", :free_by_accident, { what: :markup }, ->(s) { s.live("near-van", handling: { "percent" => "-100", "per" => "order" }) }],
    ["0 on the ladder", :free_by_accident, { what: :ladder }, lambda { |s|
      s.live("near-van", ladder: LIVE["ladder"].merge("silent" => { "kind" => "amount", "amount" => "0" }))
    }],
    ["an offer without condition", :free_by_accident, { what: :offer }, lambda(&:offer)],
    ["100 % off without condition", :free_by_accident, { what: :offer }, ->(s) { s.offer(effect: { "kind" => "percent", "percent" => "100" }) }],
    ["a rule without condition sets 0", :free_by_accident, { what: :rule }, ->(s) { s.rule(kind: "price", amount: "0", methods: ["van"]) }],
    ["a rule without condition takes 100 % off", :free_by_accident, { what: :rule }, ->(s) { s.rule(kind: "off", percent: "100", methods: ["van"]) }],
    ["a rule without condition caps at 0", :free_by_accident, { what: :rule }, ->(s) { s.rule(kind: "cap", amount: "0", methods: ["post"]) }],
    ["a treatment at 0 on a class", :free_by_accident, { what: :treatment, figure: "Coils" }, lambda { |s|
      s.treatment("gift", group: "coil", price: { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "0" } })
    }],
    # Free beside paid.
    ["free beside paid", :free_beside_paid, { rate: "Post" }, ->(s) { s.rate(plan: FLAT["0"]) }],
    ["free beside live", :free_beside_paid, { rate: "Post" }, lambda { |s|
      s.live("near-van").rate(plan: FLAT["0"]).doc["rates"].reject! do |one|
        one["id"] == "near-pallet"
      end
    }],
    # The only rate of a zone ends.
    ["ends at 20 kg", :zone_ends, {}, ->(s) { s.only("near-post", plan: STEPS["weight", ["0 kg", "4.00"], ["20 kg", nil]]) }],
    ["ends at 20 kg in every rate", :zone_ends, {}, lambda { |s|
      %w[near-post near-van near-pallet].each do |id|
        s.rate(id, plan: STEPS["weight", ["0 kg", "4.00"], ["20 kg", nil]])
      end
    }],
    ["ends by value", :zone_ends, {}, ->(s) { s.only("near-post", plan: STEPS["value", ["0", "4.00"], ["200", nil]]) }],
    ["ends by quantity", :zone_ends, {}, ->(s) { s.only("near-post", plan: STEPS["quantity", ["0", "4.00"], ["9", nil]]) }],
    ["ends by the longest side", :zone_ends, {}, ->(s) { s.only("near-post", plan: STEPS["longest", ["0 cm", "4.00"], ["90 cm", nil]]) }],
    ["a hole in the middle", :zone_ends, {}, ->(s) { s.only("near-post", plan: STEPS["weight", ["0 kg", "4.00"], ["2 kg", nil], ["5 kg", "9.00"]]) }],
    ["a class that ends", :zone_ends, {}, lambda { |s|
      s.only("near-post", plan: HEAVY_ENDS)
    }],
    ["a grid that ends", :zone_ends, {}, lambda { |s|
      s.only("near-post", plan: GRID["20 kg", ["4.00", "5.00"], %w[none none]])
    }],
    ["a parcel limit", :zone_ends, {}, lambda { |s|
      s.only("near-post", plan: { "group" => "parcel", "parcels" => { "kind" => "one", "up_to" => "12 kg" }, **FLAT["4.00"] })
    }],
    ["a class that is not carried by the only rate", :nothing_left, { by: [:not_carried] }, lambda { |s|
      s.only("near-post", plan: s.by_class(coil: "5.00", heavy: :no, others: "6.00"))
    }],
    # Something is missing.
    ["goods without size", :no_size, { names: ["Lamp"] }, lambda { |s|
      s.rate(plan: STEPS["longest", ["0 cm", "4.00"], ["60 cm", "9.00"]]).doc["products"].last.delete("size")
    }],
    ["goods without size, by billable weight", :no_size, { names: ["Lamp"] }, lambda { |s|
      s.rate(plan: STEPS["billable_weight", ["0 kg", "4.00"], ["5 kg", "9.00"]].merge("parcels" => { "kind" => "one",
                                                                                                     "divisor" => "5000" })).doc["products"].last.delete("size")
    }],
    ["goods without weight", :no_weight, { names: ["Lamp"] }, lambda { |s|
      s.rate(plan: STEPS["weight", ["0 kg", "4.00"], ["5 kg", "9.00"]]).doc["products"].last.delete("weight")
    }],
    ["live without an address", :live_no_origin, { rate: "Van" }, ->(s) { s.live.doc["store"].delete("ship_from") }],
    ["a service that is not listed", :live_unknown_service, { service: "moon" }, lambda { |s|
      s.live("near-van", services: [{ "carrier" => "swift", "service" => "moon" }])
    }],
    ["a carrier that is off", :live_carrier_off, {}, ->(s) { s.live.doc["carriers"][0]["active"] = false }],
    ["no fallback", :live_no_fallback, {}, ->(s) { s.live("near-van", ladder: LIVE["ladder"].merge("silent" => { "kind" => "none" })) }],
    ["the own country in no zone", :own_country_left_out, { country: "GB" }, ->(s) { s.doc["zones"].first(2).each { |zone| zone["active"] = false } }],
    ["a zone without a rate", :no_rate, {}, ->(s) { s.doc["rates"].reject! { |one| one["zone"] == "isles" } }],
    ["the only rate narrowed", :zone_in_part, {}, ->(s) { s.only("isles-post", areas: [{ "kind" => "country", "country" => "GB", "only" => ["HS"] }]) }],
    # Nothing left.
    ["a rule and a treatment", :nothing_left, { by: %i[hidden_by_rule line_barred] }, lambda { |s|
      s.rule({ "fact" => "quantity", "from" => 3 }, kind: "only", methods: ["van"]).treatment("no van", sku: "LA", travel: { "never" => ["van"] })
    }],
    ["a rule and a plan that ends", :nothing_left, { by: %i[beyond hidden_by_rule] }, lambda { |s|
      s.rate("near-van", plan: STEPS["weight", ["0 kg", "4.00"], ["20 kg", nil]]).rule({ "fact" => "value", "from" => "100.00" }, kind: "only",
                                                                                                                                  methods: ["van"])
    }],
    ["a rule and opening hours", :nothing_left, { by: %i[closed hidden_by_rule] }, lambda { |s|
      s.doc["methods"][1]["delivery"] = { "from" => "08:00", "until" => "17:00" }
      s.rule(HEAVY, kind: "only", methods: ["van"])
    }],
    ["opening hours alone", :nothing_left, { by: [:closed] }, lambda { |s|
      s.doc["methods"].each { |one| one["delivery"] = { "from" => "08:00", "until" => "17:00" } }
    }],
    ["treatments alone", :nothing_left, { by: [:line_barred] }, lambda { |s|
      s.treatment("by post", sku: "LA", travel: { "only" => ["post"] }).treatment("by van", sku: "PB", travel: { "only" => ["van"] })
    }],
    ["a treatment alone", :no_way, { names: ["Lamp"] }, ->(s) { s.treatment("never", sku: "LA", travel: { "never" => %w[post van pallet] }) }],
    ["a treatment and hours", :nothing_left, { by: %i[closed line_barred] }, lambda { |s|
      s.doc["methods"][1]["delivery"] = { "from" => "08:00", "until" => "17:00" }
      s.treatment("by van", sku: "LA", travel: { "only" => ["van"] })
    }],
    ["four rules together", :nothing_left, {}, lambda { |s|
      s.doc["methods"] << { "id" => "bike", "code" => "BIKE", "name" => "Bike" }
      s.doc["rates"] << { "id" => "near-bike", "zone" => "near", "method" => "bike", "plan" => FLAT["3.00"] }
      [["post", { "fact" => "quantity", "from" => 2 }], ["van", { "fact" => "value", "from" => "50.00" }],
       ["pallet", { "fact" => "group", "of" => ["trade"] }],
       ["bike", { "fact" => "weight", "over" => "3 kg" }]].each { |method, part| s.rule(part, id: "no #{method}", kind: "hide", methods: [method]) }
    }],
    ["rules hide everything", :all_hidden, {}, ->(s) { s.rule(HEAVY, kind: "hide", methods: %w[post van pallet]) }],
    # Offers.
    ["closed again by a plan that ends", :offer_closes, { below: "300" }, lambda { |s|
      s.rate("near-van", plan: STEPS["value", ["0", "4.00"], ["300", nil]]).free_from(zones: ["near"])
    }],
    ["closed again by its own end", :offer_closes, {}, ->(s) { s.offer(threshold: { "measure" => "value", "from" => "75", "below" => "200" }) }],
    ["a coupon that is off", :offer_coupon_off, { coupons: ["SPRING"] }, ->(s) { s.offer(coupons: ["spring"]).doc["coupons"][0]["active"] = false }],
    ["a coupon that is over", :offer_coupon_off, { coupons: ["SPRING"] }, lambda { |s|
      s.offer(coupons: ["spring"]).doc["coupons"][0]["ends"] = "2026-01-01T00:00"
    }],
    ["an offer that is over", :offer_over, {}, ->(s) { s.offer(ends: "2026-01-01T00:00") }],
    ["always beaten", :offer_beaten, { by: "gift" }, lambda { |s|
      s.free_from("50.00").offer("worse", threshold: { "measure" => "value", "from" => "60.00" }, effect: { "kind" => "fixed", "amount" => "1.00" })
    }],
    ["beaten by the same above it", :offer_beaten, {}, ->(s) { s.free_from("50.00").offer("same", threshold: { "measure" => "value", "from" => "60.00" }) }],
    ["dearer than the rates", :offer_no_gain, {}, lambda { |s|
      s.rate("near-van", plan: FLAT["4.00"]).offer(zones: ["near"], effect: { "kind" => "fixed", "amount" => "9.00" }, groups: { "only" => ["trade"] })
    }],
    ["another amount in its name", :text_amount, { figure: "70" }, ->(s) { s.free_from(label: "Free from £70") }],
    ["another amount in a milepost", :text_amount, { figure: "80.00" }, lambda { |s|
      s.free_from(milepost: { "texts" => { "away" => "Spend £80.00 and delivery is free" } })
    }],
    *["Free over £75", "Orders above 75", "Spend more than £75", "When you exceed £75", "For orders in excess of £75", "Beyond £75 it is free",
      "Greater than 75",
      "Upwards of £75", "Past £75", "Over {threshold}"].map do |text|
      ["“#{text}”", :milepost_over, { text: text }, ->(s) { s.free_from(milepost: { "texts" => { "away" => text } }) }]
    end
  ].freeze

  def test_there_are_sixty_of_them = assert_operator(MISTAKES.size, :>=, 60)

  def test_each_is_found
    shops = Array.new(Rounds.of(4)) { |seed| plain(recipe(Random.new(seed)), coupon: true) }
    missed = shops.each_with_index.flat_map do |shop, seed|
      MISTAKES.filter_map do |name, code, wanted, plant|
        changed = Shop.new(shop)
        plant.call(changed)
        found = findings(GateMile::Book.compile(changed.doc)).select { |one| one.code == code }
        [seed, name, code, found.map { |one| one.numbers.slice(*wanted.keys) }] if found.none? { |one| like?(one, wanted) }
      end
    end
    assert_empty missed
  end

  # Nothing is told of shops by recipe, and of what only sounds wrong.
  def test_no_false_alarm
    alarms = Array.new(Rounds.of(20)) { |seed| plain(recipe(Random.new(seed))) }.flat_map { |shop| findings(GateMile::Book.compile(shop)) }
    assert_empty(alarms.map { |one| [one.code, one.zone, one.numbers] })
    sounds = ["Delivery all over the country from {threshold}", "We hand over your parcel to the van", "Over and above that it is free from {threshold}",
              "Leave it above the door", "Free from £75"]
    quiet = [->(s) { s.live.offer(methods: ["van"], zones: ["near"], threshold: { "measure" => "value", "from" => "75" }) },
             *sounds.map { |text| ->(s) { s.free_from(methods: ["post"], zones: ["isles"], milepost: { "texts" => { "away" => text } }) } },
             ->(s) { s.rate("isles-post", plan: STEPS["value", ["0", "4.00"], %w[75 0]]) },
             lambda { |s|
               s.doc["offers"].clear && s.doc["coupons"].clear && (s.doc["methods"][0]["kind"] =
                                                                     "collection") && s.rate(plan: FLAT["0"]).rate("isles-post",
                                                                                                                   plan: FLAT["0"]).rate("abroad-post",
                                                                                                                                         plan: FLAT["0"])
             },
             ->(s) { s.treatment("gift", sku: "LA", price: { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "0" } }) }]
    shop = plain(recipe(Random.new(1)))
    heard = quiet.each_with_index.flat_map do |plant, at|
      changed = Shop.new(shop)
      plant.call(changed)
      findings(GateMile::Book.compile(changed.doc)).map { |one| [at, one.code, one.numbers] }
    end
    assert_empty heard
  end

  # Each cart that is shown shows it: there is nothing to choose for it.
  def test_the_carts_show_it
    shown = MISTAKES.select { |_, code,| %i[nothing_left zone_ends zone_in_part].include?(code) }.sum do |name, code, _, plant|
      changed = Shop.new(plain(recipe(Random.new(3))))
      plant.call(changed)
      book = GateMile::Book.compile(changed.doc)
      findings(book).select { |one| one.code == code }.sum do |one|
        at = one.at ? GateMile::LocalMoment.utc(one.at, "Europe/London") : Time.utc(2026, 1, 6, 12)
        assert_equal :nothing_available, book.quote(cart(one.cart), at: at).status, name
        1
      end
    end
    assert_operator shown, :>, 15
  end

  # A cart that is given for something free is quoted at nothing; what no cart shows has none.
  def test_the_carts_of_free_methods_are_free
    shown = MISTAKES.select { |_, code, *| %i[free_by_accident free_beside_paid free_unpriced].include?(code) }.map do |name, code, _, plant|
      changed = Shop.new(plain(recipe(Random.new(1)), coupon: true))
      plant.call(changed)
      book = GateMile::Book.compile(changed.doc)
      finding = findings(book).find { |one| one.code == code }
      next name if finding.cart.nil?

      prices = book.quote(cart(finding.cart), at: AT).method_quotes.select(&:available?).map { |one| one.price.to_s }
      assert_includes prices, "0.00", name
      true
    end
    # A ladder is for when carriers do not answer, and a markup for when they do: no cart shows either without them.
    assert_operator shown.count(true), :>=, 15, shown.grep(String).join("; ")
  end

  # A young shop: a working offer and a coupon without threshold, and no products yet. Nothing is said of what loose goods reach.
  def test_a_shop_without_products
    shop = plain(recipe(Random.new(4)), coupon: true).merge("products" => [], "treatments" => [])
    shop["offers"] = [{ "id" => "o", "name" => "Free from 75", "effect" => { "kind" => "free" }, "methods" => ["post"],
                        "threshold" => { "measure" => "value", "from" => "75.00" } },
                      { "id" => "c", "name" => "Spring", "effect" => { "kind" => "off", "amount" => "2.00" }, "coupons" => ["spring"], "methods" => ["van"] }]
    assert_empty findings(GateMile::Book.compile(shop)).map(&:code) & %i[offer_never offer_no_gain nobody_buys figure_far]
    closed = Shop.new(shop)
    closed.doc["methods"].each { |one| one["delivery"] = { "cutoff" => "00:00", "hide" => true } }
    assert_includes findings(GateMile::Book.compile(closed.doc)).map { |one| [one.code, one.numbers[:why]] }, %i[nobody_buys hours]
  end

  # What an edit can't have touched is taken over, and what is told is the same as if all had been asked anew.
  def test_an_edit_asks_again_only_what_it_touches
    shop = plain(recipe(Random.new(2)))
    before = GateMile::QuotedFindings.new(GateMile::Book.compile(shop))
    edits = { rates: ->(s) { s.rate("isles-van", plan: STEPS["weight", ["0 kg", "4.00"], ["20 kg", nil]]) }, rules: lambda { |s|
      s.rule(HEAVY, kind: "only", methods: ["van"])
    },
              goods: ->(s) { s.doc["products"].first["weight"] = "80 kg" }, price: ->(s) { s.rate("near-pallet", plan: FLAT["1.00"]) } }
    asked = edits.to_h do |name, plant|
      changed = Shop.new(shop)
      plant.call(changed)
      book = GateMile::Book.compile(changed.doc)
      after = GateMile::QuotedFindings.new(book, last: before)
      assert_equal GateMile::QuotedFindings.new(book).list, after.list, name
      [name, after.asked.fdiv(before.asked)]
    end
    assert_operator asked[:price], :<, 0.5
    assert_operator asked[:rates], :<, 0.5
  end

  private

  # A shop without the rule that hides the van at the weekend, and with the coupon that some mistakes name.
  def plain(shop, coupon: false)
    own = coupon && shop["coupons"].empty? ? [{ "id" => "spring", "code" => "SPRING" }] : shop["coupons"]
    shop.merge("rules" => shop["rules"].reject { |one| one["id"] == "late" }, "coupons" => own)
  end

  def like?(finding, wanted)
    wanted.all? do |key, value|
      told = finding.numbers[key]
      key == :by && value.is_a?(Array) ? told.map { |one| one[:code] }.uniq.sort == value : told.to_s == value.to_s || told == value
    end
  end
end
