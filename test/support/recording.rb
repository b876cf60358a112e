# frozen_string_literal: true

require "csv"
require "digest"
require "json"

# How many cases there are of each kind: more than 5,000 together.
COUNTS = { plans: 1700, goods: 900, policies: 1500, live: 700, boxed: 300, places: 500, demo: 300 }.freeze

# Books and carts of every kind, the same at every run: each is a document of a book, one of a cart, a moment, and what
# of the answers to look at beside quote and board.
module RecordedCases
  ROOT = File.expand_path("../..", __dir__)

  def every(number, *parts) = (number % 5).zero? ? parts : []

  def plans(random, number)
    tool = @tools[:PlansSupport]
    taxes = [{ "id" => "s", "name" => "Standard", "rate" => "20" }, { "id" => "z", "name" => "Zero", "rate" => "0" }]
    store = tool.class::STORE.merge("tax_classes" => taxes, "prices_include_tax" => random.rand(2).zero?,
                                    "parcels" => tool.send(:pick, random, PlansSupport::POLICIES)).compact
    rates = Array.new(random.rand(1..2)) do |at|
      { "id" => "r#{at}", "zone" => "uk", "method" => %w[m n][at], "plan" => tool.plan(random),
        "cost" => random.rand(4).zero? ? tool.plan(random) : nil }.compact
    end
    document = tool.document(store: store, products: tool.goods(random), rates: rates, treatments: [],
                             classes: PlansSupport::CLASSES.map { |id| { "id" => id, "name" => id } })
    lines = Array.new(random.rand(1..4)) do |at|
      tool.line("P#{at}", random.rand(1..6), discount: tool.send(:pick, random, ["0", "0", "1.00", "999"]))
    end
    more = random.rand(3).zero? ? { "order_discount" => "3.33" } : {}
    [document, { "lines" => lines, "destination" => tool.to("GB"), **more }, CoreSupport::AT,
     [:book, *every(number, :findings, :lines, :gates, :table)]]
  end

  def goods(random, number)
    tool = @tools[:GoodsSupport]
    document = tool.goods_document(random)
    skus = document["products"].flat_map { |item| [item, *item["variants"]].map { |one| one["sku"] } }
    [document, tool.goods_cart(random, skus + ["GONE"]), CoreSupport::AT,
     [:book, *every(number, :findings, :lines, :gates, :table)]]
  end

  def policies(random, number)
    tool = @tools[:PoliciesSupport]
    many = (number % 3).zero? ? 12 : 4
    document = tool.shop(random, offers: many, rules: many)
    document["store"] = document["store"].merge("tax_classes" => [{ "id" => "s", "name" => "S", "rate" => "17.5" }]) if random.rand(3).zero?
    cart = tool.random_cart(random)
    cart["billing"] = { "country" => "FR", "postcode" => "75001" } if random.rand(4).zero?
    cart["destination"] = {} if random.rand(12).zero?
    at = [Time.utc(2026, 5, 31, 23, 30), Time.utc(2026, 6, 1, 10), Time.utc(2026, 6, 6, 22, 15)].sample(random: random)
    [document, cart, at, [:book, *every(number, :findings, :lines, :gates, :margins)]]
  end

  SERVICES = [%w[p S], %w[p Q], %w[g E]].freeze
  CARRIERS = [{ "id" => "p", "name" => "Petrel Post", "services" => [{ "code" => "S", "name" => "Slow" }, { "code" => "Q", "name" => "Quick" }] },
              { "id" => "g", "name" => "Gannet", "active" => true, "services" => [{ "code" => "E", "name" => "Express" }] }].freeze

  def live(random, number)
    tool = @tools[:PlansSupport]
    fallback = -> { [{ "kind" => "none" }, { "kind" => "amount", "amount" => "9.00" }, { "kind" => "plan" }].sample(random: random) }
    live = { "services" => SERVICES.sample(random.rand(1..3), random: random).map { |carrier, service| { "carrier" => carrier, "service" => service } },
             "answer" => %w[cheapest fastest first].sample(random: random), "own" => random.rand(4).zero? ? "instead" : "fallback",
             "handling" => { "percent" => %w[-100 -12.5 10 0].sample(random: random), "fixed" => %w[-1.00 0 0.35].sample(random: random),
                             "per" => %w[order unit parcel].sample(random: random) },
             "promise" => %w[carrier merchant].sample(random: random),
             "ladder" => { "silent" => fallback.call, "refused" => fallback.call, "unusable" => fallback.call } }
    rate = { "id" => "r", "zone" => "uk", "method" => "m", "plan" => tool.plan(random), "live" => live }
    store = CoreSupport::STORE.merge("ship_from" => random.rand(12).zero? ? nil : { "country" => "GB", "postcode" => "TR29 4ZZ" },
                                     "parcels" => tool.send(:pick, random, PlansSupport::POLICIES),
                                     "holidays" => ["2026-06-02"]).compact
    delivery = { "least" => 1, "most" => 3, "cutoff" => "11:30", "hide" => random.rand(3).zero? }
    methods = [{ "id" => "m", "code" => "M", "name" => "Live", "delivery" => (delivery if random.rand(2).zero?) }.compact,
               { "id" => "n", "code" => "N", "name" => "Own" }]
    carriers = random.rand(8).zero? ? [CARRIERS[0], CARRIERS[1].merge("active" => false)] : CARRIERS
    paying = { "id" => "o", "name" => "O", "effect" => { "kind" => "percent", "percent" => "50" }, "paying" => { "skus" => ["P0"] } }
    other = { "id" => "s", "zone" => "uk", "method" => "n", "plan" => tool.plan(random) }
    document = tool.document(store: store, products: tool.goods(random), rates: [rate, other],
                             methods: methods, carriers: carriers, offers: random.rand(3).zero? ? [paying] : [],
                             classes: PlansSupport::CLASSES.map { |id| { "id" => id, "name" => id } })
    cart = { "lines" => Array.new(random.rand(1..3)) { |at| tool.line("P#{at}", random.rand(1..4)) },
             "destination" => random.rand(9).zero? ? {} : tool.to("GB").merge("postcode" => "TR29 4ZZ") }
    [document, cart, Time.utc(2026, 6, 1, random.rand(8..13)), [:book, :carriers, *every(number, :findings, :gates)]]
  end

  def sides(random, most) = %w[length width height].to_h { |side| [side, "#{random.rand(4..most)} cm"] }

  def boxed(random, number)
    tool = @tools[:PlansSupport]
    boxes = Array.new(random.rand(1..4)) do |at|
      { "id" => "b#{at}", "name" => "B#{at}", "size" => sides(random, 60), "tare" => [nil, "0.2 kg"].sample(random: random),
        "padding" => [nil, "0.5 cm"].sample(random: random), "up_to" => [nil, "8 kg", "20 lb"].sample(random: random),
        "cost" => [nil, "0.40", "1.10"].sample(random: random) }.compact
    end
    parcels = { "kind" => "boxes", "divisor" => [nil, "5000"].sample(random: random), "unit_weight" => [nil, "1 kg"].sample(random: random),
                "unit_size" => ({ "length" => "9 cm", "width" => "8 cm", "height" => "7 cm" } if random.rand(2).zero?) }.compact
    products = Array.new(5) do |at|
      { "sku" => "P#{at}", "name" => "P#{at}", "price" => "#{random.rand(1..30)}.#{random.rand(10..99)}",
        "weight" => random.rand(8).zero? ? nil : "#{random.rand(1..4000)} g", "size" => random.rand(8).zero? ? nil : sides(random, 30),
        "packing" => %w[any any upright carton].sample(random: random), "class" => ["c", nil].sample(random: random) }.compact
    end
    plan = tool.plan(random)
    plan = plan.except("parcels").merge(plan["group"] == "cart" ? { "group" => "parcel" } : {})
    document = tool.document(store: CoreSupport::STORE.merge("boxes" => boxes, "parcels" => parcels), products: products,
                             classes: PlansSupport::CLASSES.map { |id| { "id" => id, "name" => id } },
                             rates: [{ "id" => "r", "zone" => "uk", "method" => "m", "plan" => plan }])
    lines = Array.new(random.rand(1..4)) { |at| tool.line("P#{at}", random.rand(1..9)) }
    [document, { "lines" => lines, "destination" => tool.to("GB") }, CoreSupport::AT, every(number, :findings, :gates)]
  end

  CLAUSES = ["IV", "IV1", "PA20 to PA49", "BT", "PA2 0", "TR21 to TR25", "HS", "ZE", "KA2#", "IM", "JE"].freeze
  CODES = ["TR29 4ZZ", "IV1 1AA", "IV", "PA21", "PA2 0AB", "BT9 SAA", "ZE1", "IM1 1AA", "JE2", "", "KA27 8AA", "TR21 0AA", "XX", "75001", "3501", "03501",
           "90210", "902", "28001", "35001"].freeze
  REGIONS = { "US" => %w[CA AK HI NY], "ES" => %w[CN TF M MD], "GB" => %w[NIR SCT ENG] }.freeze

  def area(random)
    case random.rand(7)
    when 0 then { "kind" => "world" }
    when 1 then { "kind" => "country", "country" => %w[GB US FR ES].sample(random: random) }
    when 2 then { "kind" => "country", "country" => "US", "only" => [%w[9 902 100 3].sample(random: random), "33101 to 33199"] }
    when 3 then REGIONS.keys.sample(random: random).then do |code|
      { "kind" => "regions", "country" => code, "regions" => REGIONS[code].sample(2, random: random) }
    end
    else { "kind" => "country", "country" => "GB", %w[only except].sample(random: random) => CLAUSES.sample(random.rand(1..4), random: random) }
    end
  end

  def places(random, number)
    tool = @tools[:PlansSupport]
    zones = Array.new(random.rand(1..5)) do |at|
      { "id" => "z#{at}", "name" => "Z#{at}", "active" => random.rand(8).positive?, "areas" => Array.new(random.rand(1..3)) { area(random) } }
    end
    zones[0]["duty"] = { "percent" => "7.5", "below" => "5.00", "carriage" => random.rand(2).zero?, "included" => random.rand(2).zero? } if random.rand(2).zero?
    rates = zones.map do |zone|
      narrowed = random.rand(4).zero? ? { "areas" => [area(random).except("except")] } : {}
      { "id" => "r-#{zone["id"]}", "zone" => zone["id"], "method" => "m", "plan" => tool.flat("3.00"), **narrowed }
    end
    sets = { "areas" => [{ "name" => "One", "areas" => [area(random)] }, { "name" => "Two", "areas" => [area(random)] }] }
    grid = { "kind" => "grid", "rows" => { "measure" => "quantity", "at" => %w[0 5] }, "columns" => sets, "cells" => [["1.00", "none"], [nil, "0"]] }
    rates << { "id" => "g", "zone" => "z0", "method" => "n", "plan" => { "schedule" => grid } }
    document = tool.document(zones: zones, rates: rates)
    country = %w[GB GB GB US FR ES].sample(random: random)
    to = { "country" => country, "postcode" => CODES.sample(random: random), "region" => REGIONS.fetch(country, []).sample(random: random),
           "lines" => random.rand(3).zero? ? ["PO Box 4"] : [] }.compact
    to = {} if random.rand(15).zero?
    [document, { "lines" => [tool.line("A", random.rand(1..9))], "destination" => to }, CoreSupport::AT, [:book, *every(number, :findings)]]
  end

  def demo_document
    @demo_document ||= begin
      document = JSON.parse(File.read(File.join(ROOT, "demo/book.json")))
      rows = CSV.read(File.join(ROOT, "demo/products.csv"), headers: true, encoding: "UTF-8").map(&:to_h)
      classes = document["classes"].to_h { |item| [item["name"].downcase, item["id"]] }
      document.merge("products" => demo_products(rows, classes))
    end
  end

  def demo_products(rows, classes)
    rows.select { |row| row["sku"] && row["price"] }.map do |row|
      size = %w[length width height].to_h { |side| [side, row[side]] }
      { "sku" => row["sku"], "name" => row["name"], "price" => row["price"], "weight" => row["weight"], "cost" => row["cost"],
        "class" => classes[row["class"].to_s.downcase], "size" => (size if size.values.all?),
        "tags" => row["tags"].to_s.split(/[;,]/).map(&:strip).reject(&:empty?) }.compact.reject { |_, value| [[], ""].include?(value) }
    end
  end

  TO = [{ "country" => "GB", "postcode" => "TR29 4ZZ" }, { "country" => "GB", "postcode" => "IV40 8AA" }, { "country" => "GB", "postcode" => "BT1 1AA" },
        { "country" => "IM", "postcode" => "IM1 1AA" }, { "country" => "IE" }, { "country" => "FR", "postcode" => "29200" },
        { "country" => "US", "region" => "ME" },
        { "country" => "GB" }, {}, { "country" => "JP" }].freeze

  def demo(random, number)
    @demo_book ||= GateMile::Book.compile(demo_document)
    skus = demo_document["products"].map { |item| item["sku"] }
    cart = { "lines" => skus.sample(random.rand(1..8), random: random).map { |sku| { "sku" => sku, "quantity" => random.rand(1..12) } },
             "destination" => TO.sample(random: random), "group" => [nil, nil, "Trade", "Crew"].sample(random: random),
             "coupons" => random.rand(4).zero? ? @demo_book.policies.coupons.map(&:code) : [] }.compact
    parts = []
    parts << :findings << :table << :book if number.zero?
    parts << :lines << :gates << :margins if (number % 30) == 1
    [@demo_book, cart, Time.utc(2026, 11, 20 + (number % 9), 9 + (number % 8)), [:carriers, *parts]]
  end
