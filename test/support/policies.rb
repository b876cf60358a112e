# frozen_string_literal: true

require_relative "core"

# Random offers, rules and carts, and a plain, slow second reading of sections 5 and 6 of docs/engine.md. It reads the
# documents themselves, tries every way in which offers can go together, and takes what a method costs without offers
# and rules from the book without them.
module PoliciesSupport
  include CoreSupport

  GOODS = { "S" => ["4.99", "0.3 kg", "c", []], "H" => ["40.00", "9 kg", "d", ["big"]], "Z" => ["7.00", "1 kg", nil, []],
            "F" => ["12.00", "0.2 kg", "c", ["gift"]] }.freeze
  MOMENTS = %w[2026-05-01T00:00 2026-06-01T11:00 2026-06-01T11:01 2026-07-01T00:00].freeze

  STEPS = [{ "at" => "0 kg", "none" => true }, { "at" => "0.5 kg", "amount" => "4.50" }, { "at" => "2 kg", "amount" => "7.33" },
           { "at" => "30 kg", "none" => true }].freeze
  EFFECTS = [{ "kind" => "free" }, { "kind" => "fixed", "amount" => "1.99" }, { "kind" => "off", "amount" => "3.00" },
             { "kind" => "percent", "percent" => "12.5" }].freeze
  ACTIONS = [{ "kind" => "hide", "methods" => ["m"] }, { "kind" => "only", "methods" => ["n"] }, { "kind" => "rename", "text" => "Renamed" },
             { "kind" => "price", "amount" => "3.00", "methods" => ["n"] }, { "kind" => "add", "amount" => "1.11" }, { "kind" => "add", "percent" => "7.5" },
             { "kind" => "off", "percent" => "33" }, { "kind" => "off", "amount" => "2.00", "methods" => ["m"] }, { "kind" => "floor", "amount" => "2.00" },
             { "kind" => "cap", "amount" => "5.00" }, { "kind" => "message", "text" => "Hello" }].freeze

  def pick(random, list) = list.sample(random: random)
  def maybe(random, odds = 3) = random.rand(odds).zero? ? yield : nil

  def shop(random, offers: 4, rules: 4)
    document(
      store: STORE.merge({ "basis" => maybe(random, 3) { { "discounts" => "before" } } }.compact),
      products: GOODS.map do |sku, (price, weight, group, tags)|
        { "sku" => sku, "name" => sku, "price" => price, "weight" => weight, "class" => group, "tags" => tags, "hazardous" => sku == "Z",
          "treatments" => (["t"] if sku == "F") }.compact
      end,
      classes: [{ "id" => "c", "name" => "Small" }, { "id" => "d", "name" => "Heavy" }],
      treatments: [{ "id" => "t", "name" => "Own", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "1.30" } },
                     "methods" => maybe(random) { ["m"] } }.compact],
      groups: [{ "id" => "trade", "name" => "Trade" }, { "id" => "crew", "name" => "Crew" }],
      coupons: [{ "id" => "k", "code" => "KEEL" }],
      rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m",
                "plan" => { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => STEPS } } },
              { "id" => "uk-n", "zone" => "uk", "method" => "n", "plan" => { "group" => "unit", "schedule" => { "kind" => "flat", "amount" => "2.15" } } }],
      offers: Array.new(random.rand(0..offers)) { |at| offer(random, "o#{at}") },
      rules: Array.new(random.rand(0..rules)) do |at|
        { "id" => "r#{at}", "name" => "r#{at}", "when" => tree(random, 1), "then" => Array.new(random.rand(1..2)) do
          action(random)
        end }
      end
    )
  end

  def offer(random, id)
    { "id" => id, "name" => id, "active" => random.rand(8).positive?, "label" => maybe(random) { "By #{id}" },
      "label_more" => maybe(random, 5) { "More by #{id}" },
      "threshold" => maybe(random, 2) { threshold(random) }, "methods" => maybe(random) { ["m"] }, "zones" => maybe(random, 5) { [pick(random, %w[uk all])] },
      "groups" => maybe(random) { pick(random, [{ "only" => ["trade"] }, { "except" => ["trade"] }]) }, "coupons" => maybe(random, 5) { ["k"] },
      "promotions" => maybe(random, 5) { pick(random, %w[with without]) }, "starts" => maybe(random, 4) { MOMENTS[random.rand(0..2)] },
      "ends" => maybe(random, 4) { MOMENTS[3] }, "first" => maybe(random, 5) { 3 }, "blocking" => maybe(random, 4) { goods(random) },
      "paying" => maybe(random, 3) { goods(random) }, "paying_count" => random.rand(3).positive?, "effect" => effect(random),
      "own_prices" => random.rand(3).zero?, "hides_paid" => random.rand(4).zero?, "combines" => random.rand(2).zero? }.compact
  end

  def goods(random) = pick(random, [{ "classes" => ["d"] }, { "tags" => ["GIFT"] }, { "skus" => ["s"] }, { "hazardous" => true }])

  def threshold(random)
    basis = maybe(random) do
      partial(random)
    end
    measured = pick(random, [%w[value 9.98 40.00], %w[value 40.00 85.00], ["weight", "1 kg", "10 kg"], %w[quantity 3 9]])
    { "measure" => measured[0], "from" => measured[1], "below" => maybe(random) { measured[2] }, "basis" => basis }.compact
  end

  # What it does not say is the store's.
  def partial(random)
    { "lines" => maybe(random, 2) { pick(random, %w[all shipping ordinary]) }, "discounts" => maybe(random, 2) { pick(random, %w[after before]) },
      "tax" => maybe(random, 2) { pick(random, %w[with without]) } }.compact
  end

  def effect(random)
    { **pick(random, EFFECTS),
      **(random.rand(4).zero? ? { "most" => "2.50" } : {}) }
  end

  def tree(random, depth)
    { pick(random, %w[all any none]) => Array.new(random.rand(0..3)) { depth < 4 && random.rand(4).zero? ? tree(random, depth + 1) : condition(random) } }
  end

  def condition(random)
    case random.rand(9)
    when 0 then { "fact" => "value", pick(random, %w[from over]) => "9.98", **(random.rand(2).zero? ? { "below" => "52.00" } : {}),
                  **{ "basis" => maybe(random, 2) { partial(random) } }.compact }
    when 1 then { "fact" => "weight", pick(random, %w[up_to below]) => "9.3 kg" }
    when 2 then { "fact" => "quantity", "from" => 2, "up_to" => 4 }
    when 3 then { "fact" => pick(random, %w[class]), "of" => pick(random, [%w[c], %w[d], %w[c d]]), "lines" => pick(random, %w[any every]) }
    when 4 then pick(random,
                     [{ "fact" => "tag", "of" => %w[Gift big] }, { "fact" => "product", "of" => %w[h] },
                      { "fact" => "hazard" }]).merge("lines" => pick(random, %w[any every]))
    when 5 then { "fact" => "group", "of" => pick(random, [["trade"], %w[trade crew]]) }
    when 6 then { "fact" => "coupon", "of" => ["k"] }
    when 7 then pick(random,
                     [{ "fact" => "weekday", "of" => [1, 6] }, { "fact" => "time", "from" => "22:00", "until" => "11:01" },
                      { "fact" => "date", "first" => "2026-06-01", "last" => "2026-06-01" }])
    else pick(random,
              [{ "fact" => "zone", "of" => ["uk"] }, { "fact" => "country", "of" => %w[FR GB] }, { "fact" => "po_box" },
               { "fact" => "postcode", "country" => "GB", "of" => ["IV", "PA20 to PA49"] }])
    end
  end

  def action(random) = pick(random, ACTIONS)

  def random_cart(random)
    { "lines" => GOODS.keys.sample(random.rand(1..3), random: random).map { |sku| random_line(random, sku) },
      "destination" => random_place(random), "group" => maybe(random, 2) { pick(random, ["trade ", "CREW", "nobody"]) },
      "coupons" => maybe(random) { ["keel"] }, "promotions" => maybe(random, 4) { ["Spring"] },
      "offer_uses" => maybe(random) { { "o0" => 3, "o1" => 2 } }, "order_discount" => maybe(random, 4) { "2.00" } }.compact
  end

  def random_line(random, sku)
    { "sku" => sku, "quantity" => random.rand(1..4), "discount" => maybe(random, 4) { "1.00" } }.compact
  end

  def random_place(random)
    { "country" => "GB", "postcode" => maybe(random, 2) { pick(random, %w[IV1 PA21 TR29]) },
      "lines" => maybe(random, 2) { [pick(random, ["PO Box 4", "1 Quay"])] } }.compact
  end

  # The second reading.
  class Slowly
    def initialize(document, cart, local)
      @document = document
      @cart = cart
      @local = local
      @bare = GateMile::Book.compile(document.merge("offers" => [], "rules" => []))
    end

    # @return [Hash] method => [price in minor units or nil, name]
    def prices
      found = @document["methods"].to_h { |method| [method["id"], price(method)] }
      hider = found.any? { |_, (price, _, acted)| price&.zero? && acted.any? { |offer| offer["hides_paid"] } }
      found.to_h { |id, (price, name)| [id, [hider && price&.positive? ? nil : price, name]] }
    end

    private

    def bare(lines) = @bare.quote(GateMile::Cart.parse(@cart.merge("lines" => lines), @bare.currency), at: Time.at(0))

    def lines = @cart["lines"]
    def apart?(line, id) = line["sku"] == "F" && (@document["treatments"].first["methods"] || [id]).include?(id)
    def whole(basis) = { "lines" => "shipping" }.merge(@document["store"]["basis"] || {}, basis || {})
    def good(line) = GOODS.fetch(line["sku"])

    def price(method)
      id = method["id"]
      ordinary = part(id, lines.reject { |line| apart?(line, id) })
      return [nil, method["name"], []] if ordinary.nil?

      own = lines.select { |line| apart?(line, id) }.sum { |line| 130 * line["quantity"] }
      price, acted = offers(id, ordinary, own)
      price, name, acted = rules(id, price, acted)
      [price, name || label(acted, price) || method["name"], acted]
    end

    # The last offer that has something to say at this price: a free one by its name only where nothing is left to pay.
    def label(acted, price)
      acted.filter_map do |offer|
        fits = { "free" => price&.zero?, "fixed" => price == pence(offer["effect"]["amount"] || "0") }.fetch(offer["effect"]["kind"], true)
        fits ? offer["label"] : offer["label_more"]
      end.last
    end

    def part(id, lines)
      return 0 if lines.empty?

      bare(lines).method_quotes.find { |found| found.method_id == id }.price&.minor
    end

    def offers(id, ordinary, own)
      open = @document["offers"].each_with_index.select { |offer, _| open?(offer, id) && reached?(offer, id) }
      sets = open.reject { |offer, _| offer["combines"] }.map { |pair| [pair] }
      together = open.select { |offer, _| offer["combines"] }
      sets << together if together.any?
      results = sets.map { |set| [*settle(set, id, ordinary, own), set.first.last] }
      best = results.min_by { |total, _, at| [total, at] } or return [ordinary + own, []]
      best.first(2)
    end

    def settle(set, id, ordinary, own)
      acted = []
      set.map(&:first).each do |offer|
        paying = lines.select { |line| !apart?(line, id) && offer["paying"] && of?(line, offer["paying"]) }
        share = paying.empty? ? 0 : part(id, paying)
        rest = [ordinary - share, 0].max
        gift = lines.any? { |line| apart?(line, id) && offer["paying"] && of?(line, offer["paying"]) }
        mine = offer["own_prices"] && !gift ? own : 0
        takes = takes(offer["effect"], rest + mine)
        acted << offer if takes.positive?
        from_rest = [takes, rest].min
        ordinary -= from_rest
        own -= takes - from_rest
      end
      [ordinary + own, acted]
    end

    def takes(effect, base)
      wish = case effect["kind"]
             when "free" then base
             when "fixed" then [base - pence(effect["amount"]), 0].max
             when "off" then [pence(effect["amount"]), base].min
             else (base * effect["percent"].to_r / 100).round(half: :up)
             end
      effect["most"] ? [wish, pence(effect["most"])].min : wish
    end

    def pence(text) = (text.to_r * 100).to_i

    def open?(offer, id)
      group = { "trade " => "trade", "CREW" => "crew" }[@cart["group"]]
      offer["active"] != false && (offer["methods"].nil? || offer["methods"].include?(id)) && (offer["zones"].nil? || offer["zones"].include?("uk")) &&
        (offer.dig("groups", "only").nil? || offer["groups"]["only"].include?(group)) && !(offer.dig("groups", "except") || []).include?(group) &&
        (offer["coupons"].nil? || @cart["coupons"]) && (offer["promotions"].nil? || (offer["promotions"] == "with") == !@cart["promotions"].nil?) &&
        (offer["starts"].nil? || offer["starts"] <= @local) && (offer["ends"].nil? || offer["ends"] > @local) &&
        (offer["first"].nil? || (@cart.dig("offer_uses", offer["id"]) || 0) < offer["first"]) && lines.none? do |line|
                                                                                                   offer["blocking"] && of?(line, offer["blocking"])
                                                                                                 end
    end

    def of?(line, goods)
      _, _, group, tags = good(line)
      goods["classes"].to_a.include?(group) || goods["tags"].to_a.any? { |tag| tags.include?(tag.downcase) } || goods["skus"].to_a.any? do |sku|
        sku.casecmp?(line["sku"])
      end ||
        (goods["hazardous"] == true && line["sku"] == "Z")
    end

    def reached?(offer, id)
      paying = lines.select { |line| !apart?(line, id) && offer["paying"] && of?(line, offer["paying"]) }
      return false if paying.any? && part(id, paying).nil?

      wanted = offer["threshold"] or return true
      basis = whole(wanted["basis"])
      counted = lines.reject do |line|
        (basis["lines"] == "ordinary" && apart?(line, id)) || (offer["paying_count"] == false && offer["paying"] && of?(line, offer["paying"]))
      end
      amount = measure(wanted["measure"], counted, basis)
      amount >= number(wanted["from"]) && (wanted["below"].nil? || amount < number(wanted["below"]))
    end

    def number(text) = text.to_s.to_r

    def measure(fact, counted, basis = {})
      case fact
      when "value" then values(basis).slice(*counted).values.sum/100r
      when "weight" then counted.sum { |line| good(line)[1].to_r * line["quantity"] }
      else counted.sum { |line| line["quantity"] }
      end
    end

    # Pence of each line; tax is none in this shop, so with it and without it are one.
    def values(basis)
      before = lines.to_h { |line| [line, pence(good(line)[0]) * line["quantity"]] }
      return before if basis["discounts"] == "before"

      after = before.to_h { |line, value| [line, value - pence(line["discount"] || "0")] }
      off = [pence(@cart["order_discount"] || "0"), after.values.sum].min
      exact = after.transform_values { |value| Rational(value * off, after.values.sum) }
      shares = exact.transform_values(&:floor)
      exact.sort_by.with_index { |(line, share), at| [shares[line] - share, at] }.first(off - shares.values.sum).to_h.each_key { |line| shares[line] += 1 }
      after.to_h { |line, value| [line, value - shares[line]] }
    end

    def rules(id, price, acted)
      hidden = name = nil
      @method = id
      @document["rules"].select { |rule| holds?(rule["when"]) }.flat_map { |rule| rule["then"] }.each do |action|
        named = action["methods"].nil? || action["methods"].include?(id)
        next hidden ||= !named if action["kind"] == "only"
        next unless named

        amount = action["percent"] ? (price * action["percent"].to_r / 100).round(half: :up) : pence(action["amount"] || "0")
        case action["kind"]
        when "hide" then hidden = true
        when "rename" then name = action["text"]
        when "price" then price = amount
        when "add" then price += amount
        when "off" then price = [price - amount, 0].max
        when "floor" then price = [price, amount].max
        when "cap" then price = [price, amount].min
        end
      end
      [hidden ? nil : price, name, acted]
    end

    def holds?(part)
      return part["all"].all? { |one| holds?(one) } if part["all"]
      return part["any"].any? { |one| holds?(one) } if part["any"]
      return part["none"].none? { |one| holds?(one) } if part["none"]

      condition?(part)
    end

    def condition?(part)
      to = @cart["destination"]
      case part["fact"]
      when "value", "weight", "quantity"
        basis = whole(part["basis"])
        counted = part["fact"] == "value" && basis["lines"] == "ordinary" ? lines.reject { |line| apart?(line, @method) } : lines
        between?(measure(part["fact"], counted, basis), part)
      when "class", "tag", "product", "hazard"
        goods = { "class" => "classes", "tag" => "tags", "product" => "skus" }[part["fact"]]
        lines.public_send("#{part["lines"] == "every" ? "all" : "any"}?") { |line| of?(line, goods ? { goods => part["of"] } : { "hazardous" => true }) }
      when "group" then part["of"].include?({ "trade " => "trade", "CREW" => "crew" }[@cart["group"]])
      when "coupon" then !@cart["coupons"].nil?
      when "weekday" then part["of"].include?(Date.parse(@local).cwday)
      when "time" then @local[11..] >= "22:00" || @local[11..] < "11:01"
      when "date" then @local[0, 10] == "2026-06-01"
      when "zone", "country" then true
      when "po_box" then to["lines"] == ["PO Box 4"]
      else %w[IV1 PA21].include?(to["postcode"])
      end
    end

    def between?(amount, part)
      (part["from"].nil? || amount >= number(part["from"])) && (part["over"].nil? || amount > number(part["over"])) &&
        (part["below"].nil? || amount < number(part["below"])) && (part["up_to"].nil? || amount <= number(part["up_to"]))
    end
  end
end
