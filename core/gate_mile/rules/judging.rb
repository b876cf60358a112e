# frozen_string_literal: true

module GateMile
  # Applies the rules that hold to the price of one method, in list order.
  class Judging
    # What rules leave of a method. price: minor units; name: what it is called; renamed: whether a rule said so;
    # causes: why it is hidden, empty where it is not; messages: that rules attach.
    Judged = Struct.new(:price, :name, :renamed, :causes, :messages)

    NONE = [].freeze
    private_constant :NONE

    # @param orders [Array<Array(Rule, Action)>] what rules that hold do to the method, in order
    # @param currency [Currency]
    # @param listener [Reckoning, nil]
    def initialize(orders, currency, listener)
      @orders = orders
      @currency = currency
      @listener = listener
    end

    # @param price [Integer] minor units
    # @param name [String]
    # @return [Judged]
    def judge(price, name)
      renamed = false
      causes = messages = NONE
      @orders.each do |rule, action|
        case action.kind
        when :hide, :only then causes += [hidden(rule, action)]
        when :rename
          name = renamed(rule, action, name)
          renamed = true
        when :message then messages += [noted(rule, action)]
        else price = repriced(rule, action, price)
        end
      end
      Judged.new(price, name, renamed, causes, messages)
    end

    private

    def hidden(rule, action)
      Cause.new(:hidden_by_rule, rule.setting) { { rule: rule.name, how: action.kind } }
    end

    def renamed(rule, action, before)
      @listener&.note(:rules, :"rule.renamed", setting: rule.setting, rule: rule.name, from: before, to: action.text)
      action.text
    end

    def noted(rule, action)
      @listener&.note(:rules, :"rule.message", setting: rule.setting, rule: rule.name, text: action.text)
      action.text
    end

    def repriced(rule, action, before)
      price = action.on(before)
      @listener&.note(:rules, :"rule.price", amount: money(price), setting: rule.setting, rule: rule.name,
                                             kind: action.kind, before: money(before), given: action.amount,
                                             percent: action.percent)
      price
    end

    def money(minor) = Money.new(minor, @currency)
  end
end
