# frozen_string_literal: true

module GateMile
  # What became of one rule for one cart in one zone.
  class Verdict
    # @return [Rule]
    attr_reader :rule
    # @return [Truth]
    attr_reader :truth

    # @param rule [Rule]
    # @param truth [Truth] whether it holds
    # @param held [Boolean] whether it acts: it holds, or would as long as nothing is said of the fact that is missing
    # @param circumstances [Circumstances] in which it was looked at
    def initialize(rule, truth, held, circumstances)
      @rule = rule
      @truth = truth
      @held = held
      @circumstances = circumstances
      freeze
    end

    # @return [Array<Array(Object, Boolean, String)>] conditions that are to blame where it does not act: each with
    #   whether it should have held, and what the cart has there
    def missing
      return [] if held? || !rule.active

      rule.tree.lacks(@circumstances).map do |condition, wanted|
        [condition, wanted, condition.here(@circumstances).to_s]
      end
    end

    # @return [Boolean]
    def held? = @held

    # @return [Symbol, nil] the fact that would decide, where the cart does not carry it
    def open = truth.fact
  end
end
