# frozen_string_literal: true

module GateMile
  # Sorts ordinary lines into the loads that a plan prices.
  class Loads
    GROUPS = %w[cart class product unit parcel].freeze

    # @param lines [Array<Line>] that have a price and ship
    # @param basis [Basis] of their value
    # @param policy [ParcelPolicy]
    # @param boxes [Array<Box>] of the store
    # @param counted [Array<Line>] those whose value a load of the whole cart has
    def initialize(lines, basis, policy, boxes: [], counted: lines)
      @boxes = boxes
      @counted = counted
      @lines = lines
      @basis = basis
      @policy = policy
      @by = {}
    end

    # @param group [String] one of GROUPS
    # @return [Array<Load>, Refusal]
    def by(group) = @by[group] ||= sorted(group)

    # @param lines [Array<Line>]
    # @return [Loads] of other lines, looked at in the same way
    def with(lines) = Loads.new(lines, @basis, @policy, boxes: @boxes)

    # @return [Array<ParcelPolicy::Parcel>, Refusal]
    def parcels = @parcels ||= @policy.parcels(units, @boxes)

    # @return [Array<Hash>] what the policy lets stand in for weights and sizes that are not known
    def stand_ins = @policy.stand_ins(units)

    # @return [Integer, Refusal] how many parcels the lines make
    def parcel_count
      parcels.is_a?(Refusal) ? parcels : parcels.sum(&:times)
    end

    private

    def sorted(group)
      case group
      when "class" then @lines.group_by(&:shipping_class).map { |id, lines| load(lines, group: id) }
      when "product" then @lines.group_by(&:kin).each_value.map { |lines| load(lines, label: lines.first.label) }
      when "unit" then units.map { |unit| unit.with(billable: billable([unit.with(times: 1)])) }
      when "parcel" then of_parcels
      else [whole]
      end
    end

    # The whole cart, worth what is counted of it.
    def whole = load(@lines).with(value: @counted.sum { |line| value(line) })

    def load(lines, label: nil, group: nil)
      sizes = lines.map(&:size)
      weights = lines.map(&:weight)
      Load.new(label: label, group: group, times: 1, quantity: lines.sum(&:quantity),
               value: lines.sum { |line| value(line) }, weight: (weights.sum(&:base) if weights.all?),
               volume: (lines.sum { |line| volume(line.size) * line.quantity } if sizes.all?),
               longest: (sizes.map { |size| size.longest.base }.max if sizes.all?),
               billable: -> { billable(units(lines)) }, **unknown(lines))
    end

    def unknown(lines)
      { unweighed: lines.reject(&:weight).map(&:label), unsized: lines.reject(&:size).map(&:label),
        names: lines.map(&:label) }
    end

    def volume(size) = size.length.base * size.width.base * size.height.base

    # A line without a price is worth nothing, and keeps a method from being offered long before this.
    def value(line) = line.worth ? line.worth.in(@basis).minor : 0

    # Single units, so many times each: a line's value that does not divide gives the first ones a minor unit more.
    def units(lines = @lines)
      lines.flat_map do |line|
        each, more = value(line).divmod(line.quantity)
        [[each + 1, more], [each, line.quantity - more]].filter_map do |value, times|
          unit(line, value, times) if times.positive?
        end
      end
    end

    def unit(line, value, times)
      size = line.size
      Load.new(label: line.label, times: times, quantity: 1, value: value,
               weight: line.weight && Rational(line.weight.base, line.quantity), volume: size && volume(size),
               longest: size&.longest&.base, line: line, **unknown([line]))
    end

    def of_parcels
      return parcels if parcels.is_a?(Refusal)

      parcels.map do |parcel|
        goods = parcel.contents.map(&:goods)
        inside = @lines.select { |line| goods.include?(line.goods) }
        Load.new(label: parcel.names.first(3).join(", "), times: parcel.times, quantity: parcel.units,
                 value: parcel.value, weight: parcel.weight, volume: parcel.volume, longest: parcel.longest,
                 billable: @policy.billable(parcel), **unknown(inside))
      end
    end

    # The parcels' billable weights together; only a schedule by billable weight asks for them.
    def billable(units)
      found = @policy.parcels(units, @boxes)
      return if found.is_a?(Refusal)

      found.sum { |parcel| @policy.billable(parcel)&.*(parcel.times) || (return nil) }
    end
  end
end
