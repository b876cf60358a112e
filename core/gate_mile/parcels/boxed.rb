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

    # @param units [Array<Unit>]
    # @return [Array<Parcel>, Refusal]
    def parcels(units)
      missing = missing(units)
      return missing if missing

      cartons, loose = units.partition { |unit| unit.line.packing == "carton" }
      boxes = loose.empty? ? [] : packed(loose)
      boxes.is_a?(Refusal) ? boxes : cartons.map { |unit| @policy.single(unit) } + boxes
    end

    private

    def missing(units)
      { no_weight: :weight, no_size: :sides }.each do |code, field|
        found = units.reject(&field)
        next if found.empty?

        return Refusal.new(code) { { names: names(found) } }
      end
      nil
    end

    def names(units) = units.map(&:label).uniq

    def packed(units)
      return Refusal.new(:no_boxes) if @boxes.empty?

      packing = Packing.new(@boxes, ->(weight, volume) { [weight, @policy.volumetric(volume)].max })
      items = kinds(units)
      misfits = packing.misfits(items).flat_map(&:load)
      return Refusal.new(:no_box) { { names: names(misfits) } } if misfits.any?

      queues = items.to_h { |item| [item, item.load.map { |unit| [unit, unit.times] }] }
      packing.pack(items).flat_map { |one| parcels_of(one, queues) }
    end

    # The same goods are packed as one, however many lines they stand on and whatever a unit is worth; in an order of
    # their own, and the dearest units first.
    def kinds(units)
      found = units.group_by do |unit|
        [unit.sides.to_h.values.map(&:base), unit.weight, unit.line.packing == "upright", unit.line.identity]
      end
      found.sort_by { |(sides, weight, upright, _), list| [list.first.line.order, sides, weight, upright ? 0 : 1] }
           .map do |(sides, weight, upright, _), list|
        Packing::Item.new(sides, weight, upright, list.sum(&:times), list.sort_by { |unit| -unit.value })
      end
    end

    # A packed box, so many times: as many kinds of parcels as there are values.
    def parcels_of(one, queues)
      contents = one.contents
      found = []
      left = one.times
      while left.positive?
        alike = contents.map { |item, count| queues[item].first.last / count }.min.clamp(1, left)
        value = contents.sum { |item, count| take(queues[item], count * alike) }
        found << parcel(one, contents, alike, value / alike)
        left -= alike
      end
      found
    end

    # @return [Integer] what the next so many units are worth
    def take(queue, count)
      value = 0
      while count.positive?
        unit, there = queue.first
        used = [there, count].min
        value += unit.value * used
        count -= used
        used == there ? queue.shift : queue.first[1] -= used
      end
      value
    end

    def parcel(one, contents, times, value)
      inside = contents.map { |item, count| [item.load.first, count] }
      Parcel.new(inside, times, value: value, packed: one, outside: one.box.outside)
    end
  end
end
