# frozen_string_literal: true

module GateMile
  # All rules of a book for one cart in one zone: which hold, and what they do to each method.
  class Ruling
    NONE = [].freeze
    private_constant :NONE

    # A rule that may do something to a method, and of which it is not known whether it holds. at: its place; fact: the
    # one that decides; tree: its conditions.
    Undecided = Struct.new(:at, :fact, :tree)

    # @param index [RuleIndex]
    # @param circumstances [Circumstances]
    # @param methods [Array<String>] ids of all methods
    # @param varying [Array<Integer>] places of the rules that look at the ordinary lines of a method
    def initialize(index, circumstances, methods, varying)
      @index = index
      @circumstances = circumstances
      @methods = methods
      @candidates = index.places(circumstances)
      @varying = varying.empty? || @candidates.empty? ? NONE : varying & @candidates
      @orders = {}.compare_by_identity
      @open = {}.compare_by_identity
      @by_ordinary = {}.compare_by_identity
    end

    # @param method [String] id
    # @param ordinary [Lot] its ordinary lines
    # @return [Array<Array(Rule, Action)>] what rules that hold do to it, in order
    def orders(method, ordinary)
      return NONE if @candidates.empty?

      found = found_for(ordinary)
      (@orders[found] ||= by_method(found)).fetch(method, NONE)
    end

    # @param method [String] id
    # @param ordinary [Lot]
    # @return [Array<Undecided>] rules that may do something to it
    def undecided(method, ordinary)
      return NONE if @candidates.empty?

      found = found_for(ordinary)
      open = @open[found] ||= found.select { |_, truth, _| truth.open? }
      open.filter_map do |at, truth, _|
        Undecided.new(at, truth.fact, @index.rules[at].tree) if @index.rules[at].actions.any? do |action|
          action.touches?(method)
        end
      end
    end

    # @param method [String] id
    # @param ordinary [Lot]
    # @param holding [Array<Integer>] places of undecided rules that are supposed to hold, the others not
    # @return [Array<Array(Rule, Action)>] what rules would do to it then, in order
    def supposed(method, ordinary, holding)
      found = found_for(ordinary).map { |at, truth, held| [at, truth, truth.open? ? holding.include?(at) : held] }
      by_method(found).fetch(method, NONE)
    end

    # @return [Array<Verdict>] of all rules, in the merchant's order; what looks at ordinary lines has held where it did
    #   at one method
    def verdicts
      looks = @by_ordinary.empty? ? [[@circumstances, found]] : @by_ordinary.values
      looks = looks.map { |circumstances, list| [circumstances, list.to_h { |at, *found| [at, found] }] }
      @index.rules.each_with_index.map do |rule, at|
        every = looks.map { |circumstances, list| [*list.fetch(at, NO), circumstances] }
        Verdict.new(rule, *(every.find { |truth,| truth.yes? } || every.first))
      end
    end

    # What is known of any other rule.
    NO = [Truth::NO, false].freeze
    private_constant :NO

    private

    # @return [Array<Array(Integer, Truth, Boolean)>] of each candidate that holds or may hold, and whether it acts
    def found = @found ||= tested(@candidates, @circumstances)

    # The same at one method.
    def found_for(ordinary)
      return found if @varying.empty?

      (@by_ordinary[ordinary] ||= begin
        own = @circumstances.at_method(ordinary)
        steady = found.reject { |at,| @varying.include?(at) }
        [own, (steady + tested(@varying, own)).sort_by(&:first)]
      end).last
    end

    def tested(places, circumstances)
      look = @index.look(circumstances)
      places.filter_map do |at|
        truth = look.test(at)
        [at, truth, truth.yes? || look.holds?(at)] unless truth.no?
      end
    end

    # @return [Hash{String => Array<Array(Rule, Action)>}]
    def by_method(found)
      found.each_with_object({}) do |(at, _, held), orders|
        next unless held

        rule = @index.rules[at]
        rule.actions.each { |action| touched(action).each { |id| (orders[id] ||= []) << [rule, action] } }
      end
    end

    def touched(action)
      return @methods - action.method_ids if action.kind == :only

      action.method_ids || @methods
    end
  end
end
