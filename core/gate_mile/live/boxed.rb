# frozen_string_literal: true

module GateMile
  # Makes parcels of units by boxes: goods in cartons of their own are parcels already, the others are packed.
  class Boxed
    # @param policy [ParcelPolicy]
    # @param boxes [Array<Box>] of the store
    def initialize(policy, boxes)
      @policy = policy
      @boxes = boxes.select { |box| box.active && (policy.boxes.nil? || policy.boxes.include?(box.id)) }
    end

    # @param units [Array<Load>] single units, each so many times
    # @return [Array<ParcelPolicy::Parcel>, Refusal]
    def parcels(units)
      missing = missing(units)
      return missing if missing

      cartons, loose = units.partition { |unit| unit.line.packing == "carton" }
      boxes = loose.empty? ? [] : packed(loose)
      boxes.is_a?(Refusal) ? boxes : cartons.map { |unit| @policy.single(unit) } + boxes
    end

    private

    def missing(units)
      { no_weight: :weight, no_size: :volume }.each do |code, field|
        found = units.reject { |unit| unit[field] }
        next if found.empty?

        return Refusal.new(code: code, incomplete: true, numbers: { names: names(found) })
      end
      nil
    end

    def names(units) = units.flat_map(&:names).uniq

    def packed(units)
      return Refusal.new(code: :no_boxes, incomplete: true, numbers: {}) if @boxes.empty?

      packing = Packing.new(@boxes, ->(weight, volume) { [weight, @policy.volumetric(volume)].max })
      items = units.map { |unit| item(unit) }
      misfits = packing.misfits(items).map(&:load)
      return Refusal.new(code: :no_box, numbers: { names: names(misfits) }) if misfits.any?

      packing.pack(items).map { |one| parcel(one) }
    end

    def item(unit)
      Packing::Item.new(@policy.sides(unit), unit.weight, unit.line.packing == "upright", unit.times, unit)
    end

    def value(one) = one.contents.sum { |item, count| item.load.value * count }
    def contents(one) = @policy.contents(one.contents.map { |item, count| [item.load, count] })

    def parcel(one)
      outer = one.box.outside.to_h.values.map(&:base)
      ParcelPolicy::Parcel.new(one.units, one.weight, one.volume, one.times, value(one), outer.max, contents(one),
                               one, outer)
    end
  end
end