end

# Answers every case by the core of one checkout, which is loaded before the generators are.
class Recording
  include RecordedCases

  # Carriers that answer by what they are asked, always the same, and not always well.
  class Port
    def answers(requests) = requests.to_h { |request| [request, reply(request)] }

    private

    # The question as a carrier reads it, by either checkout.
    def asked(request)
      request.respond_to?(:dump) ? request.dump : GateMile::Documents.write(request)
    end

    def reply(request)
      seed = Digest::SHA256.hexdigest(JSON.generate([request.carrier, asked(request)])).to_i(16)
      random = Random.new(seed % (2**32))
      return GateMile::Reply.failed(%i[silent refused unusable fault].sample(random: random), "told") if random.rand(6).zero?

      services = request.services.to_h { |code| [code, service(request, random)] }
      GateMile::Reply.new(status: :answered, services: services, age: 3)
    end

    def service(request, random)
      return GateMile::ServiceAnswer.new(status: %i[refused unusable].sample(random: random), said: "no") if random.rand(5).zero?

      prices = request.parcels.map do |parcel|
        GateMile::Money.new(((parcel.grams / 7) + random.rand(900)) * parcel.count, request.currency)
      end
      days = random.rand(3).zero? ? nil : [1, 1 + random.rand(4)]
      GateMile::ServiceAnswer.new(status: :ok, prices: prices, days: days)
    end
  end

  def initialize(core)
    $LOAD_PATH.unshift(core)
    require "gate_mile"
    require File.join(ROOT, "test/support/plans")
    require File.join(ROOT, "test/support/policies")
    require File.join(ROOT, "test/support/goods")
    @tools = %i[PlansSupport PoliciesSupport GoodsSupport].to_h do |name|
      [name, Class.new { include Object.const_get(name) }.new]
    end
  end

  # @return [void] prints one line of JSON for each case: kind, number, and the answer
  def print_all
    COUNTS.each do |kind, count|
      random = Random.new(kind.to_s.sum)
      count.times do |number|
        document, cart, at, more = send(kind, random, number)
        puts JSON.generate([kind, number, answer(document, cart, at, more)])
      end
    end
  end

  private

  def answer(document, cart, at, more)
    book = document.is_a?(GateMile::Book) ? document : GateMile::Book.compile(document)
    sent = GateMile::Cart.parse(cart, book.currency)
    port = Port.new if more.include?(:carriers)
    found = { "quote" => book.quote(sent, at: at, carriers: port).dump,
              "board" => book.board(sent, at: at, carriers: port).transform_values { |list| list.map(&:dump) } }
    more.each { |part| found[part.to_s] = send(:"the_#{part}", book, sent, at) }
    found["book"] = book.dump if more.include?(:book)
    found
  rescue GateMile::Invalid => e
    e.problems.map { |problem| [problem.pointer, problem.code, problem.numbers.to_s] }
  end

  def the_book(book, _sent, _at) = book.dump
  def the_carriers(book, sent, at) = book.quote(sent, at: at).dump

  def the_findings(book, _sent, at)
    list = book.respond_to?(:findings) ? book.findings(at: at) : GateMile::Audit.findings(book, at: at)
    list.map(&:dump)
  end

  def the_lines(book, sent, at)
    most = { "value" => 4000, "weight" => GateMile::Weight.parse("9 kg").base, "quantity" => 30 }
    most.to_h do |measure, last|
      drawn = GateMile::PriceLines.new(book, sent, measure, last, at: at).of
      [measure, drawn.transform_values { |pieces| pieces.map { |piece| piece(piece, measure) } }]
    end
  end

  def piece(piece, measure)
    places = [piece.from, piece.to].map { |at| measure == "weight" ? GateMile::Weight.new(at, "g").to_s : at }
    [*places, piece.from_in, piece.to_in, piece.price.to_s, piece.last.to_s, piece.status, piece.causes]
  end

  def the_gates(book, sent, at)
    GateMile::NextGates.new(book, sent, at: at).list.map { |gate| [gate.rate, gate.line, gate.by, gate.price.to_s] }
  end

  def the_margins(book, sent, at)
    book.offers.map do |offer|
      margins = GateMile::Margins.new(book, sent, offer, at)
      [margins.unknown, margins.rows.map { |row| row.to_a.map(&:to_s) }]
    end
  end

  def the_table(book, _sent, _at)
    GateMile::ClassTable.new(book).rows.map do |row|
      [row.rate, row.prices.map { |group, prices| [group, prices.map(&:to_s)] }]
    end
  end
end
