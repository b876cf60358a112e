# frozen_string_literal: true

require_relative "core"

# Random books with classes, variants and treatments, and a plain, slow second reading of section 3 of docs/engine.md.
module GoodsSupport
  include CoreSupport

  ZONES = %w[uk all].freeze
  METHODS = %w[m n o].freeze

  def goods_document(random)
    treatments = Array.new(random.rand(0..5)) { |at| treatment(random, "t#{at}") }
    ids = treatments.map { |item| item["id"] }
    some = -> { ids.sample(random.rand(0..2), random: random) }
    classes = %w[c d].map { |id| { "id" => id, "name" => id.upcase, "treatments" => some.call } }
    document(classes: classes, treatments: treatments, products: products(random, some),
             methods: METHODS.map { |id| { "id" => id, "code" => id, "name" => id } },
             rates: ZONES.product(METHODS).map do |zone, method|
               { "id" => "#{zone}-#{method}", "zone" => zone, "method" => method, "plan" => flat(random.rand(1..20).to_s) }
             end)
  end

  def products(random, some)
    maybe = -> { [nil, "c", "d"].sample(random: random) }
    %w[A B C].map do |sku|
      variants = Array.new(random.rand(0..2)) do |at|
        { "sku" => "#{sku}#{at}", "name" => "#{sku}#{at}", "class" => maybe.call, "treatments" => some.call,
          "price" => [nil, "3.00"].sample(random: random) }.compact
      end
      { "sku" => sku, "name" => sku, "price" => "#{random.rand(1..9)}.50", "class" => maybe.call, "treatments" => some.call,
        "ships" => random.rand(6).positive?, "variants" => variants }.compact
    end
  end

  def treatment(random, id)
    limit = ->(list) { random.rand(3).zero? ? list.sample(random.rand(1..2), random: random) : nil }
    travel = { "only" => (METHODS.sample(random.rand(0..3), random: random) if random.rand(5).zero?),
               "never" => (METHODS.sample(1, random: random) if random.rand(4).zero?) }.compact
    { "id" => id, "name" => id, "active" => random.rand(6).positive?, "zones" => limit.call(ZONES), "methods" => limit.call(METHODS),
      "price" => own_price(random), "travel" => (travel if travel.any?) }.compact
  end

  def own_price(random)
    case random.rand(4)
    when 0 then nil
    when 1 then { "kind" => "along", "plus" => [nil, "1.25"].sample(random: random) }.compact
    else
      own = random.rand(3).zero? ? [{ "method" => METHODS.sample(random: random), "charge" => charge(random) }] : []
      { "kind" => "apart", "charge" => charge(random), "by_method" => own, "together" => random.rand(2).zero? }
    end
  end

  def charge(random)
    return { "kind" => "unit", "amount" => %w[0 2.00 4.50].sample(random: random) } if random.rand(3).zero?

    from = [1, *(2..9).to_a.sample(random.rand(0..3), random: random).sort]
    { "kind" => %w[graduated whole].sample(random: random),
      "steps" => from.map { |unit| { "from" => unit, "amount" => "#{random.rand(0..9)}.#{random.rand(10..99)}" } } }
  end

  def goods_cart(random, skus)
    { "lines" => Array.new(random.rand(1..5)) { line(skus.sample(random: random), random.rand(1..8)) },
      "destination" => to(%w[GB FR].sample(random: random)) }
  end

  # What one method of one zone comes to, in pence, or nil where a line may not go by it: unit by unit, from the documents.
  def slowly(document, cart, zone, method)
    units = units_of(document, cart)
    return if units.empty? || units.any? { |unit| unit[:reach].any? { |item| bars?(item, zone, method) } }

    units.each { |unit| unit[:pays] = unit[:reach].find { |item| item["price"] && applies?(item, zone, method) } }
    apart, along = units.partition { |unit| unit.dig(:pays, "price", "kind") == "apart" }
    rate = document["rates"].find { |item| item["zone"] == zone && item["method"] == method }
    total = along.empty? ? 0 : pence(rate.dig("plan", "schedule", "amount"))
    total += along.sum { |unit| pence(unit.dig(:pays, "price", "plus") || "0") }
    apart.group_by { |unit| [unit[:pays]["id"], (unit[:kin] unless unit[:pays]["price"]["together"])] }
         .each_value { |group| total += group_price(group, method) }
    total
  end

  private

  def units_of(document, cart)
    cart["lines"].flat_map do |line|
      product = document["products"].find { |item| [item, *item["variants"]].any? { |one| one["sku"] == line["sku"] } }
      variant = product["variants"].to_a.find { |item| item["sku"] == line["sku"] }
      group = document["classes"].find { |item| item["id"] == (variant&.fetch("class", nil) || product["class"]) }
      named = [variant, product, group].compact.flat_map { |item| in_order(document, item["treatments"].to_a) }
      product.fetch("ships", true) ? Array.new(line["quantity"]) { { kin: product["sku"], reach: named } } : []
    end
  end

  def in_order(document, ids) = document["treatments"].select { |item| ids.include?(item["id"]) }

  def applies?(item, zone, method)
    item["active"] && (item["zones"].nil? || item["zones"].include?(zone)) && (item["methods"].nil? || item["methods"].include?(method))
  end

  def bars?(item, zone, method)
    travel = item["travel"] or return false
    applies?(item, zone, method) && (travel["never"].to_a.include?(method) || (travel["only"] && !travel["only"].include?(method)))
  end

  def group_price(group, method)
    price = group.first[:pays]["price"]
    own = price["by_method"].find { |item| item["method"] == method }
    charge = own ? own["charge"] : price["charge"]
    return group.size * pence(charge["amount"]) if charge["kind"] == "unit"

    each = (1..group.size).map { |number| charge["steps"].select { |step| step["from"] <= number }.last["amount"] }
    charge["kind"] == "whole" ? pence(each.last) * group.size : each.sum { |amount| pence(amount) }
  end

  def pence(text) = (text.to_r * 100).to_i
end
