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

    # One parcel of some units. weight, volume: base units, nil where not known; times: how many there are of it.
    # packed: {Packing::Packed}, of the kind boxes; size: [length, width, height] as carriers measure it, where known;
    # contents: what is in one, as [{Content}].
    Parcel = Struct.new(:units, :weight, :volume, :times, :value, :longest, :contents, :packed, :size) do
      # @return [Array<String>] of the goods in it
      def names = contents.map(&:label).uniq
    end

    # So many units of some goods, told apart by what they are ({Line#goods}) and not by what they are called.
    Content = Struct.new(:goods, :label, :units)

    class << self
      # @param reader [Reader] of what may have a policy of its own
      # @return [ParcelPolicy, nil]
      def of(reader) = reader.object("parcels", required: false)&.then { |item| read(item) }

      # @param reader [Reader]
      # @return [ParcelPolicy]
      def read(reader)
        kind = reader.choice("kind", among: KINDS)
        policy = new(kind: kind&.to_sym, up_to: kind == "one" ? weight(reader, "up_to") : nil,
                     size: kind == "fixed" ? reader.object("size")&.then { |item| Sides.read(item) } : nil,
                     tare: kind == "fixed" ? weight(reader, "tare") : nil, divisor: divisor(reader),
                     per: reader.choice("per", among: PER.keys, default: "kg"),
                     boxes: (reader.texts("boxes", most: 200) if kind == "boxes" && reader.given?("boxes", read: true)),
                     unit_weight: weight(reader, "unit_weight"), unit_size: unit_size(reader))
        reader.finish
        policy
      end

      private

      def weight(reader, key)
        reader.parsed(key, required: false) do |text|
          Weight.parse(text).tap { |found| raise Malformed, :zero if found.zero? && key != "tare" }
        end
      end

      def unit_size(reader)
        reader.object("unit_size", required: false)&.then { |item| Sides.read(item) }.tap do |sides|
          sides.to_h.each { |side, length| reader.problem(["unit_size", side], :zero) if length&.zero? }
        end
      end

      def divisor(reader)
        reader.parsed("divisor", required: false) do |text|
          Decimal.parse(text).tap { |found| raise Malformed, :zero unless found.positive? }
        end
      end
    end

    DEFAULT = new(kind: :one, per: "kg")

    # @param volume [Integer, Rational, nil] base units
    # @return [Integer, Rational, nil] volumetric weight in base units; 0 without a divisor
    def volumetric(volume)
      return 0 if divisor.nil?

      space, mass = PER.fetch(per)
      volume && (Rational(volume * mass) / (space * divisor))
    end

    # @param units [Array<Load>] single units, each so many times
    # @param boxes [Array<Box>] of the store
    # @return [Array<Parcel>, Refusal]
    def parcels(units, boxes = [])
      units = units.map { |unit| stated(unit) }
      case kind
      when :boxes then Boxed.new(self, boxes).parcels(units)
      when :unit then units.map { |unit| single(unit) }
      when :fixed then [fixed(units)]
      else up_to ? filled(units) : [packed(units.map { |unit| [unit, unit.times] }, 1)]
      end
    end

    # What stands in for a weight or a size that is not known.
    # @param units [Array<Load>] single units
    # @return [Array<Hash>] :names, and :weight or :size
    def stand_ins(units)
      [[:weight, unit_weight], [:size, unit_size && unit_size.dump.values.join(" × ")]].filter_map do |field, text|
        bare = units.reject { |unit| unit[field == :size ? :volume : field] }
        { names: names(bare), field => text.to_s } if text && bare.any?
      end
    end

    # @param unit [Load]
    # @return [Array] length, width and height in base units
    def sides(unit) = (unit.line.size || unit_size).to_h.values.map(&:base)

    # @param unit [Load]
    # @return [Parcel] of it alone, as it is
    def single(unit)
      packed([[unit, 1]], unit.times).tap { |parcel| parcel.size = sides(unit) if unit.volume }
    end

    # @param parcel [Parcel]
    # @return [Integer, Rational, nil] the larger of actual and volumetric weight, nil where one is not known
    def billable(parcel)
      space = volumetric(parcel.volume)
      parcel.weight && space && [parcel.weight, space].max
    end

    # @return [Hash] for JSON
    def dump
      { "kind" => kind.to_s, "up_to" => up_to&.to_s, "size" => size&.dump, "tare" => tare&.to_s,
        "divisor" => divisor && Decimal.write(divisor), "per" => (per if divisor), "boxes" => boxes,
        "unit_weight" => unit_weight&.to_s, "unit_size" => unit_size&.dump }.compact
    end

    # @param content [Array<Array(Load, Integer)>] units, each so many times
    # @param times [Integer]
    # @return [Parcel] without a box around it
    def packed(content, times)
      Parcel.new(content.sum { |_, count| count }, total(content, :weight), total(content, :volume), times,
                 content.sum { |unit, count| unit.value * count }, longest(content),
                 contents(content))
    end

    # @param content [Array<Array(Load, Integer)>]
    # @return [Array<Content>]
    def contents(content)
      content.group_by { |unit,| unit.line.goods }.map do |goods, list|
        Content.new(goods, list.first.first.label, list.sum(&:last))
      end
    end

    private

    def stated(unit)
      weight = unit.weight || unit_weight&.base
      return unit.with(weight: weight) if unit.volume || unit_size.nil?

      unit.with(weight: weight, volume: unit_size.to_h.values.map(&:base).inject(:*), longest: unit_size.longest.base)
    end

    def total(content, field)
      content.sum { |unit, count| unit[field]&.*(count) || (return nil) }
    end

    def longest(content)
      sides = content.map { |unit,| unit.longest }
      sides.max if sides.all?
    end

    def fixed(units)
      parcel = packed(units.map { |unit| [unit, unit.times] }, 1)
      parcel.weight += tare.base if parcel.weight && tare
      parcel.volume = size.length.base * size.width.base * size.height.base
      parcel.longest = size.longest.base
      parcel.size = [size.length, size.width, size.height].map(&:base)
      parcel
    end

    # From the heaviest on, one after the other into the parcel that is open, as long as the weight allows; a unit is
    # never cut. The order of the lines has no say in it.
    def filled(units)
      missing = units.reject(&:weight)
      return Refusal.new(code: :no_weight, incomplete: true, numbers: { names: names(missing) }) if missing.any?

      heavy = units.select { |unit| unit.weight > up_to.base }
      return Refusal.new(code: :too_heavy, numbers: { names: names(heavy), most: up_to.to_s }) if heavy.any?

      pack(units.sort_by { |unit| [-unit.weight, unit.line.order, -unit.value] })
    end

    # Of a line that fills several parcels the last one stays open for what comes next.
    def pack(units)
      done = []
      open = []
      room = up_to.base
      units.each do |unit|
        fits = unit.weight.zero? ? unit.times : [(room / unit.weight).floor, unit.times].min
        put(open, unit, fits)
        room -= unit.weight * fits
        next if fits == unit.times

        open, room = fill(done, open, unit, unit.times - fits)
      end
      open.any? ? done << packed(open, 1) : done
    end

    # @return [Array(Array, Rational)] the parcel that is open then, and its room
    def fill(done, open, unit, left)
      done << packed(open, 1) if open.any?
      each = (up_to.base / unit.weight).floor
      full = (left - 1) / each
      done << packed([[unit, each]], full) if full.positive?
      rest = left - (full * each)
      [[[unit, rest]], up_to.base - (unit.weight * rest)]
    end

    def put(open, unit, count) = (open << [unit, count] if count.positive?)

    def names(units) = units.flat_map(&:names).uniq
  end
end
