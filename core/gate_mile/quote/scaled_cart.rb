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
      @lines = Lines.new(cart, book).all
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
      @baskets[position] ||= Basket.of_lines(scaled(position), @store)
    end

    private

    def position
      case @measure
      when "value" then @lines.filter_map(&:value).sum(Money.zero(@store.currency)).minor
      when "weight" then @lines.filter_map { |line| line.weight&.base if line.ships }.sum
      else @lines[@line]&.quantity
      end
    end

    def scaled(position)
      case @measure
      when "value" then by_value(position)
      when "weight" then @lines.map do |line|
        line.weight ? line.with(weight: line.weight * Rational(position, here)) : line
      end
      else @lines.each_with_index.map { |line, at| at == @line ? line.with_units(position, @store) : line }
      end
    end

    # The lines' values add up to the position exactly: by largest remainder, like a discount.
    def by_value(position)
      values = @lines.map { |line| line.value ? line.value.minor : 0 }
      shares = LineValue.share(position, values)
      @lines.each_with_index.map do |line, at|
        next line if line.value.nil?

        value = line.value.with_minor(shares[at])
        line.with(value: value, worth: ScaledValue.new(line.worth, Rational(position, here), @store.basis, value))
      end
    end
  end

  # The worth of a line whose price is scaled: by the store's own basis exactly the value it was given, by any other
  # one in proportion, rounded once.
  class ScaledValue
    # @param worth [LineValue]
    # @param factor [Rational]
    # @param basis [Basis] the store's
    # @param value [Money] by it
    def initialize(worth, factor, basis, value)
      @worth = worth
      @factor = factor
      @basis = basis
      @value = value
    end

    # @param basis [Basis]
    # @return [Money]
    def in(basis)
      same = basis.discounts == @basis.discounts && basis.tax == @basis.tax
      same ? @value : @worth.in(basis) * @factor
    end
  end
end
