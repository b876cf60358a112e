# frozen_string_literal: true

module GateMile
  # One cart drawn along a measure: along value its prices are scaled, along weight its weights, along quantity the
  # units of one chosen line change; all else is held. Positions are whole minor units, base units of {Weight}, or
  # units.
  class ScaledCart
    MEASURES = %w[value weight quantity].freeze

    # @return [Integer, Rational] where the cart itself stands
    attr_reader :here

    # @param book [Book]
    # @param cart [Cart]
    # @param measure [String] one of MEASURES
    # @param line [Integer] place of the chosen line
    def initialize(book, cart, measure, line)
      @store = book.store
      @measure = measure
      @line = line
      @lines = Lines.of(cart, book.assortment)
      @baskets = {}
      @here = position
    end

    # @return [Boolean] whether there is anything to scale
    def drawn? = !here.nil? && here.positive?

    # @return [Boolean] whether positions are whole numbers
    def whole? = @measure != "weight"

    # @return [Integer] the first position there is
    def least = @measure == "quantity" ? 1 : 0

    # @param position [Integer, Rational]
    # @return [Basket]
    def at(position)
      @baskets[position] ||= Basket.new(scaled(position), @store)
    end

    private

    def position
      case @measure
      when "value" then @lines.sum { |line| line.minor(@store.basis) }
      when "weight" then @lines.sum { |line| line.ships && line.weight ? line.weight.base : 0 }
      else @lines[@line]&.quantity
      end
    end

    def scaled(position)
      case @measure
      when "value" then by_value(position)
      when "weight" then by_weight(Rational(position, here))
      else @lines.each_with_index.map { |line, at| at == @line ? line.with_units(position) : line }
      end
    end

    def by_weight(factor)
      @lines.map { |line| line.unit_weight ? line.of(unit_weight: line.unit_weight * factor) : line }
    end

    # The lines' values add up to the position exactly: by largest remainder, like a discount.
    def by_value(position)
      shares = Discount.share(position, @lines.map { |line| line.minor(@store.basis) })
      @lines.each_with_index.map do |line, at|
        line.known ? ScaledLine.new(line, Rational(position, here), @store.basis, shares[at]) : line
      end
    end
  end
end
