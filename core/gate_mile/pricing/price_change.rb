# frozen_string_literal: true

module GateMile
  # All amounts of a plan raised or lowered at once: percent first, then an amount. A chosen zero stays zero, and
  # nothing falls below zero.
  class PriceChange
    AMOUNTS = %w[amount first additional each].freeze
    PARTS = %w[schedule classes others].freeze

    # One amount that changes: where it stands in the plan, what it was, what it becomes.
    Amount = Struct.new(:pointer, :before, :after)

    # @return [Array<Amount>]
    attr_reader :amounts

    # @param percent [Percentage] of either sign
    # @param amount [Money] of either sign
    def initialize(percent, amount)
      @percent = percent
      @amount = amount
      @amounts = []
    end

    # @param plan [Hash] a plan document
    # @return [Hash] another one; {#amounts} grows by what differs
    def of(plan) = plan.to_h { |key, value| [key, PARTS.include?(key) ? walk(value, "/#{key}") : value] }

    private

    def walk(value, pointer)
      case value
      when Hash then value.to_h { |key, item| [key, field(key, item, "#{pointer}/#{key}")] }
      when Array then value.each_with_index.map { |item, at| walk(item, "#{pointer}/#{at}") }
      else value
      end
    end

    def field(key, value, pointer)
      return changed(value, pointer) if AMOUNTS.include?(key)
      return walk(value, pointer) unless key == "cells"

      value.each_with_index.map do |row, down|
        row.each_with_index.map { |cell, right| changed(cell, "#{pointer}/#{down}/#{right}") }
      end
    end

    def changed(text, pointer)
      return text if text.nil? || text == Grid::NONE

      before = Money.parse(text, @amount.currency)
      return text if before.zero?

      after = before + @percent.of(before) + @amount
      after = Money.zero(@amount.currency) if after.negative?
      @amounts << Amount.new(pointer, before, after) unless after == before
      after.to_s
    end
  end
end
