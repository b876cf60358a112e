# frozen_string_literal: true

module GateMile
  # The lines of one cart, told apart: those that need shipping, and those that do not.
  class Basket
    # @return [Store]
    attr_reader :store
    # @return [Lot] all lines
    attr_reader :all
    # @return [Lot] the lines that need shipping
    attr_reader :shipping

    # @param cart [Cart]
    # @param book [Book]
    # @return [Basket]
    def self.of(cart, book) = new(Lines.of(cart, book.assortment), book.store)

    # @param lines [Array<Line>]
    # @param store [Store]
    def initialize(lines, store)
      @store = store
      @all = Lot.new(lines)
      shipping = lines.select(&:ships)
      @shipping = shipping.size == lines.size ? @all : Lot.new(shipping)
    end

    # @return [Array<Line>]
    def lines = all.lines

    # @return [Array<Line>] those that need no shipping
    def staying = shipping.equal?(all) ? [] : lines.reject(&:ships)

    # @return [Array<Line>] those that ship and that some treatment reaches
    def treated = @treated ||= shipping.lines.reject { |line| line.treatments.empty? }

    # @return [Array<Array<Placed>>] what reaches them, each list of {Treatments#on} once
    def treatments
      @treatments ||= treated.each_with_object({}.compare_by_identity) do |line, found|
        found[line.treatments] = true
      end.keys
    end

    # @return [Array<Line>] those that ship and of which nobody knows a price
    def unknown = @unknown ||= shipping.lines.reject(&:known)

    # @return [Measures] of the lines that ship
    def measures = @measures ||= Measures.of(shipping, store.basis.lines == "all" ? all : shipping, store)

    # @param lines [Array<Line>] some of those that ship, in their order
    # @return [Lot] of these alone: the same one each time, so that what they come to is worked out once
    def lot(lines)
      return shipping if lines.size == shipping.lines.size

      lots[positions(lines)] ||= Lot.new(lines)
    end

    # @param lines [Array<Line>] some of those that ship
    # @return [Lot] of all others that ship
    def without(lines)
      return shipping if lines.empty?

      lots[all_positions - positions(lines)] ||= Lot.new(shipping.lines - lines)
    end

    private

    def lots = @lots ||= {}
    def all_positions = @all_positions ||= positions(shipping.lines)

    # Which lines these are, as the bits of a number.
    def positions(lines) = lines.sum { |line| 1 << line.position }
  end
end
