# frozen_string_literal: true

module GateMile
  # Plans whose parts make no sense together: a minimum above all prices, a share of nothing, a charge per unit where
  # another rate charges per order, a volumetric divisor that no carrier has.
  class PlanFindings
    include OfRates

    # Usual volumetric divisors: 6000 cm³ for a kilogram and 166 in³ for a pound (IATA), and what couriers use, with
    # room around (common practice, no source).
    DIVISORS = { "kg" => (2000..10_000), "lb" => (80..400) }.freeze
    # How near a charge per unit is to one per order to be taken for it.
    ALIKE = (Rational(1, 2)..Rational(2))
    private_constant :DIVISORS, :ALIKE

    # @param book [Book]
    def initialize(book)
      @book = book
      @rates = book.rates_in_use
    end

    # @return [Array<Finding>]
    def list = plans + divisors

    private

    def plans
      @rates.select(&:plan).flat_map { |rate| [*swallowed(rate), *handles_nothing(rate), *per_unit(rate)] }
    end

    # A minimum above all prices, or a maximum below them: then the bound is the price.
    def swallowed(rate)
      amounts = whole_prices(rate.plan) or return []
      least, most = amounts.minmax
      bounds = rate.plan.adjustment
      if amounts.size > 1 && bounds.minimum && bounds.minimum >= most
        [finding(:bound_swallows, :warning, rate, what: :minimum, figure: bounds.minimum, prices: [least, most])]
      elsif bounds.maximum && bounds.maximum < least
        [finding(:bound_swallows, :warning, rate, what: :maximum, figure: bounds.maximum, prices: [least, most])]
      else
        []
      end
    end

    # @return [Array<Money>, nil] all that a schedule without slopes can take
    def whole_prices(plan)
      schedule = plan.schedule
      return if plan.group != "cart" || plan.adjustment.handling?

      case schedule
      when Flat then [schedule.amount]
      when Steps then if schedule.steps.any? do |step|
        step.each || step.relative?
      end
                        nil
                      else
                        schedule.steps.filter_map(&:amount)
                      end
      end
    end

    # A percentage of prices that are all nothing, or of nothing.
    def handles_nothing(rate)
      bounds = rate.plan.adjustment
      return [] if bounds.percent.nil? || bounds.fixed&.minor.to_i.nonzero?

      found = amounts(rate.plan)
      return [] unless bounds.percent.zero? || (found.any? && found.all? { |one| one.minor.zero? })

      [Finding.new(code: :takes_nothing, harm: :warning, zone: rate.zone, setting: { kind: "rate", id: rate.id },
                   numbers: { name: name_of(rate), what: :handling })]
    end

    def amounts(plan)
      plan.schedules.compact.flat_map do |schedule|
        case schedule
        when Flat then [schedule.amount]
        when FirstAdditional then [schedule.first, schedule.additional]
        when Steps then schedule.steps.flat_map { |step| step.relative? ? [] : [step.amount, step.each] }.compact
        when Grid then schedule.cells.flatten.grep(Money)
        end
      end
    end

    # Charged for each unit what another rate charges for the whole order.
    def per_unit(rate)
      each = each_unit(rate.plan) or return []
      others = @rates.select { |one| !one.equal?(rate) && one.method_id == rate.method_id && one.plan }
      other = others.find { |one| per_order(one.plan)&.then { |whole| near?(whole, each) } } or return []
      [finding(:per_unit, :warning, rate, amount: each, other: name_of(other), zones: [other.zone])]
    end

    def near?(whole, each)
      each.minor.positive? && whole.minor.positive? && ALIKE.cover?(Rational(each.minor, whole.minor))
    end

    # @return [Money, nil]
    def each_unit(plan)
      return plan.schedule.amount if plan.group == "unit" && plan.schedule.is_a?(Flat)

      plan.adjustment.fixed if plan.adjustment.per == "unit"
    end

    # @return [Money, nil]
    def per_order(plan)
      return plan.schedule.amount if plan.group == "cart" && plan.schedule.is_a?(Flat) && plan.adjustment.fixed.nil?

      plan.adjustment.fixed if plan.adjustment.per == "order"
    end

    def divisors
      own = @rates.filter_map { |rate| [rate, rate.plan.parcels] if rate.plan&.parcels }
      used = own.select { |_, policy| odd?(policy) }.map { |rate, policy| divisor(policy, rate) }
      odd?(@book.store.parcels) ? [divisor(@book.store.parcels, nil), *used] : used
    end

    def odd?(policy) = !policy.divisor.nil? && !DIVISORS.fetch(policy.per).cover?(policy.divisor)

    def divisor(policy, rate)
      usual = DIVISORS.fetch(policy.per)
      numbers = { divisor: policy.divisor.to_i, per: policy.per, least: usual.min, most: usual.max }
      return finding(:divisor_odd, :warning, rate, **numbers) if rate

      Finding.new(code: :divisor_odd, harm: :warning, numbers: numbers)
    end
  end
end
