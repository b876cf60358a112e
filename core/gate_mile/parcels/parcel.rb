# frozen_string_literal: true

module GateMile
  # One parcel of some units, and how many there are of it. What it weighs, measures and holds is worked out when
  # somebody asks.
  class Parcel
    # So many units of some goods, told apart by what they are ({Line#identity}) and not by what they are called.
    Content = Struct.new(:goods, :label, :units)

    # @return [Integer] how many there are of it
    attr_reader :times
    # @return [Packing::Packed, nil] where it is a box of the store's
    attr_reader :packed

    # @param inside [Array<Array(Unit, Integer)>, #call] what is in it: units, each so many times; or what says so
    # @param times [Integer]
    # @param value [Integer, nil] minor units of what is in one, where that is not the units' own
    # @param packed [Packing::Packed, nil]
    # @param outside [Sides, nil] of what is around the units; nil where they stay as they are
    # @param tare [Weight, nil] of it
    def initialize(inside, times, value: nil, packed: nil, outside: nil, tare: nil)
      @inside = inside
      @times = times
      @value = value
      @packed = packed
      @outside = outside
      @tare = tare
    end

    # @return [Array<Array(Unit, Integer)>]
    def inside = @inside.respond_to?(:call) ? @inside = @inside.call : @inside

    # @return [Integer]
    def units = inside.sum { |_, count| count }

    # @return [Integer] minor units
    def value = @value || inside.sum { |unit, count| unit.value * count }

    # @return [Integer, Rational, nil] base units, nil where it is not known of a unit in it; the next ones alike
    def weight
      return packed.weight if packed

      found = total(:weight)
      found && @tare ? found + @tare.base : found
    end

    def volume = @outside ? @outside.volume : total(:volume)

    def longest
      return @outside.longest.base if @outside

      sides = inside.map { |unit,| unit.longest }
      sides.max if sides.all?
    end

    # @return [Array<Numeric>, nil] length, width and height as carriers measure it, where known
    def size = @outside && @outside.to_h.values.map(&:base)

    # @return [Array<Content>]
    def contents
      @contents ||= inside.group_by { |unit,| unit.line.identity }.map do |goods, list|
        Content.new(goods, list.first.first.label, list.sum(&:last))
      end
    end

    # @return [Array<String>] of the goods in it
    def names = contents.map(&:label).uniq

    private

    def total(field)
      inside.sum do |unit, count|
        each = unit.public_send(field)
        break if each.nil?

        each * count
      end
    end
  end
end
