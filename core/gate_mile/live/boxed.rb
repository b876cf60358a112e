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
      boxes.is_a?(Refusal) ? boxes : cartons.map { |unit| carton(unit) } + boxes
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

    def carton(unit)
      @policy.packed([[unit, 1]], unit.times).tap { |parcel| parcel.size = sides(unit) }
    end

    def sides(unit) = unit.line.size.then { |size| [size.length, size.width, size.height].map(&:base) }

    def packed(units)
      return Refusal.new(code: :no_boxes, incomplete: true, numbers: {}) if @boxes.empty?

      packing = Packing.new(@boxes, ->(weight, volume) { [weight, @policy.volumetric(volume)].max })
      items = units.map { |unit| item(unit) }
      misfits = packing.misfits(items).map(&:load)
      return Refusal.new(code: :no_box, numbers: { names: names(misfits) }) if misfits.any?

      packing.pack(items).map { |one| parcel(one) }
    end

    def item(unit) = Packing::Item.new(sides(unit), unit.weight, unit.line.packing == "upright", unit.times, unit)

    def parcel(one)
      outer = one.box.outside.to_h.values.map(&:base)
      ParcelPolicy::Parcel.new(one.units, one.weight, one.volume, one.times,
                               one.contents.sum { |item, count| item.load.value * count }, outer.max,
                               names(one.blocks.map { |block| block.item.load }), one, outer)
    end
  end
end
