# frozen_string_literal: true

require_relative "../../support/core"
require "yaml"

# A shop in order, and one mistake at a time planted into it: each kind of finding, where it is, with its numbers.
class PlantedTest < Minitest::Test
  include CoreSupport

  FLAT = ->(amount) { { "schedule" => { "kind" => "flat", "amount" => amount } } }
  STEPS = lambda do |measure, *steps|
    { "schedule" => { "kind" => "steps", "measure" => measure,
                      "steps" => steps.map { |at, amount| amount ? { "at" => at, "amount" => amount } : { "at" => at, "none" => true } } } }
  end
  GRID = lambda do |*cells|
    { "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "5 kg"] },
                      "columns" => { "measure" => "value", "at" => %w[0 50] }, "cells" => cells } }
  end
  BY_CLASS = lambda do |small, heavy, others = { "charge" => "once", "schedule" => { "kind" => "flat", "amount" => "6.00" }, "unclassed" => true }|
    classes = { "small" => small, "heavy" => heavy }.compact.map do |id, amount|
      amount == :no ? { "class" => id, "carried" => false } : { "class" => id, "charge" => "once", "schedule" => { "kind" => "flat", "amount" => amount } }
    end
    { "group" => "class", "combine" => "sum", "classes" => classes, "others" => others }.compact
  end
  FREE = { "id" => "free", "name" => "Free from 150", "effect" => { "kind" => "free" }, "methods" => ["m"], "zones" => ["uk"],
           "threshold" => { "measure" => "value", "from" => "150" } }.freeze
  HEAVY = { "fact" => "class", "of" => ["heavy"], "lines" => "any" }.freeze
  LIVE = { "services" => [{ "carrier" => "swift", "service" => "std" }],
           "ladder" => { "silent" => { "kind" => "amount", "amount" => "9.00" }, "refused" => { "kind" => "none" },
                         "unusable" => { "kind" => "amount", "amount" => "9.00" } } }.freeze

  def self.rule(name, parts, *actions, id: name)
    { "id" => id, "name" => name, "when" => { "all" => parts }, "then" => actions }
  end

  WELL = {
    "store" => STORE.merge("ship_from" => { "country" => "GB", "postcode" => "TR29 4ZZ", "lines" => ["The Quay"] }),
    "classes" => [{ "id" => "small", "name" => "Small" }, { "id" => "heavy", "name" => "Heavy" }],
    "products" => [{ "sku" => "ROPE", "name" => "Rope", "price" => "30.00", "cost" => "14.00", "weight" => "0.4 kg", "class" => "small",
                     "size" => { "length" => "20 cm", "width" => "10 cm", "height" => "8 cm" } },
                   { "sku" => "SHACKLE", "name" => "Shackle", "price" => "12.00", "cost" => "5.00", "weight" => "0.2 kg", "class" => "small",
                     "size" => { "length" => "8 cm", "width" => "5 cm", "height" => "3 cm" } },
                   { "sku" => "ANCHOR", "name" => "Anchor", "price" => "90.00", "cost" => "40.00", "weight" => "9 kg", "class" => "heavy",
                     "size" => { "length" => "60 cm", "width" => "40 cm", "height" => "20 cm" } }],
    "zones" => [{ "id" => "uk", "name" => "UK", "areas" => [{ "kind" => "country", "country" => "GB" }] },
                { "id" => "ie", "name" => "Ireland", "areas" => [{ "kind" => "country", "country" => "IE" }] }],
    "methods" => [{ "id" => "m", "code" => "TRACKED", "name" => "Tracked" }, { "id" => "n", "code" => "NEXT", "name" => "Next day" }],
    "rates" => [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => STEPS["weight", ["0 kg", "4.50"], ["5 kg", "7.00"]] },
                { "id" => "uk-n", "zone" => "uk", "method" => "n", "plan" => FLAT["12.00"] },
                { "id" => "ie-m", "zone" => "ie", "method" => "m", "plan" => FLAT["15.00"] }],
    "groups" => [{ "id" => "trade", "name" => "Trade" }],
    "coupons" => [{ "id" => "keel", "code" => "KEEL" }],
    "carriers" => [{ "id" => "swift", "name" => "Swift", "services" => [{ "code" => "std", "name" => "Standard" }] }],
    "offers" => [FREE, { "id" => "trade", "name" => "Trade", "effect" => { "kind" => "percent", "percent" => "10" }, "coupons" => ["keel"],
                         "methods" => ["n"] }],
    "rules" => [rule("Anchors by road", [HEAVY], { "kind" => "add", "amount" => "2.00", "methods" => ["n"] })]
  }.freeze

  # What the mistakes are called; each changes a copy of the shop that is in order.
  MISTAKES = {
    covers_world: [{ zone: "all" }, ->(shop) { shop.zone("all", { "kind" => "world" }).rate("all", "m", FLAT["20.00"]) }],
    never_wins: [{ zone: "late", country: "IE" }, ->(shop) { shop.zone("late", { "kind" => "country", "country" => "IE" }).rate("late", "m", FLAT["20.00"]) }],
    overlap: [{ zone: "late", country: "GB", level: :clause },
              lambda { |shop|
                shop.at("zones", 0)["areas"][0]["only"] = ["PA20 to PA30"]
                shop.zone("late", { "kind" => "country", "country" => "GB", "only" => ["PA25 to PA49"] }).rate("late", "m", FLAT["20.00"])
              }],
    clauses_hidden: [{ zone: "late", clauses: ["PA25"] },
                     lambda { |shop|
                       shop.at("zones", 0)["areas"][0]["only"] = ["PA20 to PA30"]
                       shop.zone("late", { "kind" => "country", "country" => "GB", "only" => %w[PA25 PA40] }).rate("late", "m", FLAT["20.00"])
                     }],
    dead_clause: [{ zone: "uk", clause: "1234567" }, ->(shop) { shop.at("zones", 0)["areas"][0]["except"] = ["1234567"] }],
    partly_covered: [{ zone: "uk", country: "GB" }, ->(shop) { shop.at("zones", 0)["areas"][0]["except"] = ["BT"] }],
    regions_left_out: [{ zone: "us", country: "US" },
                       ->(shop) { shop.zone("us", { "kind" => "regions", "country" => "US", "regions" => %w[NY CA] }).rate("us", "m", FLAT["20.00"]) }],
    no_rate: [{ zone: "fr" }, ->(shop) { shop.zone("fr", { "kind" => "country", "country" => "FR" }) }],
    free_beside_paid: [{ rate: "Next day", zone: "uk" }, ->(shop) { shop.at("rates", 1)["plan"] = FLAT["0"] }],
    blank_cells: [{ rate: "Tracked", count: 1 }, ->(shop) { shop.at("rates", 0)["plan"] = GRID[["4.00", "5.00"], ["6.00", nil]] }],
    no_class_price: [{ rate: "Tracked", count: 1, names: ["Anchor"] }, ->(shop) { shop.at("rates", 0)["plan"] = BY_CLASS["5.00", nil, nil] }],
    not_carried: [{ rate: "Next day", count: 1, names: ["Anchor"] }, ->(shop) { shop.at("rates", 1)["plan"] = BY_CLASS["5.00", :no] }],
    loss: [{ rate: "Tracked", zone: "ie", count: 3, price: "15.00", cost: "19.00" }, ->(shop) { shop.at("rates", 2)["cost"] = FLAT["19.00"] }],
    ends_early: [{ rate: "Tracked", top: "8 kg", names: ["Anchor"] },
                 ->(shop) { shop.at("rates", 0)["plan"] = STEPS["weight", ["0 kg", "4.50"], ["5 kg", "7.00"], ["8 kg", nil]] }],
    falling: [{ rate: "Tracked", measure: "weight", at: "5 kg", before: "4.50", after: "3.00" },
              ->(shop) { shop.at("rates", 0)["plan"] = STEPS["weight", ["0 kg", "4.50"], ["5 kg", "3.00"]] }],
    out_of_reach: [{ rate: "Tracked", measure: "longest", at: "2 m" },
                   ->(shop) { shop.at("rates", 0)["plan"] = STEPS["longest", ["0 cm", "4.50"], ["50 cm", "7.00"], ["2 m", "30.00"]] }],
    rates_alike: [{ names: ["Tracked", "Next day"], zone: "uk" }, ->(shop) { shop.at("rates", 1)["plan"] = shop.at("rates", 0)["plan"] }],
    free_unpriced: [{ rate: "Tracked", zone: "ie", names: ["Flag"] },
                    lambda { |shop|
                      shop.product("FLAG", "Flag", "weight" => "0.1 kg")
                      shop.at("rates", 2)["plan"] =
                        BY_CLASS["5.00", "9.00", { "charge" => "once", "unclassed" => true, "schedule" => { "kind" => "flat", "amount" => "0" } }]
                    }],
    no_way: [{ zone: "ie", names: ["Flare"] }, lambda { |shop|
      shop.product("FLARE", "Flare", "treatments" => ["road"]).treatment("road", "Road only", "travel" => { "only" => ["n"] })
    }],
    own_price_barred: [{ treatment: "Own price", by: "Nowhere", names: ["Flare"] },
                       lambda { |shop|
                         shop.product("FLARE", "Flare", "treatments" => %w[own nowhere])
                             .treatment("own", "Own price", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "3.00" } })
                             .treatment("nowhere", "Nowhere", "travel" => { "only" => [] })
                       }],
    treatment_never: [{ treatment: "Idle", reason: :reaches_nothing },
                      ->(shop) { shop.treatment("idle", "Idle", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "3.00" } }) }],
    own_price_far: [{ treatment: "Own price", name: "Anchor", price: "150.00" },
                    lambda { |shop|
                      shop.at("products", 2)["treatments"] = ["own"]
                      shop.treatment("own", "Own price", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "150.00" } })
                    }],
    no_weight: [{ rates: 1, names: ["Rope"] }, ->(shop) { shop.at("products", 0).delete("weight") }],
    no_class: [{ count: 1, names: ["Rope"] }, ->(shop) { shop.at("products", 0).delete("class") }],
    empty_class: [{ class: "Pallet" }, ->(shop) { shop.doc["classes"] << { "id" => "pallet", "name" => "Pallet" } }],
    offer_never: [{ offer: "Free from 150", reason: :no_rate }, lambda { |shop|
      shop.at("offers", 0)["zones"] = [] << "ie"
      shop.at("offers", 0)["methods"] = ["n"]
    }],
    offer_over: [{ offer: "Free from 150", ends: "2026-05-01T00:00" }, ->(shop) { shop.at("offers", 0)["ends"] = "2026-05-01T00:00" }],
    offer_spoilt: [{ offer: "Free from 150" }, ->(shop) { shop.at("offers", 0)["blocking"] = { "classes" => %w[small heavy] } }],
    offer_closes: [{ offer: "Free from 150", below: "200" }, ->(shop) { shop.at("offers", 0)["threshold"]["below"] = "200" }],
    offer_loss: [{ offer: "Free from 150", name: "Anchor" }, lambda { |shop|
      shop.at("products", 2)["cost"] = "88.00"
      shop.at("rates", 0)["cost"] = FLAT["30.00"]
    }],
    offer_unclassed: [{ offer: "Free from 150", names: ["Rope"] }, lambda { |shop|
      shop.at("products", 0).delete("class")
      shop.at("offers", 0)["blocking"] = { "classes" => ["heavy"] }
    }],
    pays_more: [{ offer: "Free from 150", name: "Bulky buoy" },
                lambda { |shop|
                  shop.product("BUOY", "Bulky buoy", "price" => "3.00", "class" => "heavy", "weight" => "1 kg")
                  shop.at("offers", 0)["blocking"] = { "classes" => ["heavy"] }
                }],
    milepost_over: [{ offer: "Free from 150", moment: "before", text: "Free over 150", from: "150" },
                    ->(shop) { shop.at("offers", 0)["milepost"] = { "texts" => { "before" => "Free over 150" } } }],
    coupon_unused: [{ coupon: "MAST" }, ->(shop) { shop.doc["coupons"] << { "id" => "mast", "code" => "MAST" } }],
    rule_always: [{ rule: "Whatever" }, ->(shop) { shop.rule("Whatever", [], { "kind" => "message", "text" => "Hello" }) }],
    rule_never: [{ rule: "Both" }, lambda { |shop|
      shop.rule("Both", [{ "fact" => "value", "from" => "50" }, { "fact" => "value", "below" => "20" }], { "kind" => "hide", "methods" => ["n"] })
    }],
    rule_hidden: [{ rule: "Dearer anchors", by: "No anchors" },
                  lambda { |shop|
                    shop.rule("No anchors", [HEAVY], { "kind" => "hide", "methods" => ["n"] })
                        .rule("Dearer anchors", [HEAVY], { "kind" => "add", "amount" => "1.00", "methods" => ["n"] })
                  }],
    rules_fight: [{ rule: "Anchors for 9", other: "Anchors for 8", over: :price, method: "Tracked" },
                  lambda { |shop|
                    shop.rule("Anchors for 8", [HEAVY], { "kind" => "price", "amount" => "8.00", "methods" => ["m"] })
                        .rule("Anchors for 9", [HEAVY], { "kind" => "price", "amount" => "9.00", "methods" => ["m"] })
                  }],
    all_hidden: [{ names: ["Nothing for Ireland"], zones: ["Ireland"] },
                 ->(shop) { shop.rule("Nothing for Ireland", [{ "fact" => "zone", "of" => ["ie"] }], { "kind" => "hide", "methods" => ["m"] }) }],
    figure_far: [{ name: "Tracked", zone: "uk", what: :step, figure: "750.00", at: "10 kg", place: :schedule, beside: %w[7.40 7.20], meant: "7.50" },
                 lambda { |shop|
                   shop.at("rates", 0)["plan"] = STEPS["weight", ["0 kg", "7.20"], ["5 kg", "7.40"], ["10 kg", "750.00"]]
                 }],
    nobody_buys: [{ why: :no_price }, ->(shop) { shop.doc["rates"].each { |rate| rate.delete("plan") } }],
    zone_off: [{ zone: "fr", rates: 1 },
               lambda { |shop|
                 shop.zone("fr", { "kind" => "country", "country" => "FR" }).rate("fr", "m", FLAT["20.00"])
                 shop.at("zones", 2)["active"] = false
               }],
    zone_off_relied: [{ zone: "isles", country: "GB" },
                      lambda { |shop|
                        shop.at("zones", 0)["areas"][0]["except"] = %w[HS ZE]
                        shop.zone("isles", { "kind" => "country", "country" => "GB", "only" => %w[HS ZE] })
                        shop.at("zones", 2)["active"] = false
                      }],
    rule_over: [{ rule: "Spring", last: "2026-05-01" },
                lambda { |shop|
                  shop.rule("Spring", [{ "fact" => "date", "first" => "2026-04-01", "last" => "2026-05-01" }],
                            { "kind" => "add", "amount" => "1.00", "methods" => ["n"] })
                }],
    takes_nothing: [{ name: "Tracked", what: :handling },
                    ->(shop) { shop.at("rates", 0)["plan"] = FLAT["0"].merge("handling" => { "percent" => "10", "per" => "order" }) }],
    rules_cancel: [{ rule: "Back", other: "Dearer" },
                   lambda { |shop|
                     shop.rule("Dearer", [HEAVY], { "kind" => "add", "amount" => "3.00", "methods" => ["n"] })
                         .rule("Back", [HEAVY], { "kind" => "off", "amount" => "3.00", "methods" => ["n"] })
                   }],
    unmeasured: [{ name: "Heavy carts", what: :rule },
                 lambda { |shop|
                   shop.doc["products"].each { |product| product.delete("weight") }
                   shop.rule("Heavy carts", [{ "fact" => "weight", "over" => "20 kg" }], { "kind" => "hide", "methods" => ["n"] })
                 }],
    coupon_before_offer: [{ offer: "Trade", coupon: "KEEL", ends: "2026-07-01T00:00", starts: "2026-08-01T00:00" },
                          lambda { |shop|
                            shop.at("coupons", 0)["ends"] = "2026-07-01T00:00"
                            shop.at("offers", 1)["starts"] = "2026-08-01T00:00"
                          }],
    coupons_alike: [{ coupon: "KEE1", other: "KEEL" }, lambda { |shop|
      shop.doc["coupons"] << { "id" => "kee1", "code" => "KEE1" }
      shop.at("offers", 1)["coupons"] = %w[keel kee1]
    }],
    bound_swallows: [{ rate: "Tracked", what: :minimum, figure: "9.00" },
                     ->(shop) { shop.at("rates", 0)["plan"] = STEPS["weight", ["0 kg", "4.50"], ["5 kg", "7.00"]].merge("minimum" => "9.00") }],
    per_unit: [{ rate: "Tracked", amount: "14.00", other: "Tracked", zones: ["ie"] },
               ->(shop) { shop.at("rates", 0)["plan"] = FLAT["14.00"].merge("group" => "unit") }],
    divisor_odd: [{ rate: "Tracked", divisor: 5, per: "kg" },
                  lambda { |shop|
                    shop.at("rates", 0)["plan"] = STEPS["billable_weight", ["0 kg", "4.50"], ["5 kg", "7.00"]]
                                                  .merge("parcels" => { "kind" => "one", "divisor" => "5" })
                  }],
    live_no_fallback: [{ rate: "Tracked", troubles: ["silent"] }, ->(shop) { shop.live("silent" => { "kind" => "none" }) }],
    live_carrier_off: [{ rate: "Tracked", names: ["Swift"] }, lambda { |shop|
      shop.live
      shop.at("carriers", 0)["active"] = false
    }],
    live_unmeasured: [{ rate: "Tracked", names: ["Rope"] }, lambda { |shop|
      shop.live
      shop.at("products", 0).delete("weight")
    }],
    no_box_for: [{ names: ["Anchor"] },
                 lambda { |shop|
                   shop.doc["store"]["boxes"] =
                     [{ "id" => "b", "name" => "Box", "size" => { "length" => "30 cm", "width" => "20 cm", "height" => "10 cm" } }]
                   shop.doc["store"]["parcels"] = { "kind" => "boxes" }
                 }]
  }.freeze
  # Known by what carriers answered, by what the search of situations gives up on, or by quoting: tested where these are
  # (test/core/audit/mistakes_test.rb).
  ELSEWHERE = %w[live_never_wins live_loss live_all_refuse rule_open free_by_accident own_country_left_out live_no_origin live_unknown_service
                 no_size nothing_left zone_ends zone_in_part offer_coupon_off offer_beaten offer_no_gain text_amount].freeze

  # A copy of the shop, to be changed.
  class Shop
    attr_reader :doc

    def initialize(doc) = @doc = Marshal.load(Marshal.dump(doc))
    def at(list, place) = doc[list][place]

    def zone(id, *areas)
      doc["zones"] << { "id" => id, "name" => id.capitalize, "areas" => areas }
      self
    end

    def rate(zone, method, plan)
      doc["rates"] << { "id" => "#{zone}-#{method}", "zone" => zone, "method" => method, "plan" => plan }
      self
    end

    def product(sku, name, fields)
      doc["products"] << { "sku" => sku, "name" => name, "price" => "20.00" }.merge(fields)
      self
    end

    def treatment(id, name, fields)
      (doc["treatments"] ||= []) << { "id" => id, "name" => name }.merge(fields)
      self
    end

    def rule(...)
      doc["rules"] << PlantedTest.rule(...)
      self
    end

    def live(ladder = {})
      at("rates", 2).merge!("plan" => nil, "live" => LIVE.merge("ladder" => LIVE["ladder"].merge(ladder)))
      self
    end
  end

  def test_nothing_is_wrong_with_a_shop_that_is_in_order
    assert_empty findings(compiled(WELL)).map(&:code)
  end

  def test_each_mistake_is_found_where_it_is
    missed = MISTAKES.filter_map do |code, (wanted, plant)|
      found = findings(planted(plant)).select { |finding| finding.code == code }
      next if found.any? { |finding| said(finding, wanted.keys) == wanted }

      "#{code}: #{wanted} is not among #{found.map { |one| said(one, wanted.keys) }}"
    end
    assert_empty missed
  end

  # What shows a finding is really so: a cart that was quoted, or an address that lands.
  def test_what_a_finding_shows_can_be_seen
    shown = MISTAKES.sum do |code, (_, plant)|
      book = planted(plant)
      findings(book).select { |finding| finding.code == code }.sum { |finding| seen(book, finding) }
    end
    assert_operator shown, :>=, 8
  end

  def test_every_kind_that_the_contract_names_is_planted
    contract = YAML.safe_load_file(File.join(ROOT, "docs/api/openapi.yaml"))
    codes = contract.dig("components", "schemas", "Finding", "oneOf").map { |one| one.dig("properties", "code", "const") }
    assert_equal (codes - ELSEWHERE).sort, MISTAKES.keys.map(&:to_s).sort
  end

  private

  def compiled(doc) = GateMile::Book.compile({ "format" => "gate-mile/book", "version" => 1 }.merge(doc))

  def planted(plant)
    shop = Shop.new(WELL)
    plant.call(shop)
    compiled(shop.doc)
  end

  def said(finding, keys)
    keys.to_h { |key| [key, key == :zone ? finding.zone : told(finding.numbers[key])] }
  end

  def told(value)
    case value
    when GateMile::Money then value.to_s
    when Array then value.map { |one| told(one) }
    else value
    end
  end

  # @return [Integer] 1 where the finding has something to show
  def seen(book, finding)
    if finding.cart
      quote = book.quote(GateMile::Cart.parse(finding.cart, book.currency), at: AT)
      refute_equal :empty, quote.status, finding.code
      return 1
    end
    return 0 if finding.example.nil?

    landing = book.zones.land(finding.example)
    refute_equal :undetermined, landing.status, finding.code
    assert_includes [finding.zone, finding.other, nil], landing.zone&.id, finding.code
    1
  end
end
