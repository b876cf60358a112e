# frozen_string_literal: true

require_relative "../../support/core"

# Tariffs as merchants and carriers write them, with prices worked by hand: what each line says can be checked with pencil
# and paper. The shapes of the tariffs are common practice, no source; the figures are made up.
class WorkedTest < Minitest::Test
  include CoreSupport

  GOODS = {
    "BOOK" => { "name" => "Book", "price" => "9.50", "weight" => "0.45 kg", "class" => "paper", "size" => %w[21 14 3] },
    "VASE" => { "name" => "Vase", "price" => "34.00", "weight" => "1.2 kg", "class" => "fragile", "size" => %w[40 20 20] },
    "DESK" => { "name" => "Desk", "price" => "180.00", "weight" => "28 kg", "class" => "bulky", "size" => %w[140 70 12] },
    "PEN" => { "name" => "Pen", "price" => "1.25", "weight" => "15 g", "size" => %w[14 1 1] }
  }.freeze

  # Up to and including an edge; the steps of a letter and parcel tariff.
  POST = [["0 kg", "1.40"], ["0.1 kg", "2.20"], ["0.5 kg", "3.10"], ["2 kg", "5.90"], ["10 kg", "11.40"], ["30 kg", nil]].freeze
  EACH_KG = { "schedule" => { "kind" => "steps", "measure" => "weight",
                              "steps" => [{ "at" => "0 kg", "amount" => "4.00" }, { "at" => "5 kg", "amount" => "4.00", "each" => "0.60",
                                                                                    "increment" => "1 kg" }] } }.freeze
  BY_VALUE = { "schedule" => { "kind" => "steps", "measure" => "value",
                               "steps" => [{ "at" => "0", "amount" => "6.95" }, { "at" => "50", "amount" => "3.95" }, { "at" => "100",
                                                                                                                        "amount" => "0.00" }] } }.freeze
  INSURED = { "schedule" => { "kind" => "steps", "measure" => "value", "steps" => [{ "at" => "0", "amount" => "2.00", "percent" => "1.5" }] } }.freeze
  TABLE = { "schedule" => { "kind" => "grid", "rows" => { "measure" => "weight", "at" => ["0 kg", "1 kg", "5 kg"] },
                            "columns" => { "measure" => "value", "at" => %w[0 40 100] },
                            "cells" => [["3.00", "2.00", "0.00"], ["5.00", "4.00", "2.50"], ["9.00", "8.00", nil]] } }.freeze

  class << self
    def steps(measure, rows, **more)
      made = rows.map { |at, amount| amount ? { "at" => at, "amount" => amount } : { "at" => at, "none" => true } }
      { "schedule" => { "kind" => "steps", "measure" => measure, "steps" => made } }.merge(more.transform_keys(&:to_s))
    end

    def flat(amount, **more) = { "schedule" => { "kind" => "flat", "amount" => amount } }.merge(more.transform_keys(&:to_s))
    def first(first, more, **rest) = { "schedule" => { "kind" => "first", "first" => first, "additional" => more } }.merge(rest.transform_keys(&:to_s))

    def classes(combine, prices, others = nil)
      listed = prices.map do |id, (amount, charge)|
        if amount
          { "class" => id, "charge" => charge || "once" }.merge(flat(amount))
        else
          { "class" => id,
            "carried" => false }
        end
      end
      rest = others && { "charge" => "once", "unclassed" => true }.merge(flat(others))
      { "group" => "class", "combine" => combine, "classes" => listed, "others" => rest }.compact
    end
  end

  # The tariff; what goes into the cart; the price, or :none where the method is not available.
  EXAMPLES = {
    "letters and parcels by weight, up to an edge" => [
      steps("weight", POST),
      {
        { "PEN" => 1 } => "1.40", # 15 g
        { "PEN" => 6 } => "1.40", # 90 g
        { "PEN" => 7 } => "2.20", # 105 g
        { "BOOK" => 1 } => "2.20", # 450 g
        { "BOOK" => 1, "PEN" => 3 } => "2.20", # 495 g
        { "BOOK" => 1, "PEN" => 4 } => "3.10", # 510 g
        { "BOOK" => 4 } => "3.10", # 1.8 kg
        { "BOOK" => 4, "PEN" => 14 } => "5.90", # 2.01 kg
        { "VASE" => 8 } => "5.90", # 9.6 kg
        { "VASE" => 9 } => "11.40", # 10.8 kg
        { "VASE" => 25 } => "11.40", # 30 kg exactly
        { "DESK" => 1, "VASE" => 2 } => :none
      } # 30.4 kg
    ],
    "the same tariff, from an edge on" => [
      steps("weight", [["0 kg", "1.40"], ["0.45 kg", "2.20"]]).then { |plan| plan.merge("schedule" => plan["schedule"].merge("edges" => "from")) },
      {
        { "PEN" => 29 } => "1.40", # 435 g
        { "PEN" => 30 } => "2.20", # 450 g exactly
        { "BOOK" => 1 } => "2.20"
      } # 450 g exactly
    ],
    "so much for each started kilogram above five" => [
      EACH_KG,
      {
        { "VASE" => 4 } => "4.00", # 4.8 kg
        { "VASE" => 5 } => "4.60", # 6 kg, one started
        { "VASE" => 6 } => "5.80", # 7.2 kg, 2.2 above: three started
        { "DESK" => 1 } => "17.80", # 28 kg, 23 above: 13.80 on 4.00
        { "DESK" => 1, "PEN" => 1 } => "18.40"
      } # 28.015 kg, a twenty-fourth is started
    ],
    "cheaper for bigger orders, free from 100" => [
      BY_VALUE,
      {
        { "VASE" => 1 } => "6.95", # 34.00
        { "VASE" => 1, "BOOK" => 1, "PEN" => 5 } => "6.95", # 49.75
        { "BOOK" => 4, "PEN" => 10 } => "3.95", # 38.00 and 12.50: 50.50
        { "PEN" => 40 } => "3.95", # 50.00 exactly
        { "VASE" => 2, "BOOK" => 3 } => "3.95", # 96.50
        { "VASE" => 3 } => "0.00", # 102.00
        { "PEN" => 80 } => "0.00"
      } # 100.00 exactly
    ],
    "two pounds and one and a half percent of the value" => [
      INSURED,
      {
        { "VASE" => 1 } => "2.51", # 0.51 on top
        { "DESK" => 1 } => "4.70", # 2.70
        { "PEN" => 1 } => "2.02", # 0.01875 is 0.02
        { "BOOK" => 1 } => "2.14"
      } # 0.1425 is 0.14
    ],
    "weight across value" => [
      TABLE,
      {
        { "BOOK" => 1 } => "3.00", # 0.45 kg, 9.50
        { "BOOK" => 2, "PEN" => 17 } => "4.00", # 1.155 kg, 40.25
        { "VASE" => 1 } => "5.00", # 1.2 kg, 34.00
        { "VASE" => 2 } => "4.00", # 2.4 kg, 68.00
        { "VASE" => 3 } => "2.50", # 3.6 kg, 102.00
        { "VASE" => 5 } => :none, # 6 kg, 170.00: the cell is blank
        { "DESK" => 1 } => :none
      }
    ],
    "a first unit and each more" => [
      first("5.00", "1.20"),
      { { "BOOK" => 1 } => "5.00", { "BOOK" => 2 } => "6.20", { "BOOK" => 3, "VASE" => 2 } => "9.80" } # four more at 1.20
    ],
    "first and more for each product by itself" => [
      first("5.00", "1.20", group: "product", combine: "sum"),
      { { "BOOK" => 3 } => "7.40", { "BOOK" => 3, "VASE" => 1 } => "12.40", { "BOOK" => 2, "VASE" => 2 } => "12.40" }
    ],
    "one first unit of all, every other unit as a further one" => [
      first("5.00", "1.20", group: "product", combine: "dearest_first"),
      {
        { "BOOK" => 1 } => "5.00",
        { "BOOK" => 3, "VASE" => 1 } => "8.60", # three more at 1.20
        { "BOOK" => 1, "VASE" => 1, "PEN" => 1 } => "7.40"
      }
    ],
    "an amount for each product, whatever its number" => [
      flat("2.25", group: "product", combine: "sum"),
      {
        { "PEN" => 9 } => "2.25",
        { "PEN" => 1, "BOOK" => 4 } => "4.50",
        { "PEN" => 1, "BOOK" => 4, "VASE" => 2 } => "6.75"
      }
    ],
    "each product by its own weight, the highest alone" => [
      steps("weight", POST, group: "product", combine: "highest"),
      {
        { "BOOK" => 1, "PEN" => 1 } => "2.20", # 450 g and 15 g
        { "VASE" => 2, "BOOK" => 1 } => "5.90", # 2.4 kg and 450 g
        { "DESK" => 1, "VASE" => 1 } => "11.40"
      } # 28 kg and 1.2 kg
    ],
    "an amount for each unit" => [
      flat("0.80", group: "unit", combine: "sum"), { { "PEN" => 1 } => "0.80", { "PEN" => 12 } => "9.60", { "PEN" => 2, "BOOK" => 3 } => "4.00" }
    ],
    "a price for each class, added up" => [
      classes("sum", { "paper" => ["2.50"], "fragile" => ["6.00", "unit"], "bulky" => nil }, "4.00"),
      {
        { "BOOK" => 5 } => "2.50", { "VASE" => 3 } => "18.00", { "BOOK" => 1, "VASE" => 1 } => "8.50",
        { "PEN" => 2 } => "4.00", { "PEN" => 2, "BOOK" => 1 } => "6.50", { "DESK" => 1 } => :none, { "DESK" => 1, "BOOK" => 1 } => :none
      }
    ],
    "a price for each class, the highest alone" => [
      classes("highest", { "paper" => ["2.50"], "fragile" => ["6.00"] }, "4.00"),
      { { "BOOK" => 1, "VASE" => 1 } => "6.00", { "BOOK" => 1, "PEN" => 1 } => "4.00", { "BOOK" => 9 } => "2.50" }
    ],
    "a price for each class, the lowest alone" => [
      classes("lowest", { "paper" => ["2.50"], "fragile" => ["6.00"] }, "4.00"),
      { { "BOOK" => 1, "VASE" => 1 } => "2.50", { "VASE" => 1, "PEN" => 1 } => "4.00" }
    ],
    "classes of which one has no price" => [
      classes("sum", { "paper" => ["2.50"] }), { { "BOOK" => 2 } => "2.50", { "VASE" => 1 } => :none, { "BOOK" => 1, "PEN" => 1 } => :none }
    ],
    "handling on an order, least and most" => [
      steps("weight", POST, handling: { "fixed" => "0.75", "percent" => "10", "per" => "order" }, minimum: "3.00", maximum: "12.00"),
      {
        { "PEN" => 1 } => "3.00", # 1.40, 0.14 and 0.75 are 2.29
        { "BOOK" => 4 } => "4.16", # 3.10, 0.31 and 0.75
        { "VASE" => 9 } => "12.00"
      } # 11.40, 1.14 and 0.75 are 13.29
    ],
    "up to the next .99" => [
      steps("weight", POST, ending: "0.99"), { { "PEN" => 1 } => "1.99", { "BOOK" => 4 } => "3.99", { "VASE" => 9 } => "11.99" }
    ],
    "a parcel for each unit, by the larger of its weight and its volume" => [
      # A vase is 40 × 20 × 20 cm: 16,000 cm³ by 5,000 are 3.2 kg, and it weighs 1.2. A desk is 117,600: 23.52 kg, and it
      # weighs 28. A book is 882: 0.18 kg, and it weighs 0.45.
      steps("billable_weight", POST, group: "parcel", combine: "sum", parcels: { "kind" => "unit", "divisor" => "5000", "per" => "kg" }),
      { { "VASE" => 1 } => "5.90", { "VASE" => 2 } => "11.80", { "DESK" => 1 } => "11.40", { "BOOK" => 2 } => "4.40", { "BOOK" => 1, "VASE" => 1 } => "8.10" }
    ],
    "by the longest side" => [
      steps("longest", [["0 cm", "3.00"], ["60 cm", "8.00"], ["120 cm", "20.00"], ["200 cm", nil]]),
      { { "BOOK" => 9 } => "3.00", { "VASE" => 1 } => "3.00", { "DESK" => 1 } => "20.00", { "DESK" => 1, "PEN" => 1 } => "20.00" }
    ],
    "by the number of units" => [
      steps("quantity", [["0", "4.00"], ["5", "7.00"], ["20", "12.00"]]),
      {
        { "PEN" => 1 } => "4.00", { "PEN" => 4 } => "4.00", { "PEN" => 5 } => "7.00", { "PEN" => 3, "BOOK" => 2 } => "7.00", { "PEN" => 19 } => "7.00",
        { "PEN" => 20 } => "12.00"
      }
    ]
  }.freeze

  def test_worked_examples
    count = 0
    EXAMPLES.each do |title, (plan, examples)|
      shop = shop(plan)
      examples.each do |goods, price|
        assert_equal price, priced(shop, goods), "#{title}: #{goods}"
        count += 1
      end
    end
    assert_operator count, :>, 80
  end

  # A cart's price does not depend on how its goods stand in lines, nor on their order.
  def test_lines_in_any_order_and_in_any_number
    random = Random.new(11)
    EXAMPLES.each do |title, (plan, examples)|
      shop = shop(plan)
      examples.each do |goods, price|
        pieces = goods.flat_map { |sku, units| split(units, random).map { |part| [sku, part] } }.shuffle(random: random)
        assert_equal price, priced(shop, pieces), "#{title}: #{pieces}"
      end
    end
  end

  private

  def shop(plan)
    products = GOODS.map do |sku, fields|
      sides = %w[length width height].zip(fields["size"]).to_h { |side, length| [side, "#{length} cm"] }
      { "sku" => sku }.merge(fields, "size" => sides)
    end
    classes = %w[paper fragile bulky].map { |id| { "id" => id, "name" => id.capitalize } }
    book(products: products, classes: classes, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
  end

  def priced(shop, goods)
    lines = goods.map { |sku, units| { "sku" => sku, "quantity" => units } }
    found = quote(shop, lines, to("GB")).method_quotes.first
    found.available? ? found.price.to_s : :none
  end

  def split(units, random)
    return [units] if units < 2

    part = random.rand(1...units)
    [part, units - part]
  end
end
