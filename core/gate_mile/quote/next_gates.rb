# frozen_string_literal: true

module GateMile
  # How many units more or fewer of which line change a price: for each rate of the cart's zone the nearest one in each
  # direction.
  class NextGates
    # How far is looked, in units.
    FAR = 60

    # rate: id; line: place of the line; by: units more, or fewer where negative; price: {Money} then, nil where it is
    # not available any more.
    Gate = Struct.new(:rate, :line, :by, :price)

    # @param book [Book]
    # @param cart [Cart]
    # @param at [Time] the moment of the checkout
    def initialize(book, cart, at:)
      @book = book
      @at = at
      @cart = cart
      @zone = book.zones.land(cart.destination).zone
    end

    # @return [Array<Gate>]
    def list
      return [] if @zone.nil?

      found = @cart.lines.each_index.flat_map { |line| along(line) }
      found.group_by { |gate| [gate.rate, gate.by.positive?] }.each_value.map do |gates|
        gates.min_by do |gate|
          gate.by.abs
        end
      end
    end

    private

    def along(line)
      here = @cart.lines[line].quantity
      lines = PriceLines.new(@book, @cart, "quantity", here + FAR, line: line, at: @at).of(@book.rates_of(@zone))
      lines.flat_map do |rate, pieces|
        at = pieces.index { |piece| here.between?(piece.from, piece.to) }
        at ? [more(rate, line, pieces, at, here), fewer(rate, line, pieces, at, here)].compact : []
      end
    end

    def more(rate, line, pieces, at, here)
      piece = pieces[at]
      return Gate.new(rate, line, 1, sloped(piece, here + 1)) unless piece.level? || piece.to == here

      following = pieces[at + 1]
      Gate.new(rate, line, following.from - here, following.price) if following
    end

    def fewer(rate, line, pieces, at, here)
      piece = pieces[at]
      return Gate.new(rate, line, -1, sloped(piece, here - 1)) unless piece.level? || piece.from == here

      before = at.positive? && pieces[at - 1]
      Gate.new(rate, line, before.to - here, before.last) if before
    end

    def sloped(piece, at)
      share = Rational(at - piece.from, piece.to - piece.from)
      piece.price + ((piece.last - piece.price) * share)
    end
  end
end
