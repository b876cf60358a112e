# frozen_string_literal: true

require_relative "../support/server"
require_relative "../support/carriers"
require_relative "../support/soak"

class LiveServerTest < Minitest::Test
  include ServerSupport
  include CarriersSupport

  IRELAND = { "lines" => [{ "sku" => "SHK-GAL-10", "quantity" => 8 }], "destination" => { "country" => "IE" } }.freeze

  def setup
    fresh(WHOLE_DEMO)
    @carriers = carriers
  end

  def live(cart = IRELAND)
    Server::Carriers::Port.clear
    api(:post, "/api/quote", cart)["methods"].find do |method|
      method["reckoning"].any? do |step|
        step["code"].start_with?("live.")
      end || method["rate"].end_with?("live")
    end
  end

  # What goes wrong, and what it is taken for; the quote is right all the same. Ireland's ladder: silent and unusable have
  # a price of the merchant's own, 16.90 with nothing on top.
  TROUBLES = { "down" => "silent", "html" => "unusable", "negative" => "unusable", "currency" => "unusable", "huge" => "unusable", "redirect" => "unusable",
               "half" => "unusable", "empty" => "refused", "wrong" => "unusable", "refusing" => "refused" }.freeze

  def test_every_kind_of_trouble
    well = live
    assert_equal %w[11.33 10.53], well.values_at("price", "cost")
    TROUBLES.each do |mode, kind|
      Tariffs::CARRIERS.each_key { |carrier| @carriers.modes[carrier] = mode }
      Stoplight.default_data_store = Stoplight::DataStore::Memory.new
      found = live
      told = found["reckoning"].map { |step| step["code"] }.grep(/live\.(silent|refused|unusable)/)
      assert_includes told, "live.#{kind}", mode
      refute_includes found["reckoning"].map { |step| step["code"] }, "live.answer", mode
      assert_equal [kind == "refused" ? nil : "16.90"], [found["price"]], mode
    end
    # One carrier in trouble: the others go on.
    @carriers.modes.clear
    @carriers.modes["petrel"] = "half"
    found = live
    assert_equal ["Fulmar Freight By road", "available"], [found["reckoning"].find do |step|
      step["code"] == "live.chosen"
    end["numbers"]["service"], found["status"]]
  end

  # The prices of the stand-ins by hand: Petrel, near, 1.68 kg of shackles and 0.18 kg of carton, two started kilograms:
  # 9.80 + 1.90, ten percent off by agreement.
  def test_answers_are_kept_for_a_moment_and_calls_are_told
    assert_equal "10.53", live["cost"]
    before = Server::Carriers::Calls.list.size
    answer = api(:post, "/api/bench", { cart: IRELAND, live: true })
    assert_equal before, Server::Carriers::Calls.list.size, "the same question is not asked twice"
    assert_equal "11.33", answer["quote"]["methods"].find { |method| method["rate"] == "ie-live" }["price"]
    waiting = api(:post, "/api/bench", { cart: IRELAND })["quote"]["methods"].find { |method| method["rate"] == "ie-live" }
    assert_equal %w[incomplete live_waiting], [waiting["status"], waiting["causes"].first["code"]]
    state = api(:get, "/api/carriers/state")
    assert_equal %w[IE answered], state["calls"].first.values_at("to", "outcome")
    near = IRELAND.merge("destination" => { "country" => "GB", "postcode" => "IV29 9ZZ" })
    live(near)
    assert_equal "GB IV…", api(:get, "/api/carriers/state")["calls"].first["to"]
  end

  def test_a_carrier_that_fails_is_left_alone_and_comes_back
    @carriers.modes["gannet"] = "down"
    4.times { live }
    assert_equal ["gannet"], api(:get, "/api/carriers/state")["resting"]
    calls = Server::Carriers::Calls.list.select { |call| call[:carrier] == "gannet" }
    assert_match(/left alone/, calls.first[:said])
    assert_equal "11.33", live["price"]
    @carriers.modes["petrel"] = "huge"
    5.times { live }
    assert_equal ["gannet"], api(:get, "/api/carriers/state")["resting"], "nonsense is an answer"
  end

  def test_nobody_waits_longer_than_the_deadline
    @carriers.delays["fulmar"] = 4.0
    @carriers.modes["gannet"] = "dripping"
    port = Server::Carriers::Port.new(1.5)
    _, book = Server::App.settings.shelf.current
    cart = GateMile::Cart.parse(IRELAND, book.currency)
    found = book.quote(cart, at: Time.now, carriers: port).method_quotes.find { |method| method.rate == "ie-live" }
    assert_equal "11.33", found.price.to_s
    late = found.reckoning.select { |step| step.code == :"live.silent" }.map(&:numbers)
    assert_equal ["Gannet Express By air", "Fulmar Freight By road"], late.pluck(:service)
    assert late.pluck(:said).all?(/in time|within/)
  end

  # All that one request of the application asks is under one deadline, and asked once, failures too.
  def test_one_deadline_for_quote_and_board
    Tariffs::CARRIERS.each_key { |carrier| @carriers.delays[carrier] = 0.6 }
    _, book = Server::App.settings.shelf.current
    cart = GateMile::Cart.parse(IRELAND, book.currency)
    port = Server::Carriers::Port.new(0.2)
    found = [book.quote(cart, at: Time.now, carriers: port).method_quotes, book.board(cart, at: Time.now, carriers: port).fetch("ireland")]
    assert_equal([["16.90"]] * 2, found.map { |methods| methods.select { |method| method.rate == "ie-live" }.map { |method| method.price.to_s } })
    assert_equal %w[fulmar gannet petrel], Server::Carriers::Calls.list.pluck(:carrier).sort
    # What comes up when the time is used up is not asked, and no carrier is to blame for it.
    @carriers.delays.merge!("petrel" => 0.1, "fulmar" => 0.1)
    port = Server::Carriers::Port.new(0.3)
    5.times do |at|
      other = GateMile::Cart.parse(IRELAND.merge("lines" => [{ "sku" => "SHK-GAL-10", "quantity" => 10 + at }]), book.currency)
      book.quote(other, at: Time.now, carriers: port)
    end
    sleep 0.3
    assert_empty api(:get, "/api/carriers/state")["resting"]
  end

  # The merchant's own prices are there while carriers are still being asked.
  def test_own_prices_do_not_wait
    Tariffs::CARRIERS.each_key { |carrier| @carriers.delays[carrier] = 1.5 }
    ask = lambda { |body|
      session = another_session
      JSON.parse(session.post("/api/bench", JSON.generate({ cart: IRELAND, **body }), "CONTENT_TYPE" => "application/json").body)["quote"]["methods"]
    }
    ask.call({})
    asking = Thread.new { ask.call(live: true) }
    sleep 0.2
    own = ask.call({})
    assert asking.alive?
    live = asking.value
    assert_equal "11.33", live.find { |method| method["rate"] == "ie-live" }["price"]
    prices = ->(methods) { methods.reject { |method| method["rate"] == "ie-live" }.to_h { |method| method.values_at("rate", "price") } }
    assert_equal prices.call(live), prices.call(own)
  end

  # Secrets are encrypted in the database, and in no answer, book or history; the keys are readable by their owner alone.
  def test_secrets_stay_secret
    made = api(:post, "/api/carriers", { name: "Tern", address: "http://127.0.0.1:1/tern/", account: "A", secret: "sesame street" })
    assert_equal [true, "http://127.0.0.1:1/tern"], made.values_at("has_secret", "address")
    rows = ActiveRecord::Base.connection
    stored = rows.select_value("SELECT secret FROM carriers WHERE id = #{rows.quote(made["id"])}")
    history = rows.select_values("SELECT entries FROM changes").join
    [stored, history, JSON.generate(setup_now), JSON.generate(Server::BookDocument.read)].each { |text| refute_includes text, "sesame" }
    assert_equal "sesame street", Server::Records::Carrier.find(made["id"]).secret
    assert_equal 0o600, File.stat(Server::Keys.file).mode & 0o777
    assert_equal({ "ok" => false, "said" => "No connection", "services" => [], "new" => 0 }, api(:post, "/api/carriers/#{made["id"]}/test", {}))
    changed = api(:patch, "/api/carriers/#{made["id"]}", { lock_version: 0, address: "#{CarriersSupport.boot.last}/petrel" })
    tested = api(:post, "/api/carriers/#{made["id"]}/test", {})
    assert_equal [true, 2], tested.values_at("ok", "new")
    { "down" => "It answers with 503", "refusing" => "not today", "html" => "It is not JSON" }.each do |mode, said|
      @carriers.modes["petrel"] = mode
      assert_equal [false, said], api(:post, "/api/carriers/#{made["id"]}/test", {}).values_at("ok", "said")
    end
    api(:put, "/api/carriers/order", { ids: setup_now["carriers"].map { |one| one["id"] }.reverse })
    api(:delete, "/api/carriers/#{made["id"]}?lock_version=#{find("carriers", made["id"])["lock_version"]}")
    assert_equal 1, changed["lock_version"]
    gone = find("carriers", "petrel")
    api(:delete, "/api/carriers/petrel?lock_version=#{gone["lock_version"]}")
    refute_includes JSON.generate(setup_now["rates"]), "petrel"
    unknown = { services: [{ carrier: "nobody", service: "X" }] }
    refused = api(:patch, "/api/rates/ie-live", { lock_version: find("rates", "ie-live")["lock_version"], live: unknown })
    assert_equal [422, ["/live/services/0/carrier"]], [refused["status"], pointers(refused)]
  end

  # A short one of perf/soak.rb.
  def test_two_hundred_quotes_in_all_kinds_of_trouble
    soak = Soak.new(Random.new(7), deadline: 0.15)
    soak.run(200)
    assert_equal [200, 0, []], [soak.asked, soak.lost, soak.wrong]
    assert_operator soak.outcomes[:"live.chosen"], :>, 50
    assert_operator soak.outcomes.size, :>, 2
  end

  # The Universal Postal Union's limit for parcels is 3 m for the sum of the length and the greatest circumference (Parcel
  # Post Regulations; from memory), and Petrel's: 1500 mm and twice 750 mm are exactly that.
  def test_limits_on_length_and_girth
    asked = lambda { |*sides|
      parcel = { "grams" => 5000, "millimetres" => sides, "count" => 1 }
      Tariffs.quote("petrel", { "services" => ["PARCEL-48"], "destination" => { "country" => "GB" }, "parcels" => [parcel] }, nil).first["status"]
    }
    assert_equal(%w[ok refused refused], [[1500, 375, 375], [1500, 376, 375], [1501, 100, 100]].map { |sides| asked.call(*sides) })
  end

  # What the audit says of live rates, once carriers have answered.
  def test_findings_about_live_rates
    live
    found = api(:get, "/api/findings")["findings"].select { |finding| finding["code"].start_with?("live_") || finding["code"] == "no_box_for" }
    codes = found.map { |finding| [finding["code"], finding.dig("setting", "id")] }
    assert_includes codes, %w[live_no_fallback na-live]
    assert_includes codes, %w[live_unmeasured ie-live]
    assert_includes codes, %w[no_box_for large]
    refute_includes codes, %w[live_no_fallback ie-live]
    _, book = Server::App.settings.shelf.current
    buoys = lambda { |sku, quantity = 1|
      book.quote(GateMile::Cart.parse({ "lines" => [{ "sku" => sku, "quantity" => quantity }], "destination" => { "country" => "IE" } }, book.currency),
                 at: Time.now, carriers: Server::Carriers::Port.new)
    }
    4.times { |at| buoys.call("SHK-GAL-12", at + 1) }
    buoys.call("OAR-240")
    told = GateMile::LiveFindings.new(book, Server::Carriers::Port.kept).list.group_by(&:code)
    assert_includes told[:live_never_wins].first.numbers[:names], "Gannet Express By air"
    book = book.with(rates: book.rates.map do |rate|
      if rate.id == "ie-tracked"
        rate.with(plan: GateMile::Documents.parse(GateMile::Plan, { "schedule" => { "kind" => "flat", "amount" => "2.00" } },
                                                  book.currency))
      else
        rate
      end
    end)
    loss = GateMile::LiveFindings.new(book, Server::Carriers::Port.kept).list.find { |one| one.code == :live_loss }
    # The oars' fee of 3.50 comes on top.
    assert_equal ["ie-tracked", "5.50", true], [loss.setting[:id], loss.numbers[:price].to_s, loss.numbers[:cost].minor > 550]
    surveyed(book)
  end

  # A survey asks about single goods, a few questions at a time; what the audit makes of it is what quotes of the same
  # goods say, one by one, at the same address.
  def surveyed(book)
    Server::Carriers::Port.clear
    survey = GateMile::LiveSurvey.new(book)
    step = { "asked" => 0, "of" => 1 }
    step = api(:post, "/api/carriers/survey", { from: step["asked"] }) while step["asked"] < step["of"]
    assert_equal [survey.requests.size, 0], step.values_at("of", "failed")
    place = survey.place(book.rates.find { |rate| rate.id == "ie-live" })
    quotes = GateMile::Alone.sample(book, GateMile::LiveSurvey::MOST).to_h do |article|
      cart = GateMile::Cart.parse({ "lines" => [{ "sku" => article.sku, "quantity" => 1 }], "destination" => GateMile::Documents.write(place) }, book.currency)
      [article, book.quote(cart, at: Time.now, carriers: Server::Carriers::Port.new).method_quotes.to_h { |method| [method.rate, method] }]
    end
    lost = quotes.select { |_, by| by["ie-live"].cost && by["ie-tracked"].price&.minor&.positive? && by["ie-tracked"].price < by["ie-live"].cost }
    none = quotes.select do |_, by|
      codes = by["ie-live"].reckoning.map(&:code)
      codes.include?(:"live.refused") && !codes.intersect?(%i[live.answer live.silent live.unusable])
    end
    found = GateMile::LiveFindings.new(book, Server::Carriers::Port.kept).list
    assert_equal lost.size, found.find { |one| one.code == :live_loss && one.setting[:id] == "ie-tracked" }.numbers[:count]
    assert_equal none.size, found.find { |one| one.code == :live_all_refuse && one.setting[:id] == "ie-live" }&.numbers.to_h.fetch(:count, 0)
    assert_operator lost.size, :>, 5
    %w[ie-live hi-live].each { |id| never_winning(survey, book, found, id) }
  end

  def never_winning(survey, book, found, id)
    place = survey.place(book.rates.find { |rate| rate.id == id })
    steps = survey.cases.select { |one| one.rate.id == id }.flat_map do |one|
      cart = GateMile::Cart.parse({ "lines" => [{ "sku" => one.article.sku, "quantity" => 1 }], "destination" => GateMile::Documents.write(place) },
                                  book.currency)
      book.quote(cart, at: Time.now, carriers: Server::Carriers::Port.new).method_quotes.find { |method| method.rate == id }.reckoning
    end
    named = ->(code) { steps.select { |step| step.code == code }.map { |step| step.numbers[:service] }.uniq }
    never = named.call(:"live.answer") - named.call(:"live.chosen")
    told = found.find { |one| one.code == :live_never_wins && one.setting[:id] == id }
    assert_equal never, told ? told.numbers[:names] : [], id
  end
end
