# frozen_string_literal: true

require_relative "../../support/core"

# A proof of "any weekday" is looked at once for all moments that no setting tells apart. So moments that look alike
# must lead to the same: held against quotes at random moments in random books of everything that looks at the clock.
class ClockLookTest < Minitest::Test
  include CoreSupport

  TIMES = %w[00:30 06:00 11:59 12:00 16:00 17:30 23:59].freeze
  DATES = %w[2026-03-28 2026-03-29 2026-06-01 2026-06-02 2026-10-25 2026-12-24].freeze
  CART = { "lines" => [{ "sku" => "A", "quantity" => 2 }], "destination" => { "country" => "GB" }, "coupons" => ["KEEL"] }.freeze

  def some(random, list) = list.sample(random: random)
  def moment(random) = "#{some(random, DATES)}T#{some(random, TIMES)}"

  def period(random)
    starts, ends = [moment(random), moment(random)].minmax
    [{ "starts" => starts }, { "ends" => ends }, *(starts == ends ? [] : [{ "starts" => starts, "ends" => ends }])].then { |all| some(random, all) }
  end

  def clock_leaf(random)
    case random.rand(3)
    when 0 then { "fact" => "weekday", "of" => [*1..7].sample(random.rand(1..4), random: random).sort }
    when 1 then { "fact" => "date", "first" => some(random, DATES) }
    else { "fact" => "time", "from" => some(random, TIMES), "until" => "20:00" }
    end
  end

  def timed_book(random)
    parts = {}
    if random.rand(2).zero?
      parts[:offers] = [{ "id" => "o", "name" => "O", "effect" => { "kind" => "free" }, "coupons" => ["k"], **period(random) }]
      parts[:coupons] = [{ "id" => "k", "code" => "KEEL", **(random.rand(2).zero? ? period(random) : {}) }]
    end
    if random.rand(2).zero?
      parts[:rules] = [{ "id" => "r", "name" => "R", "when" => { "all" => [clock_leaf(random)] },
                         "then" => [{ "kind" => "hide", "methods" => ["m"] }] }]
    end
    book(**parts)
  end

  def result(book, at)
    quote = book.quote(cart(CART), at: at)
    [quote.status, quote.method_quotes.map { |one| [one.method_id, one.price&.minor, one.causes.map(&:code)] }]
  end

  def any_moment(random)
    minutes = (Date.iso8601(some(random, DATES)).to_time.to_i / 60) + random.rand(-1500..1500)
    Time.at(minutes * 60).utc
  end

  def test_moments_that_look_alike_lead_to_the_same
    alike = told_apart = 0
    80.times do |seed|
      random = Random.new(seed)
      book = timed_book(random)
      look = GateMile::ClockLook.new(book)
      found = Array.new(40) { any_moment(random) }.map { |at| [look.at(at), result(book, at), at] }
      assert_equal 1, found.map { |one| one[1] }.uniq.size, "nothing looks at the clock: #{seed}" unless look.timed?
      found.group_by(&:first).each_value do |same|
        alike += same.size - 1
        assert_equal 1, same.map { |one| one[1] }.uniq.size, "seed #{seed}: #{same.map(&:last)}"
      end
      told_apart += 1 if found.map { |one| one[1] }.uniq.size > 1
    end
    # Neither half is empty: moments were taken together, and books were told apart by the clock.
    assert_operator alike, :>, 1000
    assert_operator told_apart, :>, 20
  end

  # What is switched off looks at nothing.
  def test_what_is_off_does_not_look
    rule = { "id" => "r", "name" => "R", "when" => { "all" => [{ "fact" => "weekday", "of" => [1] }] }, "then" => [{ "kind" => "hide", "methods" => ["m"] }] }
    assert_predicate GateMile::ClockLook.new(book(rules: [rule])), :timed?
    refute_predicate GateMile::ClockLook.new(book(rules: [rule.merge("active" => false)])), :timed?
    always = { "id" => "o", "name" => "O", "effect" => { "kind" => "free" } }
    refute_predicate GateMile::ClockLook.new(book(offers: [always])), :timed?
  end
end
