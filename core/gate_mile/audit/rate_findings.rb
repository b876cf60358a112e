# frozen_string_literal: true

module GateMile
  # What is wrong or worth knowing about rates: what they leave open, where they fall, end or give away.
  class RateFindings
    include OfRates

    # Goods that are looked at one by one, at most: the lightest, the heaviest, and some between.
    SAMPLE = 60

    # @param book [Book]
    def initialize(book)
      @book = book
      @alone = Alone.new(book)
      @rates = book.rates_in_use.select(&:plan)
    end

    # @return [Array<Finding>]
    def list
      free_beside_paid + no_rate + @rates.flat_map { |rate| of_rate(rate) } + OwnPriceFindings.new(@book).list + alike
    end

    private

    def of_rate(rate)
      [*blank_cells(rate), *class_holes(rate), *losses(rate), *ends_early(rate), *falling(rate), *out_of_reach(rate)]
    end

    # A delivery that costs nothing, whatever the cart, beside one that costs something: nobody would pay.
    def free_beside_paid
      @book.rates_in_use.select(&:plan).group_by(&:zone).flat_map do |zone, rates|
        free, paid = rates.partition { |rate| free?(rate) }
        paid += @book.rates_of(@book.zone(zone)).select { |rate| rate.active && rate.live }
        open = free.reject { |rate| rate.areas || @book.shipping_method(rate.method_id).kind == "collection" }
        paid.any? ? open.map { |rate| finding(:free_beside_paid, :problem, rate) } : []
      end
    end

    def free?(rate)
      schedule = rate.plan.schedule
      rate.live.nil? && schedule.is_a?(Flat) && schedule.amount.zero? && !rate.plan.adjustment.handling?
    end

    def no_rate
      served = @book.rates_in_use.to_set(&:zone)
      @book.zones.select { |zone| zone.active && zone.areas.any? && !served.include?(zone.id) }.map do |zone|
        Finding.new(code: :no_rate, harm: :problem, zone: zone.id, numbers: {})
      end
    end

    def blank_cells(rate)
      blank = rate.plan.schedules.grep(Grid).sum { |grid| grid.cells.flatten.count(&:nil?) }
      blank.zero? ? [] : [finding(:blank_cells, :warning, rate, count: blank)]
    end

    # Classes of goods that a plan by class says nothing of, or does not carry.
    def class_holes(rate)
      prices = rate.plan.classes or return []
      found = goods_by_class.filter_map do |group, articles|
        price = prices.of_class(group)
        [price, articles] if price.is_a?(Symbol)
      end
      found.group_by(&:first).map do |code, holes|
        articles = holes.flat_map(&:last)
        finding(code, code == :not_carried ? :note : :warning, rate,
                count: articles.size, names: articles.first(GoodsFindings::SHOWN).map(&:name))
      end
    end

    def goods_by_class = @book.catalogue.once(:by_class) { articles.group_by(&:shipping_class).freeze }

    def articles = @articles ||= Alone.goods(@book)

    # Single goods that cost more to ship than they pay.
    def losses(rate)
      return [] if rate.cost.nil?

      lost = sample.filter_map { |article| loss(rate, article) }
      return [] if lost.empty?

      article, price, cost = lost.max_by { |_, paid, costs| costs.minor - paid.minor }
      [finding(:loss, :warning, rate, count: lost.size, name: article.name, price: price, cost: cost)]
    end

    def loss(rate, article)
      found = @alone.quote(rate, article)
      [article, found.price, found.cost] if found.cost && found.price && found.cost > found.price
    end

    def placed(article) = @book.treatments.on(article, article.shipping_class)

    def sample = @sample ||= Alone.sample(@book, SAMPLE)

    # A schedule by weight or by the longest side that ends below what single goods have.
    def ends_early(rate)
      steps = rate.plan.schedule
      return [] unless rate.plan.group != "class" && steps.is_a?(Steps) && steps.steps.last.closed?

      top = steps.scale.boundaries.last
      beyond = beyond(steps.scale.gauge.name, top.base).select { |article| travels?(rate, article) }
      return [] if beyond.empty?

      [finding(:ends_early, :note, rate, top: top.text, count: beyond.size,
                                         names: beyond.first(GoodsFindings::SHOWN).map(&:name))]
    end

    # @return [Array<Article>] of which a single one comes to more than that, in the order of the catalogue
    def beyond(measure, top)
      sorted = @book.catalogue.once(:"largest_#{measure}") { measured(measure).sort_by { |base,| -base }.freeze }
      sorted.take_while { |base,| base > top }.sort_by { |_, at, _| at }.map(&:last)
    end

    def measured(measure)
      articles.each_with_index.filter_map do |article, at|
        base = case measure
               when "weight", "billable_weight" then article.weight&.base
               when "longest" then article.size&.longest&.base
               end
        [base, at, article] if base
      end
    end

    # Goods that may not go by it anyway, or pay a price of their own, need no step.
    def travels?(rate, article)
      placed(article).none? { |item| item.treatment.bars?(rate.zone, rate.method_id) || apart?(item.treatment, rate) }
    end

    def apart?(treatment, rate) = treatment.price&.apart? && treatment.applies?(rate.zone, rate.method_id)

    # More costs less.
    def falling(rate)
      rate.plan.schedules.compact.filter_map { |schedule| Falling.new(schedule).first }.map do |fall|
        finding(:falling, :warning, rate, measure: fall.gauge.name, at: fall.at.text, before: fall.before,
                                          after: fall.after)
      end
    end

    # Steps that no cart comes to: no unit at all, or longer than the longest of the goods.
    def out_of_reach(rate)
      rate.plan.schedules.grep(Steps).filter_map do |schedule|
        edge = unreached(schedule) or next
        finding(:out_of_reach, :note, rate, measure: schedule.scale.gauge.name, at: edge.text)
      end
    end

    def unreached(schedule)
      case schedule.scale.gauge.name
      when "quantity"
        second = schedule.scale.boundaries[1]
        schedule.scale.boundaries.first if second && no_unit?(schedule, second)
      when "longest" then longer_than_all(schedule)
      end
    end

    def longer_than_all(schedule)
      longest = @book.catalogue.once(:longest) { [articles.filter_map { |article| article.size&.longest&.base }.max] }
      longest = longest.first or return
      schedule.scale.boundaries.zip(schedule.steps).drop(1).find do |edge, step|
        edge.base >= longest && !step.closed?
      end&.first
    end

    def no_unit?(schedule, second) = schedule.scale.edges == "from" && second.base <= 1

    def alike
      @rates.group_by do |rate|
        [rate.zone, rate.plan, rate.areas]
      end.each_value.select { |rates| rates.size > 1 }.map do |rates|
        names = rates.map { |rate| name_of(rate) }
        finding(:rates_alike, :note, rates.first, names: names)
      end
    end
  end
end
