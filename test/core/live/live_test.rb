# frozen_string_literal: true

require_relative "../../support/core"

class LiveTest < Minitest::Test
  include CoreSupport

  # A port that answers by a block, and remembers what it was asked.
  class Port
    attr_reader :asked

    def initialize(&block)
      @block = block
      @asked = []
    end

    def answers(requests)
      @asked.concat(requests)
      requests.to_h { |request| [request, @block.call(request)] }
    end
  end

  CARRIERS = [{ "id" => "p", "name" => "Petrel Post", "services" => [{ "code" => "S", "name" => "Slow" }, { "code" => "Q", "name" => "Quick" }] },
              { "id" => "g", "name" => "Gannet", "services" => [{ "code" => "E", "name" => "Express" }] }].freeze
  ALL = [%w[p S], %w[p Q], %w[g E]].freeze

  FROM_QUAY = STORE.merge("ship_from" => { "country" => "GB", "postcode" => "TR29 4ZZ" }).freeze

  def shop(live, plan: nil, **more)
    services = ALL.map { |carrier, service| { "carrier" => carrier, "service" => service } }
    rate = { "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan, "live" => { "services" => services }.merge(live) }.compact
    book(carriers: CARRIERS, rates: [rate], store: FROM_QUAY, **more)
  end

  def money(text) = GateMile::Money.parse(text, GateMile::Currency["GBP"])

  # Prices for each parcel by service: [price, days].
  def answered(services)
    found = services.to_h { |code, (price, days)| [code, GateMile::ServiceAnswer.new(status: :ok, prices: Array(price).map { |one| money(one) }, days: days)] }
    GateMile::Reply.new(status: :answered, services: found, age: 2)
  end

  def usual(request) = request.carrier == "p" ? answered("S" => ["4.00", [2, 3]], "Q" => ["6.00", [1, 1]]) : answered("E" => ["4.00", [1, 2]])

  def ask(shop, port, lines = [line("A", 2)], to = to("GB").merge("postcode" => "TR29 4ZZ"))
    found = shop.quote(cart({ "lines" => lines, "destination" => to }), at: AT, carriers: port).method_quotes.first
    [found.price&.to_s || found.causes.map(&:code), found]
  end

  STEPS = { "kind" => "steps", "measure" => "value", "edges" => "from",
            "steps" => [{ "at" => "0.00", "amount" => "5.95" }, { "at" => "60.00", "amount" => "4.50" }, { "at" => "90.00", "amount" => "3.00" }] }.freeze

  # A rate's own plan, where it goes first, sees what the same plan sees without a carrier: other lines too, where its basis says so.
  def test_its_own_plan_sees_what_a_plan_sees
    goods = [{ "sku" => "A", "name" => "Shackle", "price" => "10.00", "weight" => "1 kg" },
             { "sku" => "H", "name" => "By hand", "price" => "50.00", "weight" => "9 kg", "treatments" => ["t"] },
             { "sku" => "V", "name" => "Voucher", "price" => "25.00", "ships" => false }]
    treated = [{ "id" => "t", "name" => "By hand", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "3.00" } } }]
    off = { "id" => "o", "name" => "Off", "effect" => { "kind" => "percent", "percent" => "50" }, "paying" => { "skus" => ["A"] } }
    lines = [line("A", 2), line("H"), line("V")]
    prices = %w[all shipping ordinary].product([[], [off]]).map do |of, offers|
      plan = { "schedule" => STEPS, "basis" => { "lines" => of } }
      parts = { products: goods, treatments: treated, offers: offers }
      plain = book(**parts, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
      live = shop({ "own" => "instead" }, plan: plan, **parts)
      wanted = plain.quote(cart({ "lines" => lines, "destination" => to("GB") }), at: AT).method_quotes.first.price.to_s
      assert_equal wanted, ask(live, Port.new { |_| flunk "its own plan gives the price" }, lines).first, [of, offers.size].inspect
      wanted
    end
    assert_operator prices.uniq.size, :>, 2, "and the three see different things"
  end

  def test_which_answer_counts
    port = -> { Port.new { |request| usual(request) } }
    assert_equal(%w[4.00 6.00 4.00], %w[cheapest fastest first].map { |how| ask(shop({ "answer" => how }), port.call).first })
    chosen = ->(how) { ask(shop({ "answer" => how }), port.call).last.reckoning.find { |step| step.code == :"live.chosen" }.numbers[:service] }
    assert_equal(["Gannet Express", "Petrel Post Quick", "Petrel Post Slow"], %w[cheapest fastest first].map { |how| chosen.call(how) })
    once = port.call
    ask(shop({}), once)
    assert_equal([["p", %w[S Q]], ["g", ["E"]]], once.asked.map { |request| [request.carrier, request.services] })
    price, quote = ask(shop({ "handling" => { "percent" => "12.5", "fixed" => "-0.20" }, "minimum" => "4.25", "ending" => "0.95" }), port.call)
    assert_equal ["4.95", "4.00"], [price, quote.cost.to_s]
    # Several kinds of parcel: a service's prices are summed.
    assert_equal("7.50", ask(shop({}), Port.new { answered("S" => [["3.00", "4.50"], nil]) }).first)
  end

  def test_the_ladder_in_trouble
    ladder = { "silent" => { "kind" => "amount", "amount" => "9.00" }, "refused" => { "kind" => "none" }, "unusable" => { "kind" => "plan" } }
    fallen = shop({ "ladder" => ladder }, plan: flat("7.00"))
    failed = ->(status) { Port.new { GateMile::Reply.failed(status, "told") } }
    assert_equal(["9.00", [:live_failed], "7.00"], %i[silent refused unusable].map { |status| ask(fallen, failed.call(status)).first })
    assert_equal [:live_failed], ask(shop({}), failed.call(:silent)).first
    # The reason shown belongs to that trouble, even where another service gave one before.
    mixed = Port.new { |request| GateMile::Reply.failed(request.carrier == "p" ? :refused : :unusable, request.carrier) }
    found = ask(shop({ "ladder" => { "unusable" => { "kind" => "amount", "amount" => "8.00" } } }), mixed).last
    step = found.reckoning.find { |one| one.code == :"live.fallback" }
    assert_equal [:unusable, "g"], step.numbers.values_at(:trouble, :said)
    mixed = Port.new { |request| request.carrier == "p" ? answered("S" => ["0.00", nil], "Q" => ["5.00", nil]) : GateMile::Reply.failed(:silent, "late") }
    price, quote = ask(fallen, mixed)
    assert_equal ["5.00", %i[live.unusable live.answer live.silent live.chosen]], [price, quote.reckoning.map(&:code).grep(/live/).first(4)]
    assert_equal [:live_waiting], ask(fallen, nil).first
    assert_equal "7.00", ask(shop({ "own" => "instead" }, plan: flat("7.00")), nil).first
    silent = Port.new { |request| flunk request.inspect }
    assert_equal "7.00", ask(shop({ "own" => "instead" }, plan: flat("7.00")), silent).first
  end

  # Common practice, no source: goods that ship free are in no carrier parcel.
  def test_what_is_asked
    free = { "id" => "t", "name" => "Free", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "0" } } }
    goods = [{ "sku" => "A", "name" => "Shackle", "price" => "1.90", "weight" => "0.2105 kg" },
             { "sku" => "F", "name" => "Chart", "price" => "9.00", "weight" => "1 kg", "treatments" => ["t"] },
             { "sku" => "N", "name" => "No weight", "price" => "1.00" }]
    one = shop({}, products: goods, treatments: [free])
    asked = lambda { |*lines|
      port = Port.new { |request| usual(request) }
      [ask(one, port, lines).first, port.asked.first&.parcels&.map { |one| written(one) }]
    }
    alone = asked.call(line("A"))
    assert_equal ["4.00", [{ "grams" => 211, "value" => "1.90", "count" => 1 }]], alone
    assert_equal alone, asked.call(line("A"), line("F", 40))
    assert_equal [[:no_weight], nil], asked.call(line("N"))
    assert_equal ["0.00", nil], asked.call(line("F", 40))
    # Goods that pay their own way have a request of their own.
    offer = { "id" => "o", "name" => "O", "effect" => { "kind" => "free" }, "paying" => { "skus" => ["A"] } }
    port = Port.new { |request| answered("S" => [request.parcels.first.grams > 2000 ? "9.00" : "5.00", nil]) }
    goods[1] = goods[1].except("treatments")
    assert_equal "5.00", ask(shop({}, products: goods, offers: [offer]), port, [line("A"), line("F", 2)]).first
    bare = book(carriers: CARRIERS,
                rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "live" => { "services" => [{ "carrier" => "p", "service" => "S" }] } }])
    assert_equal [:no_origin], ask(bare, port).first
    assert_equal([["/rates/0/live/ladder", :no_plan_to_fall_back_on]], problems_of { shop({ "ladder" => { "silent" => { "kind" => "plan" } } }) })
  end

  # Section 7 read a second time, slowly, from the documents: which answer counts, what is put on top, and the ladder.
  def test_generated_live_rates_against_a_second_reading
    random = Random.new(9)
    codes = Hash.new(0)
    Rounds.of(400).times do
      live, plan = generated(random)
      said = ALL.to_h { |service| [service, reply(random)] }
      port = Port.new do |request|
        mine = said.select { |(carrier, _), _| carrier == request.carrier }
        whole = mine.values.find { |one| one.first == :whole }
        next GateMile::Reply.failed(whole.last, "told") if whole

        answers = mine.filter_map do |(_, code), (kind, price, days)|
          ok = kind == :ok
          [code, GateMile::ServiceAnswer.new(status: kind, prices: ok ? [money(price)] : nil, days: days, said: nil)] unless kind == :left_out
        end
        GateMile::Reply.new(status: :answered, services: answers.to_h, age: 0)
      end
      price, quote = ask(shop(live, plan: plan && flat(plan)), port)
      wanted = second_reading(live, plan, said)
      codes[wanted] += 1 unless wanted.is_a?(Integer)
      assert_equal wanted, quote.price ? quote.price.minor : :out, [live, plan, said, price].inspect
    end
    assert_operator codes[:out], :>, Rounds.of(20)
  end

  def generated(random)
    fallback = -> { [{ "kind" => "none" }, { "kind" => "amount", "amount" => "9.00" }, { "kind" => "plan" }].sample(random: random) }
    live = { "services" => ALL.sample(random.rand(1..3), random: random).map { |carrier, service| { "carrier" => carrier, "service" => service } },
             "answer" => %w[cheapest fastest first].sample(random: random), "own" => random.rand(6).zero? ? "instead" : "fallback",
             "handling" => { "percent" => %w[-100 -12.5 10 0].sample(random: random), "fixed" => %w[-1.00 0 0.35].sample(random: random) },
             "minimum" => [nil, "2.00"].sample(random: random), "maximum" => [nil, "7.00"].sample(random: random),
             "ladder" => { "silent" => fallback.call, "refused" => fallback.call, "unusable" => fallback.call } }.compact
    needs = live["ladder"].values.include?({ "kind" => "plan" }) || live["own"] == "instead"
    [live, needs ? "6.66" : nil]
  end

  # [kind, price, days] of one service, or [:whole, trouble] of its carrier.
  def reply(random)
    case random.rand(6)
    when 0 then [:whole, %i[silent refused unusable].sample(random: random)]
    when 1 then [%i[refused unusable left_out].sample(random: random), nil, nil]
    else [:ok, format("%.2f", random.rand(0..5) * 1.5), [nil, [1, 2], [3, 3]].sample(random: random)]
    end
  end

  def second_reading(live, plan, said)
    return 666 if live["own"] == "instead" && plan

    asked = live["services"].map { |one| one.values_at("carrier", "service") }
    told = asked.map do |service|
      whole = said.select { |(carrier, _), _| carrier == service.first }.values.find { |one| one.first == :whole }
      kind, price, days = whole || said.fetch(service)
      kind = price if whole
      kind = :refused if kind == :left_out
      kind == :ok && price == "0.00" ? [:unusable] : [kind, price, days]
    end
    good = told.each_with_index.filter_map { |(kind, price, days), at| [on_top(live, price), days ? days.last : 99, at] if kind == :ok }
    return laddered(live, plan, told.map(&:first)) if good.empty?

    order = { "cheapest" => [0, 1, 2], "fastest" => [1, 0, 2], "first" => [2] }.fetch(live["answer"])
    good.min_by { |one| one.values_at(*order) }.first
  end

  def laddered(live, plan, kinds)
    kind = if kinds.include?(:silent) then "silent"
           else kinds.all?(:refused) ? "refused" : "unusable"
           end
    { "none" => :out, "amount" => 900, "plan" => plan && 666 }.fetch(live["ladder"][kind]["kind"])
  end

  # The percentage first, then the amount, never below nothing; then the least and the most.
  def on_top(live, price)
    minor = Rational(price) * 100
    handling = live["handling"]
    minor = [minor + ((minor * Rational(handling["percent"]) / 100) + (Rational(handling["fixed"]) * 100)).round, 0].max
    minor = [minor, Rational(live["minimum"]) * 100].max if live["minimum"]
    minor = [minor, Rational(live["maximum"]) * 100].min if live["maximum"]
    minor.to_i
  end

  # What stands in for a weight or a size that is not known counts in parcels, and is told; elsewhere nothing is made up.
  def test_what_stands_in_for_missing_weights_and_sizes
    goods = [{ "sku" => "A", "name" => "Shackle", "price" => "1.90", "weight" => "0.3 kg" }, { "sku" => "N", "name" => "Net", "price" => "1.00" }]
    parcels = { "kind" => "unit", "unit_weight" => "1 kg", "unit_size" => { "length" => "10 cm", "width" => "20 cm", "height" => "5 cm" } }
    asked = lambda { |policy|
      port = Port.new { |request| usual(request) }
      found = shop({}, products: goods, store: STORE.merge("parcels" => policy, "ship_from" => { "country" => "GB" }))
      price, quote = ask(found, port, [line("A"), line("N", 2)])
      told = quote.reckoning.select { |step| step.code == :"parcels.stand_in" }
      [price, port.asked.first&.parcels&.map { |one| written(one).except("value") }, told.map { |step| step.numbers.except(:zone) }]
    }
    told = [{ names: ["Net"], weight: "1 kg" }, { names: %w[Shackle Net], size: "10 cm × 20 cm × 5 cm" }]
    sent = [[300, 1], [1000, 2]].map { |grams, count| { "grams" => grams, "millimetres" => [200, 100, 50], "count" => count } }
    assert_equal ["4.00", sent, told], asked.call(parcels)
    assert_equal [[:no_weight], nil, []], asked.call("kind" => "unit")
    # 2 × 1 kg, and a thousandth of a cubic metre at 5000 cm³/kg is 0.2 kg: the parcels of 1.3 kg in all are billed by weight.
    priced = lambda { |measure, group, policy|
      steps = [{ "at" => "0 kg", "amount" => "1.00" }, { "at" => "2.2 kg", "amount" => "2.00" }]
      plan = { "group" => group, "schedule" => { "kind" => "steps", "measure" => measure, "steps" => steps }, "parcels" => policy }
      one = book(products: goods, rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
      found = quote(one, [line("A"), line("N", 2)], to("GB")).method_quotes.first
      found.price&.to_s || found.causes.map(&:code)
    }
    one = parcels.merge("kind" => "one", "divisor" => "5000")
    assert_equal(["2.00", "2.00", [:no_weight], [:no_weight]],
                 [%w[billable_weight cart], %w[weight parcel], %w[weight cart]].map { |measure, group| priced.call(measure, group, one) } +
                   [priced.call("billable_weight", "cart", one.except("unit_weight"))])
    bad = { "kind" => "one", "unit_weight" => "0 kg", "unit_size" => { "length" => "1 m", "height" => "1 m" } }
    assert_equal([["/store/parcels/unit_weight", :zero], ["/store/parcels/unit_size/width", :missing]],
                 problems_of { shop({}, store: STORE.merge("parcels" => bad)) })
  end

  # A sampled strip against quotes of the very carts that it stands for: at each piece's ends, and one round of questions.
  def test_a_sampled_strip_is_made_of_quotes
    port = -> { Port.new { |request| answered("S" => [format("%.2f", 3 + (request.parcels.first.grams / 1000)), nil]) } }
    shop = shop({ "handling" => { "percent" => "10" } })
    [3, 40].each do |here|
      once = port.call
      sent = cart({ "lines" => [line("A", here)], "destination" => to("GB").merge("postcode" => "TR29 4ZZ") })
      pieces = GateMile::PriceLines.new(shop, sent, "quantity", 65, at: AT, carriers: once).of["r"]
      assert(pieces.all?(&:sampled))
      assert_equal [1, 65, true], [pieces.first.from, pieces.last.to, pieces.each_cons(2).all? { |one, two| one.to == two.from }]
      pieces.each do |piece|
        assert_equal([piece.price, piece.last].map(&:to_s), [piece.from, piece.to].map { |units| ask(shop, port.call, [line("A", units)]).first })
      end
      assert_equal 20, once.asked.size, "ten positions, two carriers"
    end
    level = GateMile::PriceLines.new(shop, cart({ "lines" => [line("A", 1)], "destination" => to("GB") }), "quantity", 4, at: AT, carriers: port.call).of["r"]
    assert_equal([[1, 4]], level.map { |piece| [piece.from, piece.to] })
  end

  # By hand: Monday 1 June 2026 is an ordinary day; 25 December is a Friday and 28 December the substitute for Boxing Day
  # (gov.uk, bank holidays of England and Wales 2026; the holidays gem says the same).
  def test_business_days
    require "holidays"
    found = Holidays.between(Date.new(2026, 12, 20), Date.new(2027, 1, 4), :gb_eng, :observed).map { |day| day[:date].iso8601 }
    assert_equal %w[2026-12-25 2026-12-28 2027-01-01], found
    arrives = lambda { |local, delivery, store = {}|
      shop = book(store: STORE.merge("holidays" => found, **store), methods: [{ "id" => "m", "code" => "T", "name" => "T", "delivery" => delivery }],
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("4") }])
      one = shop.quote(cart({ "lines" => [line], "destination" => to("GB") }), at: GateMile::LocalMoment.utc(local, "Europe/London")).method_quotes.first
      one.arrives&.map(&:iso8601) || one.causes.map(&:code)
    }
    two = { "least" => 2, "most" => 3, "cutoff" => "14:00" }
    assert_equal %w[2026-06-03 2026-06-04], arrives.call("2026-06-01T13:59", two)
    assert_equal %w[2026-06-04 2026-06-05], arrives.call("2026-06-01T14:00", two)
    assert_equal %w[2026-06-10 2026-06-11], arrives.call("2026-06-05T15:00", two)
    assert_equal %w[2026-12-29 2026-12-30], arrives.call("2026-12-23T10:00", two)
    assert_equal %w[2026-12-31 2027-01-04], arrives.call("2026-12-24T15:00", two)
    assert_equal %w[2026-06-09 2026-06-10], arrives.call("2026-06-02T10:00", two.merge("collection_days" => [5]))
    assert_equal([%w[2026-06-02 2026-06-02], [:after_cutoff]], %w[13:59 14:00].map do |time|
      arrives.call("2026-06-01T#{time}", { "least" => 1, "cutoff" => "14:00", "hide" => true })
    end)
    assert_equal [:closed], arrives.call("2026-06-01T12:00", { "least" => 1, "from" => "22:00", "until" => "06:00" })
  end

  # Dates by walking day by day, against generated promises, holidays and moments of a year.
  def test_dates_against_a_walk_through_the_days
    random = Random.new(4)
    Rounds.of(200).times do
      off = Array.new(random.rand(0..20)) { Date.new(2026, 12, 1) + random.rand(60) }.to_set
      days = (1..7).to_a.sample(random.rand(1..7), random: random).sort
      promise = { "least" => random.rand(0..4), "most" => random.rand(4..9), "cutoff" => ["12:00", nil].sample(random: random),
                  "collection_days" => days }.compact
      local = Time.utc(2026, 12, 1) + (random.rand(40 * 24) * 3600)
      shop = book(store: STORE.merge("holidays" => off.map(&:iso8601)), methods: [{ "id" => "m", "code" => "T", "name" => "T", "delivery" => promise }],
                  rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => flat("4") }])
      sent = cart({ "lines" => [line], "destination" => to("GB") })
      found = shop.quote(sent, at: GateMile::LocalMoment.utc(local.strftime("%Y-%m-%dT%H:%M"), "Europe/London")).method_quotes.first.arrives
      assert_equal walked(promise, off, local), found, [promise, off, local].inspect
    end
  end

  def walked(promise, off, local)
    day = local.to_date
    day += 1 if promise["cutoff"] && local.hour >= 12
    day += 1 until promise["collection_days"].include?(day.cwday) && !off.include?(day)
    promise.values_at("least", "most").map do |count|
      one = day
      while count.positive?
        one += 1
        count -= 1 unless one.saturday? || one.sunday? || off.include?(one)
      end
      one
    end
  end

  def test_duty_is_an_estimate_beside_the_price
    zones = lambda { |duty|
      [{ "id" => "uk", "name" => "UK", "areas" => [country("GB")], "duty" => duty }, { "id" => "all", "name" => "Rest", "areas" => [{ "kind" => "world" }] }]
    }
    due = lambda { |duty, units, store = STORE|
      quote(book(store: store, zones: zones.call(duty)), [line("A", units)], to("GB")).method_quotes.last.then do |one|
        [one.price.to_s, one.duty.first.to_s, one.duty.last]
      end
    }
    assert_equal ["4.50", "0.00", false], due.call({ "percent" => "20", "below" => "19.00" }, 9)
    # 10 × 1.90 = 19.00, and with the carriage of 4.50 it is 23.50.
    assert_equal ["4.50", "3.80", false], due.call({ "percent" => "20", "below" => "19.00" }, 10)
    assert_equal ["4.50", "4.70", true], due.call({ "percent" => "20", "carriage" => true, "included" => true }, 10)
    # Duty is on the goods without tax: 12 × 1.90 = 22.80 are 19.00 and 20 % of tax; where prices come without, 22.80.
    taxed = STORE.merge("tax_classes" => [{ "id" => "s", "name" => "Standard", "rate" => "20" }])
    assert_equal ["4.50", "3.80", false], due.call({ "percent" => "20", "below" => "19.00" }, 12, taxed)
    assert_equal ["4.50", "4.56", false], due.call({ "percent" => "20" }, 12, taxed.merge("prices_include_tax" => false))
  end
end
