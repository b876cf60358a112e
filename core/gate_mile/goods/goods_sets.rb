# frozen_string_literal: true

module GateMile
  # What all lines of a cart are together, each list put together when somebody asks.
  class GoodsSets
    # @param lines [Array<Line>]
    def initialize(lines)
      @lines = lines
      @found = {}
    end

    # @return [Boolean] whether something among them bears the hazard mark
    def hazardous?
      @hazardous = @lines.any?(&:hazardous) if @hazardous.nil?
      @hazardous
    end

    # @param list [Symbol] classes, skus or tags
    # @return [Array<String, nil>]
    def all(list) = set(list).keys

    # @param list [Symbol]
    # @param values [Array<String>]
    # @return [Boolean] whether one of these is there
    def any?(list, values)
      there = set(list)
      values.any? { |value| there.key?(value) }
    end

    private

    def set(list) = @found[list] ||= list == :classes ? classes : kinds(list)

    def classes
      @lines.to_h { |line| [line.shipping_class, true] }
    end

    def kinds(list)
      @lines.each_with_object({}) do |line, found|
        (list == :skus ? line.kind.skus : line.kind.tags).each { |value| found[value] = true }
      end
    end
  end
end
