# frozen_string_literal: true

module GateMile
  # How goods become parcels: one: all in one, up to a weight where one is named, then the next; unit: each unit by
  # itself; fixed: all in one of a fixed outer size; boxes: packed into the store's boxes.
  #
  # up_to: {Weight} or nil; size: {Sides} of the fixed one; tare: {Weight} of its packing, or nil; divisor: number of
  # `per` for one unit of weight, the volumetric divisor: cm³ for a kilogram or in³ for a pound; nil for none;
  # boxes: ids of those that are used, nil for all of the store's; unit_weight, unit_size: {Weight} and {Sides} that
  # stand in, in parcels, for a unit that has none of its own, or nil.
  class ParcelPolicy < Value.of(:kind, :up_to, :size, :tare, :divisor, :per, :boxes, :unit_weight, :unit_size)
    KINDS = %w[one unit fixed boxes].freeze
    PER = { "kg" => [Volume::UNITS["cm3"], Weight::UNITS["kg"]], "lb" => [Volume::UNITS["in3"], Weight::UNITS["lb"]] }
          .freeze

    DEFAULT = new(kind: :one, per: "kg")

    # @param volume [Integer, Rational, nil] base units
    # @return [Integer, Rational, nil] volumetric weight in base units; 0 without a divisor
    def volumetric(volume)
      return 0 if divisor.nil?

      space, mass = PER.fetch(per)
      volume && (Rational(volume * mass) / (space * divisor))
    end

    # @param id [String] of a box that goes
    # @return [ParcelPolicy] one that named no other has none left
    def without_box(id) = boxes&.include?(id) ? with(boxes: boxes - [id]) : self

    # @param lot [Lot]
    # @return [Boolean] whether it is one parcel, whatever is in it
    def together?(lot)
      return false unless kind == :one && unit_weight.nil? && unit_size.nil?

      up_to.nil? || (!lot.weight.nil? && lot.weight <= up_to.base)
    end

    # @param units [Array<Unit>] that are one parcel
    # @return [Array<Array(Unit, Integer)>] what is in it, in the order in which it is put in
    def inside(units) = all(up_to ? Filled.in_order(units) : units)

    # @param units [Array<Unit>]
    # @param boxes [Array<Box>] of the store
    # @return [Array<Parcel>, Refusal]
    def parcels(units, boxes = [])
      units = units.map { |unit| Unit::Stated.new(unit, unit_weight, unit_size) } if unit_weight || unit_size
      case kind
      when :boxes then Boxed.new(self, boxes).parcels(units)
      when :unit then units.map { |unit| single(unit) }
      when :fixed then [Parcel.new(all(units), 1, outside: size, tare: tare)]
      else up_to ? Filled.new(up_to).parcels(units) : [Parcel.new(all(units), 1)]
      end
    end

    # What stands in for a weight or a size that is not known.
    # @param units [Array<Unit>]
    # @return [Array<Hash>] :names, and :weight or :size
    def stand_ins(units)
      [[:weight, unit_weight], [:size, unit_size && unit_size.to_h.values.join(" × ")]].filter_map do |field, text|
        bare = units.reject { |unit| field == :size ? unit.sides : unit.weight }
        { names: bare.map(&:label).uniq, field => text.to_s } if text && bare.any?
      end
    end

    # @param unit [Unit]
    # @return [Parcel] of one alone, as it is
    def single(unit) = Parcel.new([[unit, 1]], unit.times, outside: unit.sides)

    # @param parcel [Parcel]
    # @return [Integer, Rational, nil] the larger of actual and volumetric weight, nil where one is not known
    def billable(parcel)
      space = volumetric(parcel.volume)
      parcel.weight && space && [parcel.weight, space].max
    end

    private

    def all(units) = units.map { |unit| [unit, unit.times] }
  end
end
