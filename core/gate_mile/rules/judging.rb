# frozen_string_literal: true

module GateMile
  # Applies the rules that hold to one method, in list order.
  class Judging
    # @param run [Run]
    # @param terms [Terms]
    def initialize(run, terms)
      @run = run
      @terms = terms
      @method = run.method.id
    end

    # @return [void]
    def judge
      @terms.held(@run.ordinary_lines).each do |rule|
        rule.actions.each { |action| act(rule, action) if action.touches?(@method) }
      end
      open = undecided
      @run.provisional.concat(open.map(&:first)).uniq!
      @run.unsettled.concat(open.filter_map { |fact, actions| fact if actions.any?(&:prices?) }).uniq!
    end

    private

    # Rules that would do something to the method, and of which it is not known whether they hold: the fact that
    # decides, and what they would do.
    # @return [Array<Array(Symbol, Array<Action>)>]
    def undecided
      found = @terms.undecided(@run.ordinary_lines).map do |rule, fact|
        [fact, rule.actions.select { |action| action.touches?(@method) }]
      end
      found.reject { |_, actions| actions.empty? }
    end

    def act(rule, action)
      setting = rule.setting
      case action.kind
      when :hide, :only then @run.bar(:hidden_by_rule, setting, rule: rule.name, how: action.kind)
      when :rename then rename(rule, action, setting)
      when :message
        @run.messages << action.text
        @run.note(:rules, :"rule.message", setting: setting, rule: rule.name, text: action.text)
      else reprice(rule, action, setting)
      end
    end

    def rename(rule, action, setting)
      @run.note(:rules, :"rule.renamed", setting: setting, rule: rule.name, from: @run.name, to: action.text)
      @run.name = action.text
      @run.renamed = true
    end

    def reprice(rule, action, setting)
      before = @run.price
      @run.price = action.on(before)
      @run.note(:rules, :"rule.price", amount: @run.price, setting: setting, rule: rule.name, kind: action.kind,
                                       before: before, given: action.amount, percent: action.percent)
    end
  end
end
