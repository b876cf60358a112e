# frozen_string_literal: true

# Packing of published three-dimensional bin-packing classes (Martello, Pisinger and Vigo, "The three-dimensional bin
# packing problem", Operations Research 48, 2000; their recipe is from memory): bins used against the volume lower
# bound, and how long it takes.
#   bundle exec ruby perf/packing.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
$LOAD_PATH.unshift(File.expand_path("../core", __dir__))
require "gate_mile"
require_relative "sizes"

# Class => side of the bin, and how an item's sides are drawn. Classes 1 to 5 draw six in ten items of their own type.
TYPES = {
  1 => lambda { |random, side|
    [side_of(random, 1, side / 2), side_of(random, side * 2 / 3, side), side_of(random, side * 2 / 3, side)]
  },
  2 => lambda { |random, side|
    [side_of(random, side * 2 / 3, side), side_of(random, 1, side / 2), side_of(random, side * 2 / 3, side)]
  },
  3 => lambda { |random, side|
    [side_of(random, side * 2 / 3, side), side_of(random, side * 2 / 3, side), side_of(random, 1, side / 2)]
  },
  4 => ->(random, side) { Array.new(3) { side_of(random, side / 2, side) } },
  5 => ->(random, side) { Array.new(3) { side_of(random, 1, side / 2) } }
}.freeze
UNIFORM = { 6 => [10, 10], 7 => [40, 35], 8 => [100, 100] }.freeze
MILLIMETRE = GateMile::Length::UNITS["mm"]

def side_of(random, from, upto) = random.rand(from..upto)

def items(kind, count, random)
  sides = Array.new(count) do
    next Array.new(3) { side_of(random, 1, UNIFORM[kind].last) } if UNIFORM.key?(kind)

    type = random.rand(10) < 6 ? kind : (TYPES.keys - [kind]).sample(random: random)
    TYPES.fetch(type).call(random, 100)
  end
  sides.map { |one| GateMile::Packing::Item.new(one.map { |side| side * MILLIMETRE }, 1, false, 1, nil) }
end

def box(side)
  length = GateMile::Length.of(side, "mm")
  GateMile::Box.new(id: "b", name: "b", active: true,
                    size: GateMile::Sides.new(length: length, width: length, height: length))
end

def timed
  started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  [yield, Process.clock_gettime(Process::CLOCK_MONOTONIC) - started]
end

sized([10, 100, 500], [5]).each do |count|
  used = bound = took = 0
  (1..8).each do |kind|
    side = UNIFORM.fetch(kind, [100]).first
    3.times do |at|
      goods = items(kind, count, Random.new((kind * 100) + at))
      packed, seconds = timed { GateMile::Packing.new([box(side)]).pack(goods) }
      used += packed.sum(&:times)
      bound += (goods.sum(&:volume) / ((side * MILLIMETRE)**3).to_r).ceil
      took += seconds
    end
  end
  puts format("%<count>3d items: ratio %<ratio>.2f bins to the volume lower bound, %<took>.0f ms a packing " \
              "(wanted: 100 for 500)",
              count: count, ratio: used / bound.to_f, took: took / 24 * 1000)
end
alike, seconds = timed { GateMile::Packing.new([box(400)]).pack([GateMile::Packing::Item.new([90, 70, 50].map { |side| side * MILLIMETRE }, 1, false, 500, nil)]) }
puts format("500 units of one thing: %<boxes>d boxes in %<took>.0f ms", boxes: alike.sum(&:times),
                                                                        took: seconds * 1000)

# 500 different goods, 20 of each, over 40 boxes, some with a cost or a maximum weight (wanted: under a second).
random = Random.new(5)
boxes = Array.new(40) do |at|
  length, width, height = [150..900, 150..700, 100..600].map { |range| GateMile::Length.of(random.rand(range), "mm") }
  cost = GateMile::Money.new(random.rand(20..300), GateMile::Currency["GBP"]) if at.even?
  GateMile::Box.new(id: "b#{at}", name: "b#{at}", active: true, cost: cost,
                    size: GateMile::Sides.new(length: length, width: width, height: height),
                    up_to: (GateMile::Weight.of(random.rand(5..30), "kg") if (at % 3).zero?))
end
goods = Array.new(sized(500, 10)) do
  sides = Array.new(3) { random.rand(10..150) * MILLIMETRE }
  GateMile::Packing::Item.new(sides, random.rand(50..2000) * GateMile::Weight::UNITS["g"], random.rand(6).zero?, 20,
                              nil)
end
packed, seconds = timed { GateMile::Packing.new(boxes).pack(goods) }
puts format("500 goods of 20 units over 40 boxes: %<count>d parcels in %<took>.0f ms (wanted: under 1000)",
            count: packed.sum(&:times), took: seconds * 1000)
