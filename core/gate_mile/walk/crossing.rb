# frozen_string_literal: true

module GateMile
  # Carts made of parts of others: the goods of one or of two, the address, the buyer and the moment of any. Always the
  # same ones for the same carts.
  class Crossing
    # @param carts [Array<Array(Hash, String)>] documents with their moments
    # @param count [Integer]
    def initialize(carts, count)
      @carts = carts
      @count = count
      @spread = Spread.new(1)
    end

    # @return [Array<Array(Hash, String)>]
    def list = Array.new(@count) { cross }.uniq

    private

    def any = @spread.of(@carts)

    def cross
      goods, buyer, place, moment = Array.new(4) { any }
      lines = goods.first["lines"]
      lines += any.first["lines"] if @spread.below(2).zero?
      lines = lines.map { |line| line.merge("quantity" => (1 + @spread.below(5))) } if @spread.below(3).zero?
      cart = { "lines" => lines, **buyer.first.slice("group"), **any.first.slice("coupons"),
               **any.first.slice("promotions"), **any.first.slice("offer_uses"),
               **place.first.slice("destination", "billing") }
      [cart, moment.last]
    end
  end
end
