# frozen_string_literal: true

module GateMile
  # What a list of lines comes to.
  #
  # value: {Money} by the store's basis; weight: {Weight} in the store's unit, or nil where one of them has none;
  # quantity: units; longest: {Length}, the longest side of any unit whose size is known, or nil; unweighed, unsized:
  # what the lines without a weight, without a size are called.
  class Measures < Value.of(:lines, :value, :weight, :quantity, :longest, :unweighed, :unsized)
    # @param lines [Array<Line>]
    # @param worth [Array<Line>] those whose value counts
    # @param store [Store]
    # @return [Measures]
    def self.of(lines, worth, store)
      unweighed = lines.reject(&:weight).map(&:code)
      new(lines: lines.size, value: Money.new(worth.sum { |line| line.value ? line.value.minor : 0 }, store.currency),
          weight: (weight(lines, store.weight_unit) if unweighed.empty?), quantity: lines.sum(&:quantity),
          longest: lines.filter_map(&:longest).max_by(&:base), unweighed: unweighed,
          unsized: lines.reject(&:size).map(&:code))
    end

    def self.weight(lines, unit)
      Weight.new(Decimal.simplify(lines.sum { |line| line.weight.base }), unit)
    end

    private_class_method :weight

    # @return [Hash] for JSON
    def dump
      { "value" => value.to_s, "weight" => weight&.to_s, "quantity" => quantity, "longest" => longest&.to_s,
        "unweighed" => unweighed, "unsized" => unsized }
    end
  end

  # The lines of one cart, told apart.
  #
  # lines: all; shipping: those that need shipping; staying: those that do not; measures: of the shipping ones; store.
  class Basket < Value.of(:lines, :shipping, :staying, :measures, :store)
    # @param cart [Cart]
    # @param book [Book]
    # @return [Basket]
    def self.of(cart, book) = of_lines(Lines.new(cart, book).all, book.store)

    # @param lines [Array<Line>]
    # @param store [Store]
    # @return [Basket]
    def self.of_lines(lines, store)
      shipping, staying = lines.partition(&:ships)
      worth = store.basis.lines == "all" ? lines : shipping
      new(lines: lines, shipping: shipping, staying: staying, measures: Measures.of(shipping, worth, store),
          store: store)
    end

    def initialize(**)
      # Most rates look at the same lines in the same way: what they come to is worked out once.
      @measured = {}
      @loaded = {}
      super
    end

    # @param ordinary [Array<Line>] those of the lines that a rate prices by its plan
    # @return [Measures] of these alone: what is priced apart counts in no measure of the ordinary calculation
    def measures_of(ordinary) = @measured[places(ordinary)] ||= Measures.of(ordinary, ordinary, store)

    # @param ordinary [Array<Line>] of these
    # @param basis [Basis]
    # @param policy [ParcelPolicy]
    # @param counted [Array<Line>] whose value counts for the whole cart
    # @return [Loads]
    def loads(ordinary, basis, policy, counted)
      key = [places(ordinary), basis.object_id, policy.object_id, counted.equal?(ordinary) ? nil : places(counted)]
      @loaded[key] ||= Loads.new(ordinary, basis, policy, boxes: store.boxes, counted: counted)
    end

    private

    def places(lines) = lines.map(&:object_id)
  end
end
