# frozen_string_literal: true

module GateMile
  # What is wrong with rules: those that never or always hold, those that an earlier one hides, two that fight, and
  # carts for which rules hide every method. Each comes with the smallest cart that shows it.
  class RuleFindings
    # Pairs of rules that are looked at, and groups of rules that may hide every method of a zone together.
    PAIRS = 4000
    GROUPS = 1500
    # Rules of one group.
    DEEP = 3

    # @param book [Book]
    def initialize(book)
      @book = book
      @situations = Situations.new(book)
      @rules = book.rules.select(&:active)
      @unchecked = []
    end

    # @return [Array<Finding>]
    def list
      return [] if @rules.empty?

      @alive = @rules.reject { |rule| never?(rule) }
      found = nevers + always + hidden + fights + all_hidden
      found + unchecked
    end

    private

    def holding(rule) = (@holding ||= {})[rule.id] ||= asked([[rule.tree, true]], rule)
    def never?(rule) = holding(rule) == :none

    def finding(code, harm, rule, situation = nil, **numbers)
      Finding.new(code: code, harm: harm, numbers: { rule: rule.name, **numbers }, cart: situation&.cart,
                  at: situation&.at, setting: { kind: "rule", id: rule.id })
    end

    def nevers = (@rules - @alive).map { |rule| finding(:rule_never, :warning, rule) }

    def always
      @alive.select { |rule| asked([[rule.tree, false]], rule) == :none }.map do |rule|
        finding(:rule_always, :note, rule, holding(rule).then { |one| one.is_a?(Symbol) ? nil : one })
      end
    end

    # @return [Situations::Situation, Symbol] notes on which rule it could not be said
    def asked(wishes, *rules)
      @situations.find(wishes).tap { |found| @unchecked.concat(rules) if found == :unknown }
    end

    # Whenever the later one holds, an earlier one hides all that it does something to.
    def hidden
      @hidden = []
      pairs.filter_map do |first, second|
        next if @hidden.include?(second) || !hides_all?(first, second)
        next unless asked([[second.tree, true], [first.tree, false]], first, second) == :none

        @hidden << second
        finding(:rule_hidden, :warning, second, shown(second), by: first.name)
      end
    end

    def shown(rule) = holding(rule).then { |found| found.is_a?(Symbol) ? nil : found }

    def pairs = @alive.combination(2).first(PAIRS)

    def hides_all?(first, second)
      gone = hidden_by(first)
      second.actions.all? { |action| (ids.select { |id| action.touches?(id) } - gone).empty? }
    end

    def ids = @ids ||= @book.methods_in_order.map(&:id)
    def hidden_by(rule) = ids.select { |id| rule.actions.any? { |action| action.hides? && action.touches?(id) } }

    def fights
      pairs.reject { |pair| pair.intersect?(@hidden) }.filter_map do |first, second|
        over = contest(first, second) or next
        found = asked([[first.tree, true], [second.tree, true]], first, second)
        next if found.is_a?(Symbol)

        finding(:rules_fight, :warning, second, found, other: first.name, over: over[0], method: over[1]&.then do |id|
          name_of(id)
        end)
      end
    end

    def name_of(id) = @book.shipping_method(id).name

    # @return [Array(Symbol, String), nil] what two rules contradict each other about, and at which method
    def contest(first, second)
      ids.each do |id|
        one, other = [first, second].map { |rule| rule.actions.select { |action| action.touches?(id) } }
        over = clash(one, other)
        return [over, id] if over
      end
      apart?(first, second) ? [:only, nil] : nil
    end

    def clash(one, other)
      return if [*one, *other].any?(&:hides?)

      %i[price rename].find { |kind| differ?(said(one, kind), said(other, kind)) } ||
        (:bounds if crossed?(one, other) || crossed?(other, one))
    end

    def said(actions, kind) = actions.reverse_each.find { |action| action.kind == kind }
    def differ?(one, other) = one && other && [one.amount, one.text] != [other.amount, other.text]

    def crossed?(one, other)
      floor = said(one, :floor)
      cap = said(other, :cap)
      floor && cap && floor.amount > cap.amount
    end

    # Each leaves only methods that the other takes away.
    def apart?(first, second)
      only = [first, second].map { |rule| rule.actions.select { |action| action.kind == :only }.map(&:method_ids) }
      only.all?(&:any?) && only.flatten(1).inject(:&).empty? && only.none? { |lists| lists.inject(:&).empty? }
    end

    # Carts for which rules hide every method of a zone, though without them there is one.
    def all_hidden
      hiding = @alive.select { |rule| hidden_by(rule).any? }
      return [] if hiding.empty?

      found = @book.rates_in_use.group_by(&:zone).filter_map { |zone, rates| emptied(@book.zone(zone), rates, hiding) }
      found.group_by { |one| one.numbers[:names] }.map do |_, same|
        first = same.first
        zones = same.map { |one| @book.zone(one.zone).name }
        first.with(zone: nil, numbers: first.numbers.merge(zones: zones))
      end
    end

    def emptied(zone, rates, hiding)
      methods = rates.map(&:method_id)
      helping = hiding.select { |rule| hidden_by(rule).intersect?(methods) }
      groups(helping, methods).each do |rules|
        here = Tree.new(of: "all", parts: [Condition::OneOf.new(fact: "zone", of: [zone.id])])
        found = asked([[here, true], *rules.map { |rule| [rule.tree, true] }], *rules)
        next if found.is_a?(Symbol) || !emptied_by_rules?(found)

        return finding(:all_hidden, :warning, rules.last, found, names: rules.map(&:name)).with(zone: zone.id)
      end
      nil
    end

    # The smallest groups of rules that hide all of these together.
    def groups(rules, methods)
      (1..DEEP).lazy.flat_map { |size| rules.combination(size).lazy }.first(GROUPS).select do |group|
        (methods - group.flat_map { |rule| hidden_by(rule) }).empty?
      end
    end

    def emptied_by_rules?(situation)
      quote = @situations.quote(situation)
      quote.status == :nothing_available &&
        quote.method_quotes.any? { |one| one.causes.all? { |cause| cause.code == :hidden_by_rule } }
    end

    def unchecked
      @unchecked.uniq.map { |rule| finding(:rule_open, :note, rule) }
    end
  end
end
