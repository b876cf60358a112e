# frozen_string_literal: true

require "json_schemer"
require_relative "../../support/plans"
require_relative "../../support/policies"

# docs/formats/quote.schema.json, cart.schema.json and book.schema.json take whatever the core makes.
class QuoteSchemaTest < Minitest::Test
  include PoliciesSupport

  SCHEMAS = %w[book cart quote].to_h { |name| [name, JSONSchemer.schema(JSON.parse(File.read(File.join(ROOT, "docs/formats/#{name}.schema.json"))))] }
  DEMO = JSON.parse(File.read(File.join(ROOT, "demo/book.json")))
  # Answers of a carrier, whatever it is asked.
  Port = Struct.new(:status) do
    def answers(requests)
      requests.to_h do |request|
        prices = request.parcels.map { GateMile::Money.new(450, request.currency) }
        service = GateMile::ServiceAnswer.new(status: :ok, prices: prices, days: [1, 2])
        reply = GateMile::Reply.new(status: :answered, services: request.services.to_h { |code| [code, service] }, age: 3)
        [request, status == :answered ? reply : GateMile::Reply.failed(status, "said")]
      end
    end
  end

  def test_quotes_of_generated_plans
    plans = Class.new { include PlansSupport }.new
    random = Random.new(51)
    Rounds.of(250).times do
      shop = book(products: plans.goods(random), classes: PlansSupport::CLASSES.map { |id| { "id" => id, "name" => id } },
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plans.plan(random) }])
      sent = { "lines" => Array.new(random.rand(1..3)) { |at| line("P#{at}", random.rand(1..6)) }, "destination" => to(%w[GB FR].sample(random: random)) }
      held("quote", shop.quote(cart(sent), at: AT).dump)
      held("book", shop.dump)
    end
  end

  def test_quotes_of_generated_offers_and_rules
    random = Random.new(52)
    Rounds.of(250).times do
      shop = GateMile::Book.compile(shop(random))
      sent = cart(random_cart(random))
      held("quote", shop.quote(sent, at: AT).dump)
      held("cart", sent.dump)
      held("book", shop.dump)
    end
  end

  # The demo at all hours, with carriers in every state, to everywhere: all causes that there are come up.
  def test_quotes_of_the_demo_and_every_cause
    seen = Set.new
    demo = GateMile::Book.compile(DEMO.merge("products" => GOODS.map do |sku, (price, weight, _, tags)|
      { "sku" => sku, "name" => sku, "price" => price, "weight" => weight, "tags" => tags }
    end))
    british = ["IM1 OAA", "IV1 1A", nil].map { |postcode| { "country" => "GB", "postcode" => postcode }.compact }
    places = [{}, *british, { "country" => "US", "postcode" => "2134" }, to("IE"), to("JP"), { "country" => "ES", "region" => "CN", "lines" => ["PO Box 3"] }]
    [nil, *%i[answered silent refused unusable].map do |status|
      Port.new(status)
    end].product(places, [AT, AT + (9 * 3600), Time.utc(2026, 12, 25, 3)]).each do |port, place, at|
      lines = GOODS.keys.map { |sku| line(sku, 3) } + [line("NOPE"), { "name" => "Made to order", "quantity" => 1, "unit_price" => "5.00" }]
      [lines, lines.first(1), []].each do |some|
        sent = cart({ "lines" => some, "destination" => place, "coupons" => ["NOPE"], "group" => "Nobody" })
        seen.merge(held("quote", demo.quote(sent, at: at, carriers: port).dump)["methods"].flat_map { |method| method["causes"].map { |cause| cause["code"] } })
      end
    end
    assert_operator seen.size, :>, 3, seen.to_a.join(" ")
  end

  # Each cause that the core can tell stands in the schema, and the other way round.
  def test_the_list_of_causes_is_whole
    source = Dir[File.join(ROOT, "core/gate_mile/**/*.rb")].map { |file| File.read(file) }.join
    told = source.scan(/(?:Refusal|Cause)\.new\((?:cell \? )?:(\w+)(?: : :(\w+))?/).flatten.compact |
           %w[closed after_cutoff no_weight no_size no_class_price not_carried]
    listed = SCHEMAS["quote"].value.dig("$defs", "cause", "properties", "code", "enum")
    assert_equal told.sort, listed.sort
  end

  private

  def held(name, document)
    json = JSON.parse(JSON.generate(document))
    assert_empty(SCHEMAS[name].validate(json).map { |error| "#{error["data_pointer"]}: #{error["error"]}" })
    json
  end
end
