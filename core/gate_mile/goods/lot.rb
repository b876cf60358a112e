# frozen_string_literal: true

module GateMile
  # Some lines of one cart and what they come to. Each figure is worked out when it is first asked for, and kept: all
  # rates of a cart share it.
  class Lot
    # @return [Array<Line>]
    attr_reader :lines

    # @param lines [Array<Line>]
    def initialize(lines)
      @lines = lines
    end

    # @return [Boolean]
    def empty? = lines.empty?

    # @return [Integer] units
    def quantity = @quantity ||= lines.sum(&:quantity)

    # @return [Integer, Rational, nil] base units; nil where some weight is not known
    def weight
      return @weight if defined?(@weight)

      @weight = lines.sum do |line|
        break unless line.unit_weight

        line.unit_weight.base * line.quantity
      end
    end

    # @return [Integer, Rational, nil] base units; nil where some size is not known
    def volume
      return @volume if defined?(@volume)

      @volume = lines.all?(&:size) ? lines.sum { |line| line.size.volume * line.quantity } : nil
    end

    # @return [Integer, Rational, nil] base units of the longest side of any unit; nil where some size is not known, or
    #   there are no lines
    def longest
      return @longest if defined?(@longest)

      @longest = lines.all?(&:size) ? lines.map { |line| line.size.longest.base }.max : nil
    end

    # @param basis [Basis] a whole one
    # @return [Integer] minor units
    def value(basis) = (@values ||= {}.compare_by_identity)[basis] ||= lines.sum { |line| line.minor(basis) }

    # @param measure [String] value, weight or quantity
    # @param basis [Basis] of a value
    # @return [Integer, Rational, nil]
    def amount(measure, basis)
      case measure
      when "value" then value(basis)
      when "weight" then weight
      else quantity
      end
    end

    # @return [Array<String>] what the lines without a weight are called
    def unweighed = lines.reject(&:unit_weight).map(&:label)

    # @return [Array<String>] what the lines without a size are called
    def unsized = lines.reject(&:size).map(&:label)

    # @return [Array<String>]
    def names = lines.map(&:label)

    # @return [Hash{String, nil => Lot}] by shipping class, in the order in which classes come
    def by_class
      @by_class ||= lines.group_by(&:shipping_class).transform_values { |list| same?(list) || Lot.new(list) }
    end

    # @return [Array<Lot>] products apart, with all their variants
    def by_product = @by_product ||= lines.group_by(&:kin).each_value.map { |list| Lot.new(list) }

    # @param classes [Array<String, nil>]
    # @return [Lot] of the lines of these classes
    def of_classes(classes)
      return by_class.fetch(classes.first) if classes.size == 1

      keep(classes) { same?(lines.select { |line| classes.include?(line.shipping_class) }) }
    end

    # Keeps what others work out of these lines.
    # @param key [Object]
    # @yieldreturn [Object] asked for once
    # @return [Object]
    def keep(key)
      @kept ||= {}
      @kept.fetch(key) { @kept[key] = yield }
    end

    private

    # @return [Lot, nil] this one, where the list is all of it
    def same?(list) = list.size == lines.size ? self : Lot.new(list)
  end
end
