# frozen_string_literal: true

module GateMile
  # Packs units into boxes: nothing is lost, nothing overlaps or sticks out, and no box gets too heavy. Goods are put
  # in by blocks of like units, from the largest to the smallest, each into the free room that takes most of them; what
  # is left of a room is cut into smaller ones. Several ways are tried, and the one counts that costs the least in
  # boxes, then has the least billable weight, then the fewest parcels. The same goods are always packed alike, in
  # whatever order they come.
  class Packing
    # Units that are alike. sides: base units; weight: of one; upright: "this side up"; load: what they are. Two items
    # are two, however like each other: the same goods may be on several lines.
    class Item
      # @return [Object]
      attr_reader :sides, :weight, :upright, :times, :load
      # @return [Integer, Rational] of one
      attr_reader :volume
      # @return [Array<Array>] the ways in which one can stand
      attr_reader :stances
      # @return [Array] its sides from the shortest to the longest
      attr_reader :by_length

      # @param sides [Array] length, width and height
      # @param weight [Integer, Rational]
      # @param upright [Boolean]
      # @param times [Integer] how many there are
      # @param load [Object]
      def initialize(sides, weight, upright, times, load)
        @sides = sides
        @weight = weight
        @upright = upright
        @times = times
        @load = load
        @volume = sides.inject(:*)
        @by_length = sides.sort
        length, width, height = sides
        @stances = upright ? [[length, width, height], [width, length, height]].uniq : sides.permutation.to_a.uniq
      end
    end

    # Like units side by side: at their corner, so many along each side, each of these dimensions.
    Block = Struct.new(:item, :at, :counts, :dims) do
      def units = counts.inject(:*)
      # @return [Array] what the block takes up
      def extent = counts.zip(dims).map { |count, side| count * side }
    end

    # One packed box, so many times. blocks: what is in it; box: {Box}.
    Packed = Struct.new(:box, :blocks, :times) do
      def units = blocks.sum(&:units)
      def weight = load + (box.tare ? box.tare.base : 0)
      # @return [Integer, Rational] what the goods in it weigh
      def load = blocks.sum { |block| block.item.weight * block.units }
      def volume = box.outside.volume
      def contents = blocks.group_by(&:item).transform_values { |list| list.sum(&:units) }
    end

    # Looks into free rooms after which no other way is tried: from then on the way that is under way goes on with the
    # most promising box each time, so that many different goods are packed in bounded time too.
    EFFORT = 20_000

    # Raised inside where an item fits no box.
    class Stuck < StandardError
    end
    private_constant :Stuck, :EFFORT

    # @return [Integer] looks into free rooms that the last packing took
    attr_reader :looks

    # @param boxes [Array<Box>]
    # @param billable [#call] billable weight of weight and volume in base units
    def initialize(boxes, billable = ->(weight, _) { weight })
      @boxes = boxes.select(&:active)
      @billable = billable
    end

    # @param items [Array<Item>]
    # @return [Array<Item>] those that fit no box
    def misfits(items) = items.reject { |item| @boxes.any? { |box| fits?(box, item) } }

    # @param items [Array<Item>] each of which fits some box
    # @return [Array<Packed>]
    def pack(items)
      @looks = 0
      @promising = in_order_of_promise(items)
      packed = choices.product(orders(items)).each_with_object([]) do |(choice, order), found|
        break found if spent? && found.any?

        found << attempt(order, choice, found.empty?)
      end
      packed.compact.min_by.with_index { |one, at| [*score(one), at] }
    end

    # @param packed [Array<Packed>]
    # @return [Array] cost in minor units, billable weight, number of parcels: the lower the better
    def score(packed)
      packed.map { |one| score_of(one.box, one.load, one.times) }.transpose.map(&:sum)
    end

    private

    def score_of(box, load, times)
      weight = load + (box.tare ? box.tare.base : 0)
      [(box.cost ? box.cost.minor : 0) * times, @billable.call(weight, box.outside.volume) * times, times]
    end

    def fits?(box, item)
      limit = box.load_limit
      room = box.room
      (limit.nil? || item.weight <= limit) && item.stances.any? { |dims| Filling.within?(dims, room) }
    end

    def spent? = @looks >= EFFORT

    # By what goods like these would cost in each box, and how much of them it would take.
    def in_order_of_promise(items)
      density = items.sum { |item| item.weight * item.times } / items.sum { |item|
        item.volume * item.times
      }.clamp(1..).to_r
      @boxes.sort_by.with_index do |box, at|
        limit = box.load_limit
        takes = [box.room.inject(:*), (limit / density if limit && density.positive?)].compact.min
        [rate(box, takes).first, -takes, at]
      end
    end

    # Larger ones first; by volume, by the longest side, by weight. Among like ones what they are decides, never the
    # place at which they came.
    def orders(items)
      keys = [lambda(&:volume), ->(item) { item.sides.max }, lambda(&:weight)]
      keys.map do |key|
        items.sort_by.with_index do |item, at|
          [-key.call(item), -item.volume, item.sides, -item.weight, item.upright ? 0 : 1, -item.times, at]
        end
      end.uniq
    end

    # How the next box is chosen: whichever is the best for its price, or always the same one where it takes anything.
    def choices = [nil] + @boxes

    # @param needed [Boolean] whether there is no other way yet, so that it must come to its end
    # @return [Array<Packed>, nil]
    def attempt(order, choice, needed)
      left = order.to_h { |item| [item, item.times] }
      packed = []
      until left.empty?
        return if spent? && !needed

        found = next_box(left, choice)
        take(left, found)
        packed << found
      end
      packed.map { |one| smaller(one) }
    rescue Stuck
      nil
    end

    # As many boxes like it as there are goods for.
    def take(left, found)
      contents = found.contents
      found.times = contents.map { |item, count| left.fetch(item) / count }.min
      contents.each do |item, count|
        rest = left.fetch(item) - (count * found.times)
        rest.zero? ? left.delete(item) : left[item] = rest
      end
    end

    def next_box(left, choice)
      filled = choice && fill(choice, left)
      return filled if filled&.blocks&.any?

      (spent? ? promising(left) : best(left)) || raise(Stuck)
    end

    # The best for its price. A box can use no more than its room and no more than there is, so that one that would be
    # dearer even then is not filled.
    def best(left)
      there = left.sum { |item, count| item.volume * count }
      best = price = nil
      bounds(there).each do |bound, at, box|
        break if best && ((bound <=> price.first(2)) == 1 || spent?)

        one = fill(box, left)
        own = [*price_of(one), at]
        if one.blocks.any? && (best.nil? || (own <=> price) == -1)
          best = one
          price = own
        end
      end
      best
    end

    def bounds(there)
      @boxes.each_with_index.map { |box, at| [rate(box, [box.room.inject(:*), there].min), at, box] }
            .sort_by { |bound, at,| [bound, at] }
    end

    # The first of the promising boxes that takes the largest that is left.
    def promising(left)
      first = left.each_key.first
      @promising.lazy.select { |box| fits?(box, first) }.map { |box| fill(box, left) }.find { |one| one.blocks.any? }
    end

    # What a packed box costs for each unit of room that it uses; boxes without a cost cost their volume.
    def price_of(one) = rate(one.box, one.blocks.sum { |block| block.item.volume * block.units })

    def rate(box, used)
      used = 1 if used.zero?
      [box.cost ? Rational(box.cost.minor, used) : 0, Rational(box.outside.volume, used)]
    end

    # The cheapest box that takes all that is in it: from the cheapest on, as far as it is cheaper.
    def smaller(one)
      contents = one.contents
      load = one.load
      now = score_of(one.box, load, one.times)
      used = one.blocks.sum { |block| block.item.volume * block.units }
      cheaper = @boxes.each_with_index.map { |box, at| [score_of(box, load, one.times), at, box] }
      cheaper.select! { |own, _, box| (own <=> now) == -1 && box.room.inject(:*) >= used }
      cheaper.sort_by { |own, at,| [own, at] }.each do |_, _, box|
        other = Packed.new(box, fill(box, contents).blocks, one.times)
        return other if other.units == one.units
      end
      one
    end

    def fill(box, left)
      filling = Filling.new(box, left)
      Packed.new(box, filling.blocks, 1).tap { @looks += filling.looks }
    end
  end
end
