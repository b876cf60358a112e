# frozen_string_literal: true

require_relative "../../support/goods"

class TreatmentsTest < Minitest::Test
  include GoodsSupport

  def test_a_slow_second_reading_agrees_on_generated_books_and_carts
    random = Random.new(21)
    seen = Hash.new(0)
    Rounds.of(700).times do
      document = goods_document(random)
      book = GateMile::Book.compile(JSON.parse(JSON.generate(document)))
      skus = book.catalogue.articles.map(&:sku)
      3.times do
        sent = goods_cart(random, skus)
        quote = book.quote(cart(sent), at: AT)
        next seen[quote.status] += 1 unless quote.landing

        quote.method_quotes.each do |method|
          expected = slowly(document, sent, quote.landing.zone.id, method.method_id)
          assert_equal [expected.nil? ? nil : expected], [method.price&.minor], [sent, document["treatments"]].inspect
          assert_equal method.price.minor, amounts(method).sum, "the reckoning adds up" if method.price
          seen[method.status] += 1
        end
      end
    end
    %i[available unavailable nothing_ships].each { |status| assert_operator seen[status], :>, Rounds.of(50), status }
  end

  # Goods priced apart, taken out of the cart by hand, leave the ordinary part as it was; so with forty charts that ship free.
  # Common practice, no source: a mixed cart of free and paying goods pays for the paying ones only.
  def test_treated_goods_do_not_weigh_in_the_ordinary_rates
    charts = { "id" => "t", "name" => "Charts", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "0" } } }
    goods = [{ "sku" => "A", "name" => "Shackle", "price" => "1.90", "weight" => "0.21 kg" },
             { "sku" => "C", "name" => "Chart", "price" => "9.00", "weight" => "0.1 kg", "treatments" => ["t"] }]
    shop = book(products: goods, treatments: [charts])
    alone = quote(shop, [line("A", 1)], to("GB"))
    mixed = quote(shop, [line("A", 1), line("C", 40)], to("GB"))
    assert_equal alone.method_quotes.map(&:price), mixed.method_quotes.map(&:price)
    ordinary = ->(found) { found.method_quotes.first.reckoning.find { |step| step.code == :"lines.ordinary" }.numbers.slice(:lines, :quantity, :weight) }
    assert_equal ordinary.call(alone), ordinary.call(mixed)
    only = quote(shop, [line("C", 40)], to("GB")).method_quotes
    assert_equal(%w[0.00 0.00], only.map { |method| method.price.to_s })
    refute(only.first.reckoning.any? { |step| step.step == :ordinary })
  end

  # Without ordinary lines nothing of the rate counts, but a rate that has no price at all is still not offered.
  def test_a_rate_without_a_plan_is_incomplete_even_for_free_goods
    shop = book(products: [{ "sku" => "C", "name" => "Chart", "price" => "9.00", "treatments" => ["t"] }],
                treatments: [{ "id" => "t", "name" => "T", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "0" } } }],
                rates: [{ "id" => "r", "zone" => "uk", "method" => "m" }])
    assert_equal :incomplete, quote(shop, [line("C")], to("GB")).method_quotes.first.status
  end

  # docs/engine.md: with 6.00 each and 4.00 from the 4th, five units cost 26.00 graduated and 20.00 by the whole quantity.
  # Common practice, no source: graduated steps of 6, 6, 4 make 16 and not 12 or 18.
  def test_worked_examples_of_quantity_steps
    steps = { "steps" => [{ "from" => 1, "amount" => "6.00" }, { "from" => 4, "amount" => "4.00" }] }
    assert_equal(%w[26.00 20.00], %w[graduated whole].map { |kind| charge_of(steps.merge("kind" => kind)).price(5).to_s })
    third = { "kind" => "graduated", "steps" => [{ "from" => 1, "amount" => "6.00" }, { "from" => 3, "amount" => "4.00" }] }
    assert_equal "16.00", charge_of(third).price(3).to_s
  end

  # Graduated steps are what income-tax brackets are. United States, 2024 Tax Rate Schedule X (single), IRS Revenue Procedure
  # 2023-34, section 2.01, table 3: the tax on each bracket's upper end as the schedule prints it. Values from memory.
  def test_graduated_steps_against_a_published_tax_rate_schedule
    brackets = [[1, "0.10"], [11_601, "0.12"], [47_151, "0.22"], [100_526, "0.24"], [191_951, "0.32"], [243_726, "0.35"], [609_351, "0.37"]]
    tax = charge_of({ "kind" => "graduated", "steps" => brackets.map { |from, amount| { "from" => from, "amount" => amount } } })
    { 11_600 => "1160.00", 47_150 => "5426.00", 100_525 => "17168.50", 191_950 => "39110.50", 243_725 => "55678.50",
      609_350 => "183647.25" }.each { |income, published| assert_equal published, tax.price(income).to_s, income }
  end

  def test_charges_that_can_not_be_read_are_told_at_the_step
    read = lambda { |steps, kind = "whole"|
      treatment = { "id" => "t", "name" => "T", "price" => { "kind" => "apart", "charge" => { "kind" => kind, "steps" => steps } } }
      problems_of { book(treatments: [treatment]) }.map { |pointer, code| [pointer.delete_prefix("/treatments/0/price/charge"), code] }
    }
    step = ->(from, amount = "1") { { "from" => from, "amount" => amount } }
    assert_equal [["/steps/0/from", :step_first]], read.call([step.call(2)])
    assert_equal [["/steps/2/from", :step_twice]], read.call([step.call(1), step.call(4), step.call(4)])
    assert_equal [["/steps/2/from", :step_order]], read.call([step.call(1), step.call(4), step.call(3)])
    assert_equal [["/steps", :missing]], read.call([])
    assert_equal [["/steps/1/amount", :negative]], read.call([step.call(1), step.call(2, "-1")])
    assert_equal [["/amount", :missing]], read.call([], "unit").first(1)
  end

  def test_what_a_treatment_names_must_be_there
    bad = { "id" => "t", "name" => "T", "zones" => ["gone"], "methods" => [], "travel" => { "only" => %w[m gone] },
            "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "1" },
                         "by_method" => [{ "method" => "gone", "charge" => { "kind" => "unit", "amount" => "1" } }] } }
    assert_equal([["/treatments/0/methods", :limit_empty]], problems_of { book(treatments: [bad]) })
    assert_equal [["/treatments/0/zones/0", :unknown_id], ["/treatments/0/travel/only/1", :unknown_id],
                  ["/treatments/0/price/by_method/0/method", :unknown_id], ["/products/0/treatments/0", :unknown_id],
                  ["/products/0/class", :unknown_id], ["/products/0/variants/0/sku", :twice]].sort,
                 problems_of {
                   book(treatments: [bad.except("methods")],
                        products: [{ "sku" => "A", "name" => "A", "price" => "1", "class" => "no", "treatments" => ["u"],
                                     "variants" => [{ "sku" => " a", "name" => "A" }] }])
                 }.sort
  end

  def test_which_price_is_in_force_and_what_it_shadows
    price = { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "1" } }
    list = [{ "id" => "variant", "name" => "V", "price" => price, "methods" => ["m"] }, { "id" => "product", "name" => "P", "price" => price },
            { "id" => "class", "name" => "C", "price" => price, "zones" => ["uk"] }, { "id" => "off", "name" => "O", "price" => price, "active" => false },
            { "id" => "bar", "name" => "B", "travel" => { "never" => ["n"] } }]
    shop = book(treatments: list, classes: [{ "id" => "c", "name" => "C", "treatments" => %w[class bar] }],
                products: [{ "sku" => "A", "name" => "A", "price" => "1", "class" => "c", "treatments" => %w[product off],
                             "variants" => [{ "sku" => "A1", "name" => "A1", "treatments" => ["variant"] }] }])
    article = shop.catalogue["a1"]
    rows = GateMile::Precedence.of(shop, shop.treatments.on(article, article.shipping_class))
    assert_equal([["variant", :in_force, nil], ["product", :partly, nil], ["off", :off, nil], ["class", :shadowed, "variant"], ["bar", :in_force, nil]],
                 rows.map { |row| [row.treatment.id, row.state, row.shadowed_by&.id] })
    assert_equal [%w[uk-m], %w[uk-n]], rows.first(2).map(&:wins)
    found = quote(shop, [line("A1", 2)], to("GB")).method_quotes
    assert_equal({ "m" => "2.00", "n" => nil }, found.to_h { |method| [method.method_id, method.price&.to_s] })
    assert_equal([{ kind: "treatment", id: "bar", field: "travel" }], found.last.causes.map(&:setting))
    # Beside the own price: what the ordinary rate takes for as many.
    assert_equal({ 2 => { "uk-m" => "4.50", "uk-n" => "3.00" } },
                 GateMile::Comparison.of(shop, "A1", shop.zone("uk"), [2]).transform_values { |found| found.transform_values(&:to_s) })
  end

  private

  def charge_of(hash) = GateMile::Documents.read(GateMile::Charge, GateMile::Reader.new(hash), GateMile::Currency["GBP"])

  # What is added up to the price: all amounts but the total.
  def amounts(method) = method.reckoning.reject { |step| step.code == :"price.total" }.filter_map { |step| step.amount&.minor }
end
