# frozen_string_literal: true

module GateMile
  # Offers, rules and coupons that make no sense beside each other, or by themselves: rules whose time is over, coupons
  # that end before their offer begins, what takes nothing, codes that are taken for each other.
  class SenseFindings
    # @param book [Book]
    # @param at [Time] of the audit
    def initialize(book, at)
      @book = book
      @at = at
      @today = book.store.clock.read(at).date.iso8601
      @rates = book.rates_in_use
    end

    # @return [Array<Finding>]
    def list
      rules + offers + coupons
    end

    private

    def found(code, harm, kind, item, zone: nil, **numbers)
      Finding.new(code: code, harm: harm, zone: zone, numbers: numbers, setting: { kind: kind, id: item.id })
    end

    def rules
      active = @book.rules.select(&:active)
      active.flat_map { |rule| [*over(rule), *idle(rule)] } + cancelling(active) + unmeasured(active)
    end

    # A condition that must hold names a last day, and that is over.
    def over(rule)
      last = must(rule.tree).filter_map do |part|
        part.last if part.is_a?(Condition::OnClock) && part.fact == "date"
      end.min
      last && last < @today ? [found(:rule_over, :note, "rule", rule, rule: rule.name, last: last)] : []
    end

    # @return [Array<Object>] conditions of which each must hold
    def must(tree)
      if tree.of == "all"
        tree.parts.flat_map { |part| part.is_a?(Tree) ? must(part) : [part] }
      else
        []
      end
    end

    def idle(rule)
      nothing = rule.actions.any? do |one|
        %i[add off].include?(one.kind) && (one.percent || one.amount).then do |by|
          none?(by)
        end
      end
      nothing ? [found(:takes_nothing, :warning, "rule", rule, name: rule.name, what: :rule)] : []
    end

    def none?(amount) = amount.is_a?(Money) ? amount.minor.zero? : amount.zero?

    # The second takes back what the first has done, of the same carts.
    def cancelling(rules)
      rules.combination(2).filter_map do |one, other|
        next unless one.tree == other.tree && one.actions.any? do |does|
          other.actions.any? do |back|
            undoes?(back, does)
          end
        end

        found(:rules_cancel, :warning, "rule", other, rule: other.name, other: one.name)
      end
    end

    def undoes?(back, does)
      return false unless back.method_ids.to_a.sort == does.method_ids.to_a.sort && back.kind != does.kind

      [back, does].map(&:kind).sort == %i[add off] && back.amount == does.amount && back.percent == does.percent
    end

    # A weight is asked for, and no goods have one.
    def unmeasured(rules)
      goods = Alone.goods(@book)
      return [] if goods.empty? || goods.any?(&:weight)

      by_weight = rules.select { |rule| rule.tree.leaves.any? { |leaf| leaf.fact == "weight" } }
      offers = @book.offers.select { |offer| offer.active && offer.threshold&.measure == "weight" }
      by_weight.map { |rule| found(:unmeasured, :warning, "rule", rule, name: rule.name, what: :rule) } +
        offers.map { |offer| found(:unmeasured, :warning, "offer", offer, name: offer.name, what: :offer) }
    end

    def offers
      @book.offers.select(&:active).flat_map { |offer| [*nothing_off(offer), *coupon_ends(offer), *dearer(offer)] }
    end

    def nothing_off(offer)
      effect = offer.effect
      nothing = { percent: effect.percent, off: effect.amount }[effect.kind]&.then do |by|
        none?(by)
      end || effect.most&.minor&.zero?
      nothing ? [found(:takes_nothing, :warning, "offer", offer, name: offer.name, what: :offer)] : []
    end

    # All coupons that it asks for are over when it begins.
    def coupon_ends(offer)
      named = offer.coupons.to_a.filter_map { |id| @book.policies.coupons.find { |one| one.id == id } }
      early = named.select { |one| one.period.to && offer.period.from && one.period.to <= offer.period.from }
      return [] if named.empty? || early.size < named.size

      last = early.max_by { |one| one.period.to }
      times = { ends: last.period.ends, starts: offer.period.starts }
      [found(:coupon_before_offer, :warning, "offer", offer, offer: offer.name, coupon: last.code, **times)]
    end

    # A fixed price above every price of the rates saves nobody anything. With goods, carts are tried instead.
    def dearer(offer)
      return [] unless offer.effect.kind == :fixed && Alone.goods(@book).empty?

      rates = @rates.select { |rate| offer.in_zone?(rate.zone) && offer.names?(rate.method_id) }
      prices = rates.map { |rate| top(rate) }
      return [] if prices.empty? || prices.any?(&:nil?) || offer.effect.amount < prices.max

      [found(:offer_no_gain, :warning, "offer", offer, offer: offer.name, amount: offer.effect.amount)]
    end

    # @return [Money, nil] what a plan takes at most; nil where that has no end
    def top(rate)
      schedule = rate.plan&.schedule
      case schedule
      when Flat then schedule.amount
      when Steps then if schedule.steps.any? do |step|
        step.each || step.relative?
      end
                        nil
                      else
                        schedule.steps.filter_map(&:amount).max
                      end
      end
    end

    # Two codes that people take for each other.
    def coupons
      active = @book.policies.coupons.select(&:active)
      active.combination(2).filter_map do |one, other|
        next unless LookAlike.of?(one.code, other.code)

        found(:coupons_alike, :note, "coupon", other, coupon: other.code, other: one.code)
      end
    end
  end
end
