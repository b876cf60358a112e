# frozen_string_literal: true

module GateMile
  # All amounts of a book's rates, offers and rules that have neighbours: those of the same schedule, of the same method
  # in other zones, of other methods of the zone, of other classes, of the prices that they fall on, of goods, of what
  # carriers took and orders paid.
  class Figures
    # Figures of one schedule that are looked at, at most.
    MOST = 400
    # What is a price by itself, and can be held against whole prices.
    WHOLE = %i[flat step first cell].freeze
    private_constant :MOST, :WHOLE

    # One amount of a plan. key: what and where it is; amounts of two plans with the same key are compared.
    Placed = Struct.new(:what, :at, :amount, :beside, :extra, :between) do
      def key = [what, at, extra]
    end
    private_constant :Placed

    # @param book [Book]
    # @param answers [Hash{CarrierRequest => Reply}] what carriers have answered lately
    # @param paid [Hash{Array(String, String) => Array<Money>}] what orders paid lately, by zone and method
    def initialize(book, answers: {}, paid: {})
      @book = book
      @takings = Takings.new(book, answers, paid)
      @rates = book.rates_in_use.reject { |rate| book.shipping_method(rate.method_id).kind == "collection" }
      @placed = @rates.to_h { |rate| [rate, rate.plan ? of_plan(rate.plan) : []] }.compare_by_identity
    end

    # @return [Array<Figure>]
    def list = @rates.flat_map { |rate| of_rate(rate) } + offers + rules

    private

    def of_rate(rate)
      setting = { kind: "rate", id: rate.id }
      found = @placed.fetch(rate).map do |one|
        beside = one.beside.merge(zones: elsewhere(rate, one.key), **(WHOLE.include?(one.what) ? whole(rate) : {}))
        Figure.new(amount: one.amount, name: name_of(rate), what: one.what, at: one.at || one.extra, setting: setting,
                   zone: rate.zone, beside: beside, between: one.between)
      end
      found + fallbacks(rate, setting)
    end

    def name_of(rate) = rate.name || @book.shipping_method(rate.method_id).name

    # The same amount of the same method in other zones.
    def elsewhere(rate, key)
      others = @rates.select { |one| one.method_id == rate.method_id && one.zone != rate.zone }
      others.flat_map do |one|
        @placed.fetch(one).select do |placed|
          placed.key == key
        end.map { |placed| placed.amount.minor }
      end
    end

    # What a figure that is a whole price is held against: the other methods of the zone, what carriers took there and
    # what orders paid.
    def whole(rate)
      { methods: methods_near(rate), carriers: @takings.carriers(rate.zone),
        orders: @takings.orders(rate.zone, rate.method_id) }
    end

    # @return [Array<Integer>] minor units that the plan of a rate can come to, roughly
    def prices(rate)
      @placed.fetch(rate).select { |one| %i[flat step first cell class others].include?(one.what) }
             .map { |one| one.amount.minor }
    end

    def of_plan(plan)
      plain = plan.schedule ? of_schedule(plan.schedule) : by_class(plan.classes)
      plain + bounds(plan.adjustment, plain.map { |one| one.amount.minor })
    end

    def of_schedule(schedule)
      case schedule
      when Flat then [Placed.new(:flat, nil, schedule.amount, {})]
      when FirstAdditional
        [Placed.new(:first, nil, schedule.first, {}),
         Placed.new(:additional, nil, schedule.additional, { schedule: [schedule.first.minor] })]
      when Steps then steps(schedule)
      when Grid then cells(schedule)
      else []
      end
    end

    def steps(schedule)
      texts = schedule.scale.boundaries.map(&:text)
      amounts = series(schedule.steps.first(MOST).map { |step| step.amount unless step.relative? })
      eaches = series(schedule.steps.first(MOST).map(&:each))
      rising = schedule.scale.gauge.name != "value"
      amounts.map do |at, amount, near, between|
        Placed.new(:step, texts[at], amount, { schedule: near }, nil, (between if rising))
      end +
        eaches.map { |at, amount, near| Placed.new(:each, texts[at], amount, { schedule: near }) }
    end

    # Each amount of a list with those right before and behind it; of the first and the last the two nearest, where
    # these are neighbours; and the stretch between those before and behind it, where prices go up.
    def series(amounts)
      known = amounts.each_index.select { |at| amounts[at].is_a?(Money) && amounts[at].minor.positive? }
      minor = known.map { |at| amounts[at].minor }
      known.each_with_index.map do |at, place|
        before = minor[place - 1] if place.positive?
        behind = minor[place + 1]
        further = before ? (minor[place - 2] if place > 1) : minor[2]
        near = [before, behind].compact
        [at, amounts[at], near.size < 2 ? [*near, further].compact : near, (before..behind)]
      end
    end

    def cells(grid)
      return [] if grid.cells.flatten.size > MOST

      grid.cells.each_with_index.flat_map do |row, at|
        series(row).map do |column, amount, near|
          column_near = series(grid.cells.map { |one| one[column] }).find { |place,| place == at }.to_a[2].to_a
          Placed.new(:cell, nil, amount, { schedule: near + column_near }, [at, column])
        end
      end
    end

    def by_class(classes)
      whole = classes.all.select { |one| one.carried && one.schedule.is_a?(Flat) }
      whole.map do |one|
        near = (whole - [one]).map { |other| other.schedule.amount.minor }
        Placed.new(one.group ? :class : :others, nil, one.schedule.amount, { classes: near }, class_name(one.group))
      end
    end

    def class_name(id) = id && @book.classes.find { |one| one.id == id }&.name

    # Handling, minimum and maximum, beside the prices of the plan.
    def bounds(adjustment, prices)
      list = { handling: adjustment.fixed, minimum: adjustment.minimum, maximum: adjustment.maximum }
      list.compact.map { |what, amount| Placed.new(what, nil, amount, { prices: around(what, amount, prices) }) }
    end

    # A bound between the lowest and the highest price is not far off.
    def around(what, amount, prices)
      positive = prices.select(&:positive?)
      return [] if positive.empty?

      if what == :maximum && amount.minor >= positive.min
        []
      else
        [amount.minor > positive.max ? positive.max : positive.min]
      end
    end

    # What stands in for a carrier's answer, beside the other prices of the method.
    def fallbacks(rate, setting)
      return [] if rate.live.nil?

      rate.live.ladder.filter_map do |trouble, step|
        next unless step.kind == :amount

        others = rate.live.ladder.reject { |one, _| one == trouble }.each_value.filter_map { |one| one.amount&.minor }
        Figure.new(amount: step.amount, name: name_of(rate), what: :fallback, setting: setting, zone: rate.zone,
                   beside: { schedule: others, **whole(rate) })
      end
    end

    def methods_near(rate)
      @rates.select { |one| one.zone == rate.zone && !one.equal?(rate) }.flat_map { |one| prices(one) }
    end

    def offers
      @book.offers.select(&:active).flat_map do |offer|
        setting = { kind: "offer", id: offer.id }
        [*threshold(offer, setting), *taken(offer, setting)]
      end
    end

    # A threshold of value, beside those of other offers, its own name and what goods cost.
    def threshold(offer, setting)
      wanted = offer.threshold
      return [] unless wanted&.measure == "value" && wanted.from.base.positive?

      others = @book.offers.select { |one| one.active && !one.equal?(offer) && one.threshold&.measure == "value" }
      [Figure.new(amount: Money.new(wanted.from.base, @book.currency), name: offer.name, what: :threshold, at: nil,
                  setting: setting, zone: nil,
                  beside: { zones: named(offer.name), methods: others.map do |one|
                    one.threshold.from.base
                  end, goods: dearest })]
    end

    # Amounts that a name tells: "Free from 75".
    def named(text)
      text.to_s.scan(/\d+(?:[.,]\d{2})?/).map { |found| (found.tr(",", ".").to_r * (10**@book.currency.exponent)).to_i }
          .select(&:positive?)
    end

    # The dearest goods, as many as say something.
    def dearest
      @book.catalogue.once(:dearest) do
        Alone.goods(@book).filter_map { |article| article.price&.minor }.select(&:positive?).max(1)
      end
    end

    # What an offer takes off or leaves, and how much it takes at most, beside the prices that it falls on.
    def taken(offer, setting)
      prices = @rates.select do |rate|
        offer.in_zone?(rate.zone) && offer.names?(rate.method_id)
      end.flat_map { |rate| prices(rate) }
      { amount: offer.effect.amount, cap: offer.effect.most }.compact.map do |what, amount|
        Figure.new(amount: amount, name: offer.name, what: what, setting: setting,
                   beside: { prices: around(what, amount, prices) })
      end
    end

    def rules
      @book.rules.select(&:active).flat_map do |rule|
        rule.actions.select(&:amount).map do |action|
          prices = @rates.select { |rate| action.touches?(rate.method_id) }.flat_map { |rate| prices(rate) }
          Figure.new(amount: action.amount, name: rule.name, what: :rule, setting: { kind: "rule", id: rule.id },
                     beside: { prices: higher(action.amount, prices) })
        end
      end
    end

    # A rule may add a few pennies: only what is far above all prices is odd.
    def higher(amount, prices)
      most = prices.max
      most && amount.minor > most ? [most] : []
    end
  end
end
