# frozen_string_literal: true

require_relative "../../support/recipes"
require_relative "../../support/mutations"

# After an edit only those proofs are run again that it can touch: whatever an edit of a shop changes, no proof that is
# passed over comes to anything else. All edits of shops by recipe are tried on many carts.
class EditedTest < Minitest::Test
  include RecipesSupport
  include MutationsSupport

  PLACES = [{ "country" => "GB", "postcode" => "TR29 4ZZ" }, { "country" => "GB", "postcode" => "HS1 2AA" }, { "country" => "IE" }, { "country" => "FR" },
            { "country" => "BR" }, { "country" => "GB" }, {}].freeze

  def carts(random)
    Array.new(60) do
      lines = GOODS.sample(random.rand(1..3), random: random).map { |sku, *| line(sku, random.rand(1..4)) }
      if random.rand(3).zero?
        lines.push({ "name" => "Else", "quantity" => 1, "unit_price" => "9.00", "weight" => "3 kg",
                     "class" => one_of(random, nil, "Heavy", "Gone") }.compact)
      end
      cart("lines" => lines, "destination" => one_of(random, *PLACES), "group" => one_of(random, nil, "Retail", "Trade", "Gone"),
           "coupons" => one_of(random, [], ["SPRING"]))
    end
  end

  def result(book, cart)
    quote = book.quote(cart, at: AT)
    [quote.status, quote.landing&.zone&.id, quote.text, quote.refused,
     quote.method_quotes.map { |one| [one.method_id, one.price&.minor, one.name, one.messages, one.marks] }]
  end

  def test_nothing_is_passed_over_that_changes
    3.times do |seed|
      random = Random.new(seed)
      shop = recipe(random)
      book = GateMile::Book.compile(shop)
      asked = carts(random).map { |cart| [cart, result(book, cart), GateMile::Looked.at(book.quote(cart, at: AT), cart)] }
      edits(shop).each do |name, other|
        changed = GateMile::Book.compile(other)
        edited = GateMile::Edited.new(book, changed)
        passed = asked.reject { |_, _, looked| edited.touches?(looked) }
        passed.each { |cart, before, _| assert_equal before, result(changed, cart), "#{name}: #{JSON.generate(cart.dump)}" }
      end
    end
  end

  # An edit of one zone leaves the carts of the others alone, and one that says the same leaves all alone.
  def test_what_cannot_be_touched_is_passed_over
    shop = recipe(Random.new(1))
    book = GateMile::Book.compile(shop)
    looked = PLACES.first(3).map { |to| cart("lines" => [line("LA")], "destination" => to) }.map { |one| GateMile::Looked.at(book.quote(one, at: AT), one) }
    near = shop["rates"].map { |rate| rate["id"] == "near-post" ? rate.merge("plan" => flat("1.00")) : rate }
    touched = ->(other) { looked.map { |one| GateMile::Edited.new(book, GateMile::Book.compile(other)).touches?(one) } }
    assert_equal [true, false, false], touched.call(shop.merge("rates" => near))
    assert_equal [false, false, false], touched.call(Marshal.load(Marshal.dump(shop)))
    goods = shop["products"].map { |one| one["sku"] == "AN" ? one.merge("price" => "1.00") : one }
    assert_equal [false, false, false], touched.call(shop.merge("products" => goods))
    ireland = shop["zones"].map { |zone| zone["id"] == "abroad" ? zone.merge("areas" => [country("FR")]) : zone }
    assert_equal [false, false, true], touched.call(shop.merge("zones" => ireland))
  end

  private

  # Changes of figures and switches, and what comes, goes and moves.
  def edits(shop)
    mutations(shop, %w[rates offers rules treatments]) + lists(shop) + [
      ["store", shop.merge("store" => shop["store"].merge("method_order" => "merchant", "nothing_text" => "No"))],
      ["goods", shop.merge("products" => shop["products"].map { |one| one.merge("weight" => "2 kg") })],
      ["sku", shop.merge("products" => shop["products"].map { |one| one["sku"] == "LA" ? one.merge("sku" => "LAMP") : one })],
      ["class", shop.merge("classes" => shop["classes"].map { |one| one["id"] == "heavy" ? one.merge("treatments" => ["by_piece"]) : one })],
      ["method", shop.merge("methods" => shop["methods"].map { |one| one.merge("delivery" => { "least" => 1, "most" => 2 }) })]
    ]
  end

  def lists(shop)
    %w[zones rates methods offers rules treatments coupons groups].flat_map do |list|
      gone = shop[list].each_index.map { |at| ["#{list} without #{at}", without(shop, list, at)] }
      [*gone, ["#{list} reversed", shop.merge(list => shop[list].reverse)]]
    end.select { |_, other| readable?(other) }
  end

  def without(shop, list, at) = shop.merge(list => shop[list].reject.with_index { |_, index| index == at })
end
