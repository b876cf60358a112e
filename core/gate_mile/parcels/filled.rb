# frozen_string_literal: true

module GateMile
  # Makes parcels up to a weight: from the heaviest unit on, one after the other into the parcel that is open, as long
  # as the weight allows; a unit is never cut. The order of the lines has no say in it.
  class Filled
    # @param up_to [Weight]
    def initialize(up_to)
      @up_to = up_to
      @limit = up_to.base
    end

    # @param units [Array<Unit>]
    # @return [Array<Unit>] from the heaviest to the lightest; of those that weigh the same what they are decides, and
    #   then the dearer one
    def self.in_order(units)
      sorted = units.sort_by { |unit| -unit.weight }
      return sorted if sorted.each_cons(2).none? { |one, other| one.weight == other.weight }

      units.sort_by { |unit| [-unit.weight, unit.line.order, -unit.value] }
    end

    # @param units [Array<Unit>]
    # @return [Array<Parcel>, Refusal]
    def parcels(units)
      missing = units.reject(&:weight)
      return Refusal.new(:no_weight) { { names: names(missing) } } if missing.any?

      heavy = units.select { |unit| unit.weight > @limit }
      return Refusal.new(:too_heavy) { { names: names(heavy), most: @up_to.to_s } } if heavy.any?

      pack(Filled.in_order(units))
    end

    private

    # Of a line that fills several parcels the last one stays open for what comes next.
    def pack(units)
      done = []
      open = []
      room = @limit
      units.each do |unit|
        fits = unit.weight.zero? ? unit.times : [room.div(unit.weight), unit.times].min
        open << [unit, fits] if fits.positive?
        room -= unit.weight * fits
        next if fits == unit.times

        open, room = fill(done, open, unit, unit.times - fits)
      end
      open.any? ? done << Parcel.new(open, 1) : done
    end

    # @return [Array(Array, Numeric)] the parcel that is open then, and its room
    def fill(done, open, unit, left)
      done << Parcel.new(open, 1) if open.any?
      each = @limit.div(unit.weight)
      full = (left - 1) / each
      done << Parcel.new([[unit, each]], full) if full.positive?
      rest = left - (full * each)
      [[[unit, rest]], @limit - (unit.weight * rest)]
    end

    def names(units) = units.map(&:label).uniq
  end
end
