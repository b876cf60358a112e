# frozen_string_literal: true

require "countries"
require "json"

# A shop of a size that a merchant rarely has, made from the demo: a zone for each of many countries, methods, classes,
# groups, offers and rules by the dozen, some of their names as long as names may be.
module LargeShop
  DEMO = File.expand_path("../../demo/book.json", __dir__)
  LONG = "Everything that goes by sea, in crates of our own, with a signature at the door and an hour's notice by phone"
  MOST = 60
  AMOUNTS = %w[3.95 4.50 6.95 8.00 9.75 12.50 14.00 18.90 24.00 32.50].freeze

  class << self
    # @return [Hash] a book as its file holds it
    def book(zones: 200, methods: 40, classes: 30, groups: 20, offers: 30, rules: 60)
      demo = JSON.parse(File.read(DEMO))
      countries = ISO3166::Country.all.map(&:alpha2).sort.cycle.first(zones)
      lists = { "methods" => methods(methods), "classes" => named("class", classes, "Class"),
                "groups" => named("group", groups, "Customers of group") }
      lists["zones"] = countries.each_with_index.map { |country, at| zone(country, at) }
      lists["rates"] = rates(lists["zones"], lists["methods"], lists["classes"])
      lists["offers"] = Array.new(offers) { |at| offer(at, lists) }
      lists["rules"] = Array.new(rules) { |at| rule(at, lists) }
      lists["products"] = products(lists["classes"])
      none = %w[treatments coupons carriers].to_h { |list| [list, []] }
      demo.merge(none, lists)
    end

    private

    def name(text, at) = (at % 7 == 3 ? "#{text} #{at + 1}: #{LONG}" : "#{text} #{at + 1}")[0, MOST]
    def named(kind, count, text) = Array.new(count) { |at| { "id" => "#{kind}-#{at}", "name" => name(text, at) } }
    def methods(count) = named("method", count, "Method").each_with_index.map { |one, at| one.merge("code" => "M#{at}") }

    def zone(country, at)
      { "id" => "zone-#{at}", "name" => name(ISO3166::Country[country].common_name, at),
        "areas" => [{ "kind" => "country", "country" => country }] }
    end

    # Three rates to a zone, and all of the methods in the first.
    def rates(zones, methods, classes)
      zones.each_with_index.flat_map do |zone, at|
        offered = at.zero? ? methods : methods.rotate(at).first(3)
        offered.map.with_index do |method, place|
          { "id" => "#{zone["id"]}-#{method["id"]}", "zone" => zone["id"], "method" => method["id"],
            "plan" => plan(at + place, classes) }
        end
      end
    end

    def plan(number, classes)
      amount = AMOUNTS[number % AMOUNTS.size]
      flat = { "kind" => "flat", "amount" => amount }
      case number % 3
      when 0 then { "schedule" => flat }
      when 1
        { "schedule" => { "kind" => "steps", "measure" => "weight",
                          "steps" => Array.new(6) { |at| { "at" => "#{at * 2} kg", "amount" => (amount.to_i + (at * 2)).to_s } } } }
      else
        { "group" => "class", "combine" => "highest",
          "classes" => classes.each_with_index.map do |one, at|
            { "class" => one["id"], "charge" => "once", "schedule" => flat.merge("amount" => AMOUNTS[at % AMOUNTS.size]) }
          end,
          "others" => { "charge" => "once", "unclassed" => true, "schedule" => flat } }
      end
    end

    def offer(at, lists)
      { "id" => "offer-#{at}", "name" => name("Offer", at), "effect" => { "kind" => "free" },
        "threshold" => { "measure" => "value", "from" => (50 + (at * 5)).to_s },
        "zones" => lists["zones"].rotate(at * 3).first(9).map { |zone| zone["id"] },
        "methods" => lists["methods"].rotate(at).first(5).map { |method| method["id"] } }
    end

    def rule(at, lists)
      parts = [{ "fact" => "class", "of" => [lists["classes"][at % lists["classes"].size]["id"]], "lines" => "any" },
               { "fact" => "zone", "of" => lists["zones"].rotate(at).first(4).map { |zone| zone["id"] } }]
      { "id" => "rule-#{at}", "name" => name("Rule", at), "when" => { "all" => parts },
        "then" => [{ "kind" => "add", "methods" => [lists["methods"][at % lists["methods"].size]["id"]], "amount" => "1.50" }] }
    end

    def products(classes)
      Array.new(300) do |at|
        { "sku" => format("ITEM-%<at>03d", at: at), "name" => name("Product", at), "price" => "#{5 + (at % 40)}.00",
          "weight" => "#{100 + (at * 17 % 4000)} g", "class" => classes[at % classes.size]["id"] }
      end
    end
  end
end
