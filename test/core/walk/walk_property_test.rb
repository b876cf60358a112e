# frozen_string_literal: true

require_relative "../../support/plans"
require_relative "../../support/recipes"
require_relative "../../support/mutations"

# A walk misses nothing: any single change of an amount, an edge or a switch that any cart at all shows is shown by a
# cart of the walk. The other carts are made at random, a few hundred for each book.
class WalkPropertyTest < Minitest::Test
  include PlansSupport
  include MutationsSupport

  GROUPS = [{ "id" => "trade", "name" => "Trade" }, { "id" => "crew", "name" => "Crew" }].freeze
  BOOKS = Rounds.of(8)
  CARTS = 250

  def test_no_change_of_a_plan_is_missed
    BOOKS.times { |seed| missing(plans(Random.new(seed + Integer(ENV.fetch("SEED", "0")))), %w[rates], seed) }
  end

  def test_no_change_of_a_shop_is_missed
    BOOKS.times do |seed|
      random = Random.new(seed + Integer(ENV.fetch("SEED", "0")))
      shop = Shops.new.recipe(random)
      %w[near isles].values_at(seed % 2).each { |zone| missing(shop, %w[rates offers rules treatments], seed, Shops.new.carts(random, zone), zone) }
    end
  end

  # What one zone shows, the walk of all of them need not show again in the others.
  def test_no_change_is_missed_by_the_walk_of_all_zones
    BOOKS.times do |seed|
      random = Random.new(seed + Integer(ENV.fetch("SEED", "0")))
      shop = Shops.new.recipe(random)
      pool = Shops::TO.keys.flat_map { |zone| Shops.new.carts(random, zone).first(CARTS / 2) }
      missing(shop, %w[offers rules treatments], seed, pool, nil)
    end
  end

  # Shops by recipe, and carts for them at random.
  class Shops
    include RecipesSupport

    TO = { "near" => "TR29 4ZZ", "isles" => "HS1 2AA" }.freeze
    MOMENTS = [nil, "2026-02-28T23:59", "2026-03-01T00:00", "2027-05-31T23:59", "2027-06-01T00:00", "2026-06-06T12:00"].freeze

    def carts(random, zone)
      Array.new(CARTS) do
        lines = GOODS.sample(random.rand(1..3), random: random).map { |sku, *| { "sku" => sku, "quantity" => random.rand(1..9) } }
        if random.rand(2).zero?
          lines.push({ "name" => "Else", "quantity" => 1, "unit_price" => format("%.2f", random.rand(1..9000)/100r),
                       "weight" => "#{random.rand(1..70_000)} g" })
        end
        [cart("lines" => lines, "destination" => { "country" => "GB", "postcode" => TO.fetch(zone) }, "group" => one_of(random, nil, "Retail", "Trade"),
              "coupons" => one_of(random, [], ["SPRING"])), one_of(random, *MOMENTS)]
      end
    end
  end

  private

  def plans(random)
    document(classes: [{ "id" => "c", "name" => "Chains" }, { "id" => "d", "name" => "Drums" }], groups: GROUPS,
             rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => plan(random) },
                     { "id" => "uk-n", "zone" => "uk", "method" => "n", "plan" => plan(random) }])
  end

  def missing(document, parts, seed, pool = random_carts(Random.new(seed)), zone = "uk")
    book = GateMile::Book.compile(document)
    walk = zone ? GateMile::Walk.of_zone(book, book.zone(zone), now: AT) : GateMile::Walk.of_board(book, now: AT)
    carts = walk.proposals.map { |one| [cart(one.cart), one.at] }
    shown, others = [carts, pool].map { |list| results(book, list) }
    missed = mutations(document, parts).reject do |_, mutant|
      changed = GateMile::Book.compile(mutant)
      differs?(changed, carts, shown) || !differs?(changed, pool, others)
    end
    assert_empty missed.map(&:first), "book #{seed}, walk of #{carts.size} carts: #{JSON.generate(document.slice(*parts))}"
  end

  def results(book, carts) = carts.map { |cart, at| result(book, cart, at) }
  def differs?(book, carts, before) = carts.each_with_index.any? { |(cart, at), index| result(book, cart, at) != before[index] }

  def result(book, cart, at)
    quote = book.quote(cart, at: at ? GateMile::LocalMoment.utc(at, "Europe/London") : AT)
    [quote.status, quote.method_quotes.to_h { |one| [one.method_id, one.price&.minor] }]
  end

  def random_carts(random)
    Array.new(CARTS) do
      lines = Array.new(random.rand(1..3)) do
        { "name" => "Goods #{random.rand(3)}", "quantity" => random.rand(1..4), "unit_price" => format("%.2f", random.rand(1..6000)/100r),
          "weight" => "#{random.rand(1..6000)} g", "class" => pick(random, [nil, "Chains", "Drums"]),
          "size" => %w[length width height].to_h { |side| [side, "#{random.rand(1..60)} cm"] } }.compact
      end
      [cart("lines" => lines, "destination" => to("GB"), "group" => pick(random, [nil, "Trade", "Crew"])), nil]
    end
  end
end
