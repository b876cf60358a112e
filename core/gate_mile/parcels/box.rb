# frozen_string_literal: true

module GateMile
  # A box that the merchant packs into.
  #
  # size: inner {Sides}; padding: {Length} that is kept free on each side, or nil; outer: {Sides} as carriers measure
  # it, nil for the inner ones; tare: {Weight} of the empty box and its packing, or nil; up_to: {Weight} that it may
  # weigh in all, or nil; cost: {Money} of one box, or nil.
  class Box < Value.of(:id, :name, :active, :size, :padding, :outer, :tare, :up_to, :cost)
    def initialize(size: nil, padding: nil, **)
      free = padding ? padding.base * 2 : 0
      @room = [size.length, size.width, size.height].map { |side| side.base - free }.freeze if size&.volume
      super
    end

    # @return [Array<Integer, Rational>] length, width and height that goods can have in it, in base units
    attr_reader :room

    # @return [Sides] as carriers measure it
    def outside = outer || size

    # @return [Integer, Rational, nil] what goods in it may weigh, nil for any weight
    def load_limit = up_to && (up_to.base - (tare ? tare.base : 0))
  end
end
