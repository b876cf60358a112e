# frozen_string_literal: true

module GateMile
  # One box being filled: goods in the order in which they are given, each by blocks of like units into the free room
  # that takes most of them. What does not go in is left out.
  class Filling
    # A free room of a box. rank: the order in which rooms are looked at: low ones first, then small ones; sides: from
    # the shortest to the longest.
    Room = Struct.new(:at, :free, :volume, :rank, :sides) do
      def self.of(corner, free)
        volume = free[0] * free[1] * free[2]
        new(corner, free, volume, [corner[2], volume, corner], free.sort)
      end
    end

    # Where a block may stand: so many along each side of a room, each of these dimensions; units: in all; waste: what
    # of the room's sides it leaves.
    Place = Struct.new(:room, :counts, :dims, :units, :waste) do
      def self.of(room, counts, dims)
        waste = room.free[0] - (counts[0] * dims[0]) + room.free[1] - (counts[1] * dims[1]) +
                room.free[2] - (counts[2] * dims[2])
        new(room, counts, dims, counts[0] * counts[1] * counts[2], waste)
      end

      def better?(other) = units > other.units || (units == other.units && waste < other.waste)
    end
    private_constant :Room, :Place

    # @return [Array<Packing::Block>] what went in
    attr_reader :blocks
    # @return [Integer] looks into free rooms that it took
    attr_reader :looks

    # @param dims [Array] of a thing as it stands
    # @param room [Array]
    # @return [Boolean]
    def self.within?(dims, room) = dims[0] <= room[0] && dims[1] <= room[1] && dims[2] <= room[2]

    # @param box [Box]
    # @param left [Hash{Packing::Item => Integer}] in the order in which they are put in
    def initialize(box, left)
      @looks = 0
      @rooms = [Room.of([0, 0, 0], box.room)]
      @limit = box.load_limit
      @least = least(left)
      @blocks = []
      lightest = left.each_key.map(&:weight).min
      left.each do |item, count|
        break if @rooms.empty? || (@limit && @limit < lightest)

        put_in(item, count)
      end
    end

    private

    def put_in(item, count)
      while count.positive? && (block = best_block(item, count))
        @blocks << block
        count -= block.units
        @limit &&= @limit - (item.weight * block.units)
      end
    end

    # What a room must have to take anything: the volume, and each side.
    def least(left) = [left.each_key.map(&:volume).min, left.each_key.flat_map(&:sides).min]

    # Takes the room of the block that has most units, and among these fills its room best.
    def best_block(item, count)
      count = [count, (@limit / item.weight).floor].min if @limit && item.weight.positive?
      return if count < 1

      place = best_place(item, count) or return
      room = place.room
      Packing::Block.new(item, room.at, place.counts, place.dims).tap { |block| cut(room, block) }
    end

    # @return [Place, nil]
    def best_place(item, count)
      @looks += @rooms.size
      best = nil
      short, middle, long = item.by_length
      @rooms.each do |room|
        # What fits in no way fits by its sides in order neither.
        sides = room.sides
        next if long > sides[2] || middle > sides[1] || short > sides[0]

        item.stances.each do |dims|
          next unless Filling.within?(dims, room.free)

          place = Place.of(room, counts(room.free, dims, count), dims)
          best = place if best.nil? || place.better?(best)
        end
      end
      best
    end

    # Along the length first, then the width, then upwards: whole rows and layers only, but for the first.
    def counts(room, dims, count)
      across = dims.zip(room).map { |side, free| side.zero? ? count : (free / side).floor }
      along = [across[0], count].min
      beside = [across[1], count / along].min
      [along, beside, [across[2], count / (along * beside)].min]
    end

    # What is left of a room beside, behind and above a block: the larger rest in one piece.
    def cut(room, block)
      @rooms.delete_at(@rooms.index { |other| other.equal?(room) })
      taken = block.extent
      x, y, z = room.at
      free = room.free
      beside, behind, above = free.zip(taken).map { |all, used| all - used }
      wide = beside * free[1] >= behind * free[0]
      rests = [[[x + taken[0], y, z], [beside, wide ? free[1] : taken[1], free[2]]],
               [[x, y + taken[1], z], [wide ? taken[0] : free[0], behind, free[2]]],
               [[x, y, z + taken[2]], [taken[0], taken[1], above]]]
      rests.each { |corner, sides| put(Room.of(corner, sides)) if sides.min.positive? }
    end

    # Rooms that can't take anything any more are forgotten.
    def put(room)
      return if room.volume < @least.first || room.free.min < @least.last

      @rooms.insert(@rooms.bsearch_index { |other| (other.rank <=> room.rank) >= 0 } || @rooms.size, room)
    end
  end
end
