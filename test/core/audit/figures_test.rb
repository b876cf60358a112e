# frozen_string_literal: true

require_relative "../../support/recipes"

# Figures held against those of the same kind: a point that was lost or moved is told with its neighbours, and nothing is told of shops in order.
class FiguresTest < Minitest::Test
  include RecipesSupport

  AMOUNT = /\A\d+\.\d\d\z/
  KEYS = %w[amount first additional each fixed from].freeze

  # @return [Array<Array(Hash, String)>] every amount of a document, by where it stands
  def amounts(node)
    case node
    when Hash then node.flat_map { |key, value| KEYS.include?(key) && value.is_a?(String) && value.match?(AMOUNT) ? [[node, key]] : amounts(value) }
    when Array then node.flat_map { |one| amounts(one) }
    else []
    end
  end

  def far(doc) = findings(GateMile::Book.compile(doc)).select { |one| one.code == :figure_far }
  def quick(doc) = GateMile::FigureFindings.new(GateMile::Book.compile(doc)).list

  def test_nothing_is_told_of_shops_in_order
    told = (0...120).to_h { |seed| [seed, quick(recipe(Random.new(seed))).map(&:numbers)] }
    assert_empty(told.reject { |_, list| list.empty? })
    demo = JSON.parse(File.read(File.join(ROOT, "demo/book.json")))
    assert_empty quick(demo.merge("products" => [])).map(&:numbers)
  end

  # What carriers took in the zone, and what orders paid by the method, are neighbours too: one price alone in its shop has no others.
  def test_beside_carriers_and_orders
    book = book(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => { "schedule" => { "kind" => "flat", "amount" => "595.00" } } }])
    figures = ->(**known) { GateMile::FigureFindings.new(book, **known).list.map { |one| one.numbers.values_at(:place, :beside, :meant).flatten.map(&:to_s) } }
    pounds = ->(text) { GateMile::Money.parse(text, GateMile::Currency["GBP"]) }
    assert_empty figures.call
    assert_equal [["orders", "7.20", "5.95", "5.95"]], figures.call(paid: { %w[uk m] => %w[7.20 5.95 6.10].map(&pounds) })
    assert_empty figures.call(paid: { %w[uk m] => %w[5.95 595.00].map(&pounds), %w[uk other] => [pounds.call("5.95")] }),
                 "others paid as much, or for something else"
    request = GateMile::CarrierRequest.new(carrier: "p", services: ["S"], destination: GateMile::Address.new(country: "GB"), parcels: [])
    said = GateMile::ServiceAnswer.new(status: :ok, prices: [pounds.call("6.40")])
    answers = { request => GateMile::Reply.new(status: :answered, services: { "S" => said }, age: 0) }
    assert_equal [["carriers", "6.40", "5.95"]], figures.call(answers: answers)
    assert_empty figures.call(answers: { request.with(destination: GateMile::Address.new(country: "FR")) => answers.values.first })
  end

  # Of figures a hundred times as large nearly all are told, of those ten times as large most; each with what was meant, where that is near.
  def test_figures_with_a_point_that_is_missing
    found = [10, 100].to_h do |times|
      random = Random.new(times)
      tries = Array.new(120) do |at|
        doc = recipe(Random.new(at))
        item, key = amounts(doc.slice("rates", "offers")).sample(random: random)
        item[key] = format("%.2f", item[key].to_r * times)
        quick(doc).any?
      end
      [times, tries.count(true).fdiv(tries.size)]
    end
    assert_operator found[100], :>, 0.85
    assert_operator found[10], :>, 0.6
  end

  def steps(*amounts)
    list = amounts.each_with_index.map { |amount, at| { "at" => "#{at * 10} kg", "amount" => amount } }
    { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => list } }
  end

  # The case of the audit: £750.00 at 30 kg after £7.20 and £7.40; and a cart that pays it.
  def test_the_neighbours_stand_beside_it
    doc = document(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => steps("7.00", "7.20", "7.40", "750.00") }])
    one = far(doc).first
    assert_equal [:step, "750.00", "30 kg", %w[7.40 7.20], "7.50"],
                 [one.numbers[:what], one.numbers[:figure].to_s, one.numbers[:at], one.numbers[:beside].map(&:to_s), one.numbers[:meant].to_s]
    book = GateMile::Book.compile(doc)
    assert_equal "750.00", book.quote(GateMile::Cart.parse(one.cart, book.currency), at: AT).method_quotes.first.price.to_s
    assert_equal one.key, far(doc).first.key, "snoozed by its figure"
    other = document(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => steps("7.00", "7.20", "7.40", "760.00") }])
    refute_equal one.key, far(other).first.key
  end

  # Dear for a reason: freight behind letters, abroad, an offer for large orders. One sign is none.
  def test_what_is_dear_on_purpose
    zones = [%w[uk GB], %w[us US], %w[au AU]].map { |id, code| { "id" => id, "name" => id, "areas" => [country(code)] } }
    rates = { "uk" => "4.50", "us" => "24.00", "au" => "32.00" }.map do |zone, amount|
      { "id" => zone, "zone" => zone, "method" => "m", "plan" => flat(amount) }
    end
    assert_empty far(document(zones: zones, rates: rates))
    assert_empty far(document(rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => steps("4.00", "6.50", "60.00") }]))
    assert_empty far(document(rates: [{ "id" => "a", "zone" => "uk", "method" => "m", "plan" => flat("3.50") },
                                      { "id" => "b", "zone" => "uk", "method" => "n", "plan" => flat("95.00") }]))
  end
end
