# frozen_string_literal: true

require_relative "../../support/core"

# What is said of a threshold in the prices that shoppers see: exactly so much more is enough, and a minor unit less is not.
class InPricesTest < Minitest::Test
  include CoreSupport

  def shop(include_tax, basis, rates = %w[20], from: "100.00")
    classes = rates.each_with_index.map { |rate, at| { "id" => "t#{at}", "name" => "T#{at}", "rate" => rate } }
    offer = { "id" => "o", "name" => "Free", "effect" => { "kind" => "free" },
              "threshold" => { "measure" => "value", "from" => from, "basis" => { "tax" => basis } },
              "milepost" => { "active" => true, "texts" => { "away" => "{remaining}" } } }
    book(store: STORE.merge("prices_include_tax" => include_tax, "tax_classes" => classes), offers: [offer])
  end

  def outlook(book, *lines) = quote(book, lines, to("GB")).outlooks.first
  def goods(price, tax = nil, sku = "G") = line(sku, 1, name: "Goods", unit_price: price, weight: "1 kg", **{ tax_class: tax }.compact)

  # The reported case: 90 with tax are 75 without, and 25 short of 100.
  def test_a_threshold_without_tax_in_a_shop_with_tax
    book = shop(true, "without")
    one = outlook(book, goods("90.00"))
    assert_equal ["25.00", "30.00", "120.00"], [one.remaining, one.remaining_in_prices(book.store), one.threshold_in_prices(book.store)].map(&:to_s)
    assert_equal(%i[acted below], %w[30.00 29.99].map { |more| outlook(book, goods("90.00"), goods(more, nil, "H")).state })
  end

  # For every basis, rate and amount: so much more of any goods reaches it, by itself and in the same line; three minor units less of some do not.
  def test_it_is_true_for_every_basis
    random = Random.new(22)
    Rounds.of(200).times do
      rates = [%w[20], %w[19 7], %w[25 12 0], %w[8.1], []].sample(random: random)
      book = shop([true, false].sample(random: random), %w[with without].sample(random: random), rates, from: format("%.2f", random.rand(2000..20_000) / 100.0))
      have = format("%.2f", random.rand(100..1500) / 100.0)
      classes = rates.empty? ? [nil] : rates.each_index.map { |at| "T#{at}" }
      more = outlook(book, goods(have, classes.first)).remaining_in_prices(book.store)
      state = ->(amount) { classes.map { |tax| outlook(book, goods(have, classes.first), goods(amount.to_s, tax, "H")).state } }
      assert_equal [:acted], state.call(more).uniq, [book.store.prices_include_tax, rates, have, more.to_s].inspect
      assert_includes state.call(more.with_minor(more.minor - 3)), :below
      assert_equal :acted, outlook(book, goods((GateMile::Money.parse(have, book.currency) + more).to_s, classes.first)).state
    end
  end
end
