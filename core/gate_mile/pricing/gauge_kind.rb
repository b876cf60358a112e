# frozen_string_literal: true

module GateMile
  # One measure: how its boundaries are read and written, which side they belong to, its smallest step, and what goods
  # must have for it to be known. To add a measure, add an entry to {ALL}, a method of that name to {Load} and a column
  # to {Lot}.
  class GaugeKind
    # @return [String] the side that a boundary belongs to unless the schedule says: "up_to" for what carriers weigh and
    #   measure, "from" for value and quantity (common practice, no source)
    attr_reader :side
    # @return [Integer] what is hardly more than the next figure, in base units: a penny, a unit, a gram, a millimetre,
    #   a millilitre
    attr_reader :hair
    # @return [Symbol, nil] what must be known of all goods: :weight, :size or nil
    attr_reader :needs
    # @return [Integer, nil] in base units, more than any cart comes to; nil where only its lines say so
    attr_reader :largest

    # @param side [String]
    # @param hair [Integer]
    # @param needs [Symbol, nil]
    # @param largest [Integer, nil]
    def initialize(side:, hair: 1, needs: nil, largest: nil)
      @side = side
      @hair = hair
      @needs = needs
      @largest = largest
    end

    # @return [Boolean] whether it goes in whole figures, each of which can be named: both ends of "1 to 4" belong to it
    def counted? = false

    # @param _store [#weight_unit, #length_unit]
    # @return [String, nil] the unit in which a bare figure is meant; nil where it needs none
    def unit(_store) = nil

    # Weights, lengths and volumes, which are written with their unit.
    class Measured < GaugeKind
      # @param quantity [Class] {Weight}, {Length} or {Volume}
      # @param hair [String] the unit one of which is hardly more
      # @param unit [Symbol, String] which of the store's units a bare figure is in, or the one that it always is in
      def initialize(quantity, hair:, unit:, **more)
        super(side: "up_to", hair: quantity::UNITS.fetch(hair), **more)
        @quantity = quantity
        @unit = unit
      end

      def unit(store) = @unit.is_a?(Symbol) ? store.public_send(@unit) : @unit
      def read(text, _currency) = @quantity.parse(text).then { |measure| [measure.base, measure.to_s] }
      def write(base, _currency, unit) = @quantity.new(base, unit || @quantity::UNITS.keys.first).to_s
      def amount(number, store) = @quantity.new(Decimal.simplify(number), unit(store))
    end

    # What goods cost, in minor units.
    class Worth < GaugeKind
      def initialize = super(side: "from", largest: 10**11)
      def counted? = true

      def read(text, currency)
        money = Money.parse(text, currency)
        money.negative? ? raise(Malformed, :negative) : [money.minor, text.strip]
      end

      def write(base, currency, _unit) = Money.new(base, currency).to_s
      def amount(number, store) = Money.new(number, store.currency)
    end

    # How many units there are.
    class Units < GaugeKind
      def initialize = super(side: "from")
      def counted? = true

      def read(text, _currency)
        text = text.to_s.strip
        raise Malformed, :not_whole unless text.match?(/\A[+-]?\d{1,15}\z/)

        value = Integer(text, 10)
        value.negative? ? raise(Malformed, :negative) : [value, value.to_s]
      end

      def write(base, _currency, _unit) = base.to_s
      def amount(number, _store) = number
    end

    # @!method read(text, currency)
    #   @param text [String, Integer] a boundary as written: "5 KG", "75", "4"
    #   @param currency [Currency]
    #   @return [Array(Numeric, String)] its number in base units, and its standard spelling: "5 kg", "75", "4"
    #   @raise [Malformed]
    # @!method write(base, currency, unit)
    #   @param base [Integer, Rational]
    #   @param currency [Currency]
    #   @param unit [String, nil] to write it in; nil for the first one there is
    #   @return [String] as a boundary is written
    # @!method amount(number, store)
    #   @param number [Integer, Rational] in base units
    #   @param store [Store]
    #   @return [Money, Weight, Length, Volume, Integer] that amount, in the shop's own unit

    ALL = { "weight" => Measured.new(Weight, hair: "g", unit: :weight_unit, needs: :weight, largest: Weight::LIMIT),
            "billable_weight" => Measured.new(Weight, hair: "g", unit: :weight_unit, largest: Weight::LIMIT),
            "value" => Worth.new, "quantity" => Units.new,
            "volume" => Measured.new(Volume, hair: "ml", unit: "l", needs: :size, largest: Volume::UNITS["m3"]),
            "longest" => Measured.new(Length, hair: "mm", unit: :length_unit, needs: :size,
                                              largest: Length::LIMIT) }.freeze
  end
end
