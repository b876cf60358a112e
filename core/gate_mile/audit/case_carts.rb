# frozen_string_literal: true

module GateMile
  # Carts for which an audit asks what a zone offers: each kind of goods alone in small and in large quantity, pairs of
  # those that travel in different ways, goods for which a rule holds, hours at which a method is closed, measures at
  # which a rate ends; and of all these what could leave nothing together.
  class CaseCarts
    # A large quantity, pairs of goods, rules and groups of rules, hours that are looked at.
    MANY = 12
    PAIRS = 200
    RULES = 12
    HOURS = 8
    DAY = "2026-01-05"
    private_constant :MANY, :PAIRS, :RULES, :HOURS, :DAY

    # @param book [Book]
    # @param zone [Zone]
    # @param goods [CaseGoods]
    # @param samples [ZoneSamples]
    # @param situations [Situations]
    def initialize(book, zone, goods, samples, situations)
      @book = book
      @zone = zone
      @goods = goods
      @to = Documents.write(samples.of(zone))
      @rates = book.rates_of(zone).select { |rate| rate.active && book.shipping_method(rate.method_id).active }
      @situations = situations
    end

    # @return [Enumerator::Lazy<Array(Hash, String)>] documents with their moments, the smallest first
    def each
      [singles, ends, pairs, timed, ruled, together].lazy.flat_map(&:call)
    end

    private

    def cart(lines, **more) = { "lines" => lines, "destination" => @to, **more.transform_keys(&:to_s) }
    def line(article, quantity = 1) = { "sku" => article.sku, "quantity" => quantity }

    def plain
      @plain ||= { "name" => "Any goods", "quantity" => 1, "unit_price" => "10.00", "weight" => "0.5 kg",
                   "size" => sides("5 cm") }
    end

    def sides(text) = Sides::NAMES.to_h { |name| [name, text] }

    def singles
      lambda {
        @goods.list.map { |one| [cart([line(one)]), nil] } + @goods.list.map do |one|
          [cart([line(one, MANY)]), nil]
        end
      }
    end

    # Two kinds that may each travel, and perhaps not by one method.
    def pairs
      lambda do
        restricted = @goods.restricted
        restricted.product(@goods.list).first(PAIRS).reject { |one, other| one.equal?(other) }
                  .map { |one, other| [cart([line(one), line(other)]), nil] }
      end
    end

    # Right behind everything that ends.
    def ends = -> { heavy.map { |one| [cart([one]), nil] } }

    def heavy
      @heavy ||= @rates.select(&:plan).flat_map do |rate|
        closed(rate)
      end.uniq.filter_map { |measure, base| beyond(measure, base) }
    end

    def closed(rate)
      limit = (rate.plan.parcels || @book.store.parcels).up_to if rate.plan.parcelled?
      edges = rate.plan.schedules.compact.flat_map { |schedule| of_schedule(schedule) }
      limit ? [*edges, ["weight", limit.base]] : edges
    end

    def of_schedule(schedule)
      case schedule
      when Steps then schedule.steps.each_index.select do |at|
        schedule.steps[at].closed?
      end.map { |at| place(schedule.scale, at) }
      when Grid then schedule.rows.boundaries.each_index.select do |at|
        schedule.cells[at].include?(:none)
      end.map { |at| place(schedule.rows, at) }
      else []
      end
    end

    def place(scale, at) = [scale.gauge.name, scale.boundaries[at].base]

    # A line that comes to a hair more than that.
    def beyond(measure, base)
      case measure
      when "weight", "billable_weight" then plain.merge("weight" => Weight.new(base + Weight::UNITS["g"], "g").to_s)
      when "value" then plain.merge("unit_price" => Money.new(base + 1, @book.currency).to_s)
      when "quantity" then plain.merge("quantity" => [base + 1, 1].max)
      when "longest" then plain.merge("size" => sides("5 cm").merge("length" => Length.new(base + Length::UNITS["mm"],
                                                                                           "mm").to_s))
      end
    end

    # Hours at which something opens or closes: goods that may go by few methods, and any.
    def timed
      -> { hours.flat_map { |at| [plain, *@goods.restricted.map { |one| line(one) }].map { |one| [cart([one]), at] } } }
    end

    def hours
      limited = @rates.filter_map { |rate| @book.shipping_method(rate.method_id).delivery }.select(&:limited?)
      times = limited.flat_map { |one| [one.closes, (one.cutoff if one.hide), ("00:01" if one.opens)] }
      @hours ||= times.compact.uniq.first(HOURS).map { |time| "#{DAY}T#{time}" }
    end

    def hiding
      ids = @rates.map(&:method_id)
      @hiding ||= @book.rules.select do |rule|
        rule.active && rule.actions.any? do |one|
          one.hides? && ids.any? do |id|
            one.touches?(id)
          end
        end
      end.first(RULES)
    end

    # Carts for which a rule takes methods away, with goods that can't go by the others, at hours when these are closed,
    # or beyond the end of their prices.
    def ruled
      lambda do
        holding.flat_map do |one|
          [[one.cart, one.at], *@goods.list.map { |article| [beside(one, line(article)), one.at] },
           *heavy.map { |line| [beside(one, line), one.at] }, *hours.map { |at| [one.cart, one.at || at] }]
        end
      end
    end

    def beside(situation, line) = situation.cart.merge("lines" => [*situation.cart["lines"], line])

    def holding
      @holding ||= hiding.filter_map { |rule| find(rule) }
    end

    # All of them that can hold at once, whatever their number.
    def together
      lambda do
        all = hiding.each_with_object([]) { |rule, list| list << rule if find(*list, rule) }
        all.size > 1 ? [find(*all)].map { |one| [one.cart, one.at] } : []
      end
    end

    def find(*rules)
      here = Tree.new(of: "all", parts: [Condition::OneOf.new(fact: "zone", of: [@zone.id])])
      found = @situations.find([[here, true], *rules.map { |rule| [rule.tree, true] }])
      found if found.is_a?(Situations::Situation)
    end
  end
end
