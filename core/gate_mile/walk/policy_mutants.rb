# frozen_string_literal: true

module GateMile
  # Books that differ from one in a single amount, edge or switch of an offer, a rule or a treatment.
  class PolicyMutants
    # How amounts and percentages are changed: the smallest change that some cart shows is shown.
    STEPS = [1, 7, 50].freeze
    FLAGS = %i[active own_prices hides_paid combines paying_count].freeze
    private_constant :STEPS, :FLAGS

    # One figure. item: the offer, rule or treatment that it belongs to; books: with it changed a little, and more.
    Figure = Struct.new(:item, :books)

    # @param book [Book]
    # @param offers [Array<Offer>] that are changed
    # @param rules [Array<Rule>] that are changed
    # @param treatments [Array<Treatment>] that are changed
    def initialize(book, offers, rules, treatments)
      @book = book
      @offers = offers
      @rules = rules
      @treatments = treatments
    end

    # @return [Array<Figure>]
    def list
      @offers.flat_map do |offer|
        figures(offer, of_offer(offer)) do |other|
          policies(offers: exchanged(@book.offers, offer, other))
        end
      end +
        @rules.flat_map do |rule|
          figures(rule, of_rule(rule)) do |other|
            policies(rules: exchanged(@book.rules, rule, other))
          end
        end +
        @treatments.flat_map { |one| figures(one, of_treatment(one)) { |other| @book.with_treatment(other) } }
    end

    private

    def figures(item, changes, &book) = changes.map { |others| Figure.new(item, others.lazy.map(&book)) }
    def exchanged(list, item, other) = list.map { |one| one.equal?(item) ? other : one }

    def policies(**parts)
      own = @book.policies
      @book.with(policies: Policies.new(groups: own.groups, coupons: own.coupons, offers: own.offers, rules: own.rules,
                                        **parts))
    end

    def of_offer(offer)
      flags(offer).map do |flag|
        [offer.with(flag => !offer[flag])]
      end + threshold(offer) + effect(offer) + period(offer) + first(offer)
    end

    # Switches that can make a difference.
    def flags(offer)
      FLAGS.reject do |flag|
        case flag
        when :own_prices then @book.treatments.none?(&:price)
        when :paying_count then offer.paying.nil? || offer.threshold.nil?
        when :combines then @book.offers.one?
        end
      end
    end

    def threshold(offer)
      wanted = offer.threshold or return []
      gauge = Gauge.new(wanted.measure, @book.currency)
      %i[from below].select { |side| wanted[side] }.map do |side|
        moved(gauge, wanted[side]).map { |edge| offer.with(threshold: wanted.with(side => edge)) }
      end
    end

    # A hair more, and three in a hundred.
    def moved(gauge, edge)
      bases = [edge.base + gauge.hair, gauge.name == "quantity" ? edge.base + 1 : edge.base * Rational(103, 100)]
      bases.uniq.map { |base| Boundary.new(base: base, text: edge.text) }
    end

    def effect(offer)
      own = offer.effect
      found = %i[amount most].select { |field| own[field] }.map do |field|
        STEPS.map { |by| offer.with(effect: own.with(field => more(own[field], by))) }
      end
      found << STEPS.map { |by| offer.with(effect: own.with(percent: percent(own.percent, by))) } if own.percent
      found
    end

    def more(amount, by) = Money.new(amount.minor + by, @book.currency)
    def percent(percentage, by) = Percentage.new(percentage.value + Rational(by, 20))

    def period(offer)
      { from: offer.period.from, to: offer.period.to }.compact.flat_map do |side, time|
        [-60, 60].map { |by| [offer.with(period: offer.period.with(side => time + by))] }
      end
    end

    def first(offer) = offer.first ? [[offer.with(first: offer.first + 1)]] : []

    def of_rule(rule)
      [[rule.with(active: !rule.active)]] + actions(rule) + leaves(rule)
    end

    def actions(rule)
      rule.actions.each_index.flat_map do |at|
        action = rule.actions[at]
        found = []
        found << STEPS.map { |by| acting(rule, at, action.with(amount: more(action.amount, by))) } if action.amount
        if action.percent
          found << STEPS.map do |by|
            acting(rule, at, action.with(percent: percent(action.percent, by)))
          end
        end
        found
      end
    end

    def acting(rule, at, action)
      actions = rule.actions.dup
      actions[at] = action
      rule.with(actions: actions)
    end

    def leaves(rule)
      rule.tree.leaves.grep(Condition::Measured).flat_map do |leaf|
        gauge = Gauge.new(leaf.fact, @book.currency)
        %i[low high].select { |side| leaf[side] }.map do |side|
          moved(gauge, leaf[side]).map { |edge| rule.with(tree: replaced(rule.tree, leaf, leaf.with(side => edge))) }
        end
      end
    end

    def replaced(tree, leaf, other)
      tree.with(parts: tree.parts.map do |part|
        next replaced(part, leaf, other) if part.is_a?(Tree)

        part.equal?(leaf) ? other : part
      end)
    end

    def of_treatment(treatment)
      [[treatment.with(active: !treatment.active)]] + charges(treatment)
    end

    def charges(treatment)
      price = treatment.price or return []
      found = []
      found << STEPS.map { |by| treatment.with(price: price.with(plus: more(price.plus, by))) } if price.plus
      found.concat(steps(price.charge).map do |others|
        others.map do |charge|
          treatment.with(price: price.with(charge: charge))
        end
      end)
      price.by_method.to_h.each do |method, charge|
        found.concat(steps(charge).map do |others|
          others.map { |other| treatment.with(price: price.with(by_method: price.by_method.merge(method => other))) }
        end)
      end
      found
    end

    def steps(charge)
      return [] if charge.nil?

      charge.steps.each_index.flat_map do |at|
        from, amount = charge.steps[at]
        later = at.positive? && (charge.steps[at + 1].nil? || charge.steps[at + 1].first > from + 1)
        [STEPS.map do |by|
          stepping(charge, at, [from, more(amount, by)])
        end, ([stepping(charge, at, [from + 1, amount])] if later)].compact
      end
    end

    def stepping(charge, at, step)
      steps = charge.steps.dup
      steps[at] = step
      charge.with(steps: steps)
    end
  end
end
