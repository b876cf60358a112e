# frozen_string_literal: true

require_relative "../../support/goods"

class GoodsTest < Minitest::Test
  include GoodsSupport

  STORE_WITH_TAX = STORE.merge("tax_classes" => [{ "id" => "s", "name" => "Standard", "rate" => "20" }, { "id" => "z", "name" => "Zero", "rate" => "0" }])

  def test_variants_have_what_they_do_not_say_from_their_product
    shop = book(classes: [{ "id" => "c", "name" => "Small" }],
                products: [{ "sku" => "J", "name" => "Jacket", "price" => "129.00", "weight" => "1.4 kg", "class" => "c", "hazardous" => true,
                             "size" => { "length" => "40 cm", "width" => "34 cm", "height" => "12 cm" },
                             "variants" => [{ "sku" => "J-L", "name" => "Jacket, L" },
                                            { "sku" => "J-XL", "name" => "Jacket, XL", "price" => "134.00", "weight" => "56 oz" }] }])
    lines = quote(shop, [line("j-l", 2), line("J-XL")], to("GB")).lines
    assert_equal([%w[258.00 2.8], ["134.00", "56"]], lines.map { |item| [item.value(shop.store.basis).to_s, item.weight.to_s.split.first] })
    assert_equal [%w[c c], [true, true]], [lines.map(&:shipping_class), lines.map(&:hazardous)]
    assert_equal "40 cm", lines.first.longest.to_s
  end

  def test_goods_that_no_catalogue_knows
    shop = book(classes: [{ "id" => "c", "name" => "Long", "treatments" => ["t"] }],
                treatments: [{ "id" => "t", "name" => "T", "travel" => { "never" => ["n"] } }])
    sent = { "name" => "Mast", "quantity" => 1, "unit_price" => "90.00", "weight" => "9 kg", "class" => " long ", "tags" => %w[wood Wood spar],
             "size" => { "length" => "6 m", "width" => "10 cm", "height" => "10 cm" } }
    found = quote(shop, [sent, sent.merge("class" => "Lang")], to("GB"))
    assert_equal([["c", []], [nil, ["class"]]], found.lines.map { |item| [item.shipping_class, item.goods.unknown] })
    assert_equal ["6 m", %w[wood spar]], [found.measures.longest.to_s, found.lines.first.tags]
    assert_equal({ "m" => :available, "n" => :unavailable }, found.method_quotes.to_h { |method| [method.method_id, method.status] })
    assert_equal([["/lines/0/sku", :sku_or_name]], problems_of { cart({ "lines" => [{ "quantity" => 1 }] }) })
    assert_equal([["/lines/0/size/width", :missing]], problems_of do
      cart({ "lines" => [{ "name" => "M", "quantity" => 1, "size" => { "length" => "1 m", "height" => "1 m" } }] })
    end)
  end

  # Common practice, no source: shares of an order discount add up to it, none is larger than its line.
  def test_an_order_discount_is_spread_by_largest_remainder
    random = Random.new(3)
    Rounds.of(2000).times do
      amounts = Array.new(random.rand(1..6)) { [0, random.rand(1..5000)].sample(random: random) }
      discount = random.rand(0..6000)
      shares = GateMile::Discount.spread(discount, amounts)
      assert_equal [discount, amounts.sum].min, shares.sum
      next if discount >= amounts.sum

      shares.zip(amounts).each { |share, amount| assert_operator (share - Rational(amount * discount, amounts.sum)).abs, :<, 1 }
      rest = shares.each_with_index.map { |share, at| share - Rational(amounts[at] * discount, amounts.sum) }
      up = rest.each_index.select { |at| rest[at].positive? }
      down = rest.each_index.select { |at| rest[at].negative? }
      up.product(down) { |a, b| assert(([1 - rest[a], -a] <=> [-rest[b], -b]) >= 0, "the larger remainder first, then the earlier line") }
    end
    assert_equal [2, 1, 1], GateMile::Discount.spread(4, [100, 100, 100])
  end

  # Three units of 1.00 less 1.00 come to 2.00: one of them to 0.67, two to 1.33, four to 2.67, each rounded by itself.
  def test_some_units_of_a_discounted_line
    sent = cart({ "lines" => [line("A", 3, discount: "1.00")], "destination" => to("GB") })
    one = book(products: [{ "sku" => "A", "name" => "A", "price" => "1.00" }]).basket(sent).lines.first
    assert_equal([67, 133, 200, 267], [1, 2, 3, 4].map { |units| one.with_units(units).after })
    assert_equal([100, 200, 300, 400], [1, 2, 3, 4].map { |units| one.with_units(units).before })
  end

  # Each of the three choices of the basis, on one cart reckoned by hand: 24.00 of 20 % goods less 4.00, 10.00 untaxed, an order
  # discount of 3.00 (2.00 and 1.00), prices with tax.
  def test_the_order_value_by_every_basis
    goods = [{ "sku" => "A", "name" => "A", "price" => "12.00" }, { "sku" => "B", "name" => "B", "price" => "10.00", "tax_class" => "z" },
             { "sku" => "V", "name" => "V", "price" => "25.00", "ships" => false }]
    sent = { "lines" => [line("A", 2, discount: "4.00"), line("B")], "destination" => to("GB"), "order_discount" => "3.00" }
    value = lambda { |basis, cart_sent = sent, store = STORE_WITH_TAX|
      book(store: store.merge("basis" => basis), products: goods).quote(cart(cart_sent), at: AT).measures.value.to_s
    }
    assert_equal "27.00", value.call({})
    assert_equal "34.00", value.call({ "discounts" => "before" })
    assert_equal "24.00", value.call({ "tax" => "without" }) # 18.00 / 1.2 = 15.00, and 9.00
    assert_equal "30.00", value.call({ "discounts" => "before", "tax" => "without" })
    assert_equal "30.60", value.call({}, sent, STORE_WITH_TAX.merge("prices_include_tax" => false)) # 18.00 * 1.2 + 9.00
    more = sent.merge("lines" => sent["lines"] + [line("V")], "order_discount" => "0")
    assert_equal %w[30.00 55.00], [value.call({}, more), value.call({ "lines" => "all" }, more)]
    assert_equal "10.00", value.call({}, sent.merge("lines" => [line("A", 1, discount: "99.00"), line("B")], "order_discount" => "0"))
  end

  def test_an_exchanged_catalogue_is_what_a_new_one_would_be
    random = Random.new(4)
    currency = GateMile::Currency["GBP"]
    make = lambda do |sku, count|
      variants = Array.new(count) { |at| { "sku" => "#{sku}-#{at}", "name" => "V" } }
      GateMile::Documents.parse(GateMile::Product, { "sku" => sku, "name" => "N", "price" => "1.00", "variants" => variants }, currency)
    end
    list = %w[A B C D].map { |sku| make.call(sku, random.rand(0..2)) }
    catalogue = GateMile::Catalogue.new(list)
    Rounds.of(200).times do
      gone = list.sample(random.rand(0..2), random: random)
      come = gone.map { |product| make.call([product.sku, "#{product.sku[0]}#{random.rand(9)}x"].sample(random: random), random.rand(0..2)) }.uniq(&:sku)
      come.reject! { |product| (list - gone).any? { |other| other.sku == product.sku } }
      list = list - gone + come
      before = catalogue.map { |one| written(one) }
      following = catalogue.exchange(gone.map { |product| product.sku.downcase }, come)
      assert_equal(before, catalogue.map { |one| written(one) })
      catalogue = following
      fresh = GateMile::Catalogue.new(list)
      assert_equal(fresh.map { |one| written(one) }.sort_by { |item| item["sku"] }, catalogue.map { |one| written(one) }.sort_by { |item| item["sku"] })
      assert_equal fresh.articles.map(&:sku).sort, catalogue.articles.map(&:sku).sort
    end
  end

  def test_each_finding_about_goods
    others = %i[covers_world no_rate].map { |code| [code, "all", nil] }
    none = ->(**parts) { findings(book(**parts)).map { |finding| [finding.code, finding.zone, finding.numbers[:reason]] } - others }
    goods = [{ "sku" => "A", "name" => "A", "price" => "1", "weight" => "1 kg", "class" => "c", "treatments" => ["t"] }]
    classes = [{ "id" => "c", "name" => "C" }]
    treat = ->(**fields) { [{ "id" => "t", "name" => "T" }.merge(fields.transform_keys(&:to_s))] }
    price = { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "2" } }
    assert_empty none.call(products: goods, classes: classes, treatments: treat.call(price: price))
    assert_equal [[:no_way, "uk", nil]], none.call(products: goods, classes: classes, treatments: treat.call(travel: { "only" => [] }))
    assert_equal [[:treatment_never, nil, :says_nothing]], none.call(products: goods, classes: classes, treatments: treat.call)
    assert_equal [[:treatment_never, nil, :no_rate]], none.call(products: goods, classes: classes, treatments: treat.call(price: price, zones: ["all"]))
    assert_equal [[:treatment_never, nil, :reaches_nothing], [:empty_class, nil, nil]],
                 none.call(products: [goods.first.except("treatments")], classes: classes + [{ "id" => "d", "name" => "D", "treatments" => ["t"] }],
                           treatments: treat.call(price: price))
    both = treat.call(price: price) + [{ "id" => "u", "name" => "U", "price" => price }]
    assert_equal [[:treatment_never, nil, :shadowed]], none.call(products: [goods.first.merge("treatments" => %w[t u])], classes: classes, treatments: both)
    barred = treat.call(price: price, methods: ["m"]) + [{ "id" => "u", "name" => "U", "travel" => { "never" => ["m"] } }]
    assert_equal [[:own_price_barred, nil, nil]], none.call(products: [goods.first.merge("treatments" => %w[t u])], classes: classes, treatments: barred)
    bare = [goods.first.except("weight", "class", "treatments")]
    assert_equal [[:no_weight, nil, nil], [:no_class, nil, nil], [:empty_class, nil, nil]], none.call(products: bare, classes: classes)
    assert_equal :note, findings(book(products: bare)).find { |finding| finding.code == :no_weight }.harm
  end

  # The audit against what quotes say of every product by itself.
  def test_goods_that_can_travel_by_no_method_are_those_whose_quotes_say_so
    random = Random.new(9)
    stuck = 0
    Rounds.of(300).times do
      shop = book(**goods_document(random).transform_keys(&:to_sym).slice(:products, :classes, :treatments, :methods, :rates))
      found = findings(shop).select { |finding| finding.code == :no_way }.to_h { |finding| [finding.zone, finding.numbers[:count]] }
      { "uk" => "GB", "all" => "FR" }.each do |zone, country|
        bought = shop.catalogue.articles.select { |article| article.ships && (article.variant || article.product.variants.empty?) }
        expected = bought.count { |article| quote(shop, [line(article.sku)], to(country)).method_quotes.none?(&:available?) }
        stuck += expected
        assert_equal expected, found.fetch(zone, 0)
      end
    end
    assert_operator stuck, :>, 20
  end
end
