# frozen_string_literal: true

require_relative "../../support/core"

# One box being filled, looked at by itself: cell by cell, and against what obviously fits.
class FillingTest < Minitest::Test
  include CoreSupport

  CM = GateMile::Length::UNITS["cm"]
  KG = GateMile::Weight::UNITS["kg"]

  def test_blocks_share_no_cell_and_stay_inside
    random = Random.new(41)
    Rounds.of(300).times do
      room = Array.new(3) { random.rand(2..9) }
      limit = random.rand(3).zero? ? random.rand(1..12) : nil
      goods = Array.new(random.rand(1..4)) { item(Array.new(3) { random.rand(1..5) }, random.rand(1..3), random) }
      left = goods.to_h { |one| [one, random.rand(1..12)] }
      blocks = filling(room, limit, left).blocks
      cells = blocks.flat_map { |block| cells_of(block) }
      assert_equal cells.uniq.size, cells.size, "nothing overlaps"
      assert(cells.all? { |cell| cell.zip(room).all? { |place, side| place.between?(0, side - 1) } }, "nothing sticks out")
      weight = blocks.sum { |block| block.item.weight * block.units }
      assert_operator weight, :<=, limit * KG, "nothing is too heavy" if limit
      blocks.group_by(&:item).each { |one, list| assert_operator list.sum(&:units), :<=, left[one], "nothing is put in twice" }
      blocks.each { |block| assert_includes block.item.stances, block.dims, "this side up" }
    end
  end

  # Where all goods are alike and the room is a multiple of them, all of it is used.
  def test_alike_goods_fill_a_room_that_they_divide
    random = Random.new(43)
    80.times do
      sides = Array.new(3) { random.rand(1..4) }
      times = Array.new(3) { random.rand(1..4) }
      one = item(sides, 1, nil)
      blocks = filling(sides.zip(times).map { |side, count| side * count }, nil, { one => 500 }).blocks
      assert_equal times.inject(:*), blocks.sum(&:units), [sides, times].inspect
    end
  end

  # Whoever comes first is never left out where it fits the empty box, and what is left out found no room of its own.
  def test_the_first_always_goes_in
    random = Random.new(47)
    Rounds.of(200).times do
      room = Array.new(3) { random.rand(2..8) }
      goods = Array.new(3) { item(Array.new(3) { random.rand(1..9) }, 1, random) }
      blocks = filling(room, nil, goods.to_h { |one| [one, 2] }).blocks
      first = goods.find { |one| fits?(one, room) }
      assert_equal !first.nil?, blocks.any?
      assert_same first, blocks.first.item if first
    end
  end

  def test_a_limit_of_weight_stops_before_it_is_passed
    one = item([1, 1, 1], 2, nil)
    assert_equal([3, 0, 4], [7, 1, 8].map { |limit| filling([9, 9, 9], limit, { one => 50 }).blocks.sum(&:units) })
    light = item([1, 1, 1], 1, nil)
    assert_equal [3, 1], filling([9, 9, 9], 7, { one => 50, light => 9 }).blocks.map(&:units), "what is lighter takes the rest"
  end

  private

  def item(sides, weight, random)
    GateMile::Packing::Item.new(sides.map { |side| side * CM }, weight * KG, random ? random.rand(4).zero? : false, 1, nil)
  end

  def filling(room, limit, left)
    length, width, height = room.map { |side| GateMile::Length.of(side, "cm") }
    box = GateMile::Box.new(id: "b", name: "b", active: true, size: GateMile::Sides.new(length: length, width: width, height: height),
                            up_to: limit && GateMile::Weight.of(limit, "kg"))
    GateMile::Filling.new(box, left)
  end

  def fits?(item, room) = item.stances.any? { |dims| dims.zip(room).all? { |side, free| side <= free * CM } }

  def cells_of(block)
    ranges = block.at.zip(block.extent).map { |at, side| [*(at / CM)...((at + side) / CM)] }
    ranges[0].product(ranges[1], ranges[2])
  end
end
