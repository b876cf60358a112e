# frozen_string_literal: true

module GateMile
  # Prices of nothing that probably nobody meant: one step, class or cell among others that cost something, handling and
  # markups that take everything off, offers and rules without a condition, a class that ships free. What is free on
  # purpose is passed over: collection, a threshold of order value, single products.
  class ZeroFindings
    # @param book [Book]
    def initialize(book)
      @book = book
      @rates = book.rates_in_use.reject { |rate| book.shipping_method(rate.method_id).kind == "collection" }
    end

    # @return [Array<Finding>]
    def list = @rates.flat_map { |rate| of_rate(rate) } + offers + rules + treatments

    private

    def unpaid(what, kind, item, name, zone: nil, **numbers)
      Finding.new(code: :free_by_accident, harm: :warning, zone: zone, numbers: { name: name, what: what, **numbers },
                  setting: { kind: kind, id: item.id })
    end

    def of_rate(rate)
      name = rate.name || @book.shipping_method(rate.method_id).name
      found = [*(plan(rate) if rate.plan), *(live(rate) if rate.live)]
      found.uniq.map { |what, figure| unpaid(what, "rate", rate, name, zone: rate.zone, **{ figure: figure }.compact) }
    end

    # @return [Array<Array(Symbol, String)>] what comes to nothing, and where
    def plan(rate)
      plan = rate.plan
      return [[:handling]] if takes_all?(plan.adjustment)
      return [] if plan.adjustment.fixed&.minor&.positive?

      classes(plan) + plan.schedules.compact.flat_map { |schedule| schedule(schedule) }
    end

    def takes_all?(adjustment)
      percent = adjustment.percent
      raised = [adjustment.minimum, adjustment.fixed].any? { |one| one&.minor&.positive? }
      !percent.nil? && percent.value <= -100 && !raised
    end

    def schedule(schedule)
      case schedule
      when Steps then steps(schedule)
      when Grid then cells(schedule)
      else []
      end
    end

    def steps(schedule)
      zeros = schedule.steps.each_index.select { |at| nothing?(schedule.steps[at]) }
      return [] if zeros.empty? || schedule.steps.all? { |step| step.closed? || nothing?(step) }

      # From so much on it is free: a threshold, written as a price.
      zeros -= [schedule.steps.size - 1] if schedule.scale.gauge.name == "value"
      zeros.map { |at| at.zero? ? [:first_step] : [:step, schedule.scale.boundaries[at].text] }
    end

    def nothing?(step) = !step.closed? && step.amount.zero? && !step.each&.minor&.positive? && !step.relative?

    def cells(grid)
      amounts = grid.cells.flatten.grep(Money)
      amounts.any?(&:zero?) && !amounts.all?(&:zero?) ? [[:cell]] : []
    end

    # Classes and everything else at one amount of nothing, while others cost something.
    def classes(plan)
      return [] if plan.classes.nil?

      free, paid = plan.classes.all.select(&:carried).partition { |one| flat_zero?(one.schedule) }
      return [] if paid.empty?

      free.map { |one| one.group ? [:class, class_name(one.group)] : [:others] }
    end

    def flat_zero?(schedule) = schedule.is_a?(Flat) && schedule.amount.zero?
    def class_name(id) = @book.classes.find { |one| one.id == id }&.name

    def live(rate)
      markup = takes_all?(rate.live.adjustment) ? [[:markup]] : []
      ladder = rate.live.ladder.values.any? { |step| step.kind == :amount && step.amount.zero? }
      ladder ? [*markup, [:ladder]] : markup
    end

    def offers
      @book.offers.select { |offer| offer.active && all?(offer.effect) && unconditional?(offer) && acts?(offer) }
           .map { |offer| unpaid(:offer, "offer", offer, offer.name) }
    end

    def all?(effect)
      effect.most.nil? && (effect.kind == :free || (effect.kind == :percent && effect.percent.value >= 100))
    end

    def unconditional?(offer)
      [offer.threshold, offer.groups, offer.coupons, offer.promotions, offer.first,
       offer.blocking].all?(&:nil?) && offer.period.always?
    end

    def acts?(offer) = @rates.any? { |rate| offer.in_zone?(rate.zone) && offer.names?(rate.method_id) }

    def rules
      @book.rules.select { |rule| rule.active && always?(rule.tree) && rule.actions.any? { |action| clears?(action) } }
           .map { |rule| unpaid(:rule, "rule", rule, rule.name) }
    end

    def always?(tree) = tree.parts.empty? && %w[all none].include?(tree.of)

    def clears?(action)
      return false unless @rates.any? { |rate| action.touches?(rate.method_id) }

      case action.kind
      when :price, :cap then action.amount.zero?
      when :off then action.percent ? action.percent.value >= 100 : false
      else false
      end
    end

    # A class at nothing: single products are put at nothing on purpose.
    def treatments
      @book.classes.flat_map { |one| one.treatments.filter_map { |id| on_class(one, id) } }
    end

    def on_class(one, id)
      treatment = @book.treatments.find { |item| item.id == id }
      return unless treatment&.active && treatment.price&.apart?

      free = @rates.find { |rate| treatment.applies?(rate.zone, rate.method_id) && free_by?(treatment, rate) }
      free && unpaid(:treatment, "treatment", treatment, treatment.name, zone: free.zone, figure: one.name)
    end

    def free_by?(treatment, rate) = treatment.price.charge_for(rate.method_id).steps.all? { |_, amount| amount.zero? }
  end
end
