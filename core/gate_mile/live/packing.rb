# frozen_string_literal: true

module GateMile
  # Packs units into boxes: nothing is lost, nothing overlaps or sticks out, and no box gets too heavy. Goods are put
  # in by blocks of like units, from the largest to the smallest, each into the free room that takes most of them; what
  # is left of a room is cut into smaller ones. Several ways are tried, and the one counts that costs the least in
  # boxes, then has the least billable weight, then the fewest parcels. The same goods are always packed alike.
  class Packing
    # Units that are alike. sides: base units; weight: of one; upright: "this side up"; load: what they are.
    Item = Struct.new(:sides, :weight, :upright, :times, :load) do
      # @return [Array<Array>] the ways in which one can stand
      def stances
        length, width, height = sides
        return [[length, width, height], [width, length, height]].uniq if upright

        sides.permutation.to_a.uniq
      end

      def volume = sides.inject(:*)
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
      def weight = blocks.sum { |block| block.item.weight * block.units } + (box.tare ? box.tare.base : 0)
      def volume = box.outside.to_h.values.map(&:base).inject(:*)
      def contents = blocks.group_by(&:item).transform_values { |list| list.sum(&:units) }
    end

    # Raised inside where an item fits no box.
    class Stuck < StandardError
    end
    private_constant :Stuck

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
      orders(items).product(choices).filter_map { |order, choice| attempt(order, choice) }
                   .min_by.with_index { |packed, at| [*score(packed), at] }
    end

    # @param packed [Array<Packed>]
    # @return [Array] cost in minor units, billable weight, number of parcels: the lower the better
    def score(packed)
      [packed.sum { |one| (one.box.cost ? one.box.cost.minor : 0) * one.times },
       packed.sum { |one| @billable.call(one.weight, one.volume) * one.times }, packed.sum(&:times)]
    end

    private

    def fits?(box, item)
      limit = box.load_limit
      room = box.room
      (limit.nil? || item.weight <= limit) && item.stances.any? { |dims| within?(dims, room) }
    end

    def within?(dims, room) = dims[0] <= room[0] && dims[1] <= room[1] && dims[2] <= room[2]

    # Larger ones first; by volume, by the longest side, by weight.
    def orders(items)
      keys = [lambda(&:volume), ->(item) { item.sides.max }, lambda(&:weight)]
      keys.map { |key| items.sort_by.with_index { |item, at| [-key.call(item), -item.volume, at] } }.uniq
    end

    # How the next box is chosen: always the same one where it takes anything, or whichever is the best for its price.
    def choices = @boxes + [nil]

    def attempt(order, choice)
      left = order.to_h { |item| [item, item.times] }
      packed = []
      until left.empty?
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

      tried = @boxes.map { |box| fill(box, left) }.reject { |one| one.blocks.empty? }
      tried.min_by.with_index { |one, at| [price_of(one), at] } || raise(Stuck)
    end

    # What a packed box costs for each unit of room that it uses; boxes without a cost cost their volume.
    def price_of(one)
      used = one.blocks.sum { |block| block.item.volume * block.units }
      used = 1 if used.zero?
      cost = one.box.cost&.minor
      [cost ? Rational(cost, used) : 0, Rational(one.volume, used)]
    end

    # The cheapest box that takes all that is in it.
    def smaller(one)
      contents = one.contents
      tried = @boxes.map { |box| Packed.new(box, fill(box, contents).blocks, one.times) }
      whole = tried.select { |other| other.units == one.units }
      [one, *whole].min_by.with_index { |other, at| [*score([other]), at] }
    end

    # @param left [Hash{Item => Integer}] in the order in which they are put in
    # @return [Packed] once; what does not go in is left out
    def fill(box, left)
      rooms = [[[0, 0, 0], box.room]]
      limit = box.load_limit
      blocks = []
      left.each do |item, count|
        while count.positive? && (block = best_block(rooms, item, count, limit))
          blocks << block
          count -= block.units
          limit &&= limit - (item.weight * block.units)
        end
      end
      Packed.new(box, blocks, 1)
    end

    # Takes the room of the block that has most units, and among these fills its room best.
    def best_block(rooms, item, count, limit)
      count = [count, (limit / item.weight).floor].min if limit && item.weight.positive?
      return if count < 1

      found = rooms.each_index.flat_map { |at| blocks_in(rooms, at, item, count) }
                   .min_by { |at, block| [-block.units, waste(rooms[at].last, block), at] } or return
      cut(rooms, *found)
      found.last
    end

    def blocks_in(rooms, at, item, count)
      corner, room = rooms[at]
      item.stances.filter_map do |dims|
        [at, Block.new(item, corner, counts(room, dims, count), dims)] if within?(dims, room)
      end
    end

    # Along the length first, then the width, then upwards: whole rows and layers only, but for the first.
    def counts(room, dims, count)
      across = dims.zip(room).map { |side, free| side.zero? ? count : (free / side).floor }
      along = [across[0], count].min
      beside = [across[1], count / along].min
      [along, beside, [across[2], count / (along * beside)].min]
    end

    def waste(room, block) = block.extent.zip(room).sum { |taken, free| free - taken }

    # What is left of a room beside, behind and above a block: the larger rest in one piece.
    def cut(rooms, at, block)
      corner, room = rooms.delete_at(at)
      taken = block.extent
      x, y, z = corner
      beside, behind, above = room.zip(taken).map { |free, used| free - used }
      wide = beside * room[1] >= behind * room[0]
      rests = [[[x + taken[0], y, z], [beside, wide ? room[1] : taken[1], room[2]]],
               [[x, y + taken[1], z], [wide ? taken[0] : room[0], behind, room[2]]],
               [[x, y, z + taken[2]], [taken[0], taken[1], above]]]
      rooms.concat(rests.select { |_, free| free.all?(&:positive?) })
      rooms.sort_by! { |place, free| [place[2], free.inject(:*), place] }
    end
  end
end
