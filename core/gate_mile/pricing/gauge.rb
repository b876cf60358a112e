# frozen_string_literal: true

module GateMile
  # What a schedule looks at: one measure of a load, as an exact number that boundaries are compared with.
  class Gauge
    # One measure. quantity: what its boundaries are written in; side: to which they belong unless the schedule says:
    # "up_to" for what carriers weigh and measure, "from" for value and quantity (common practice, no source); hair:
    # what is hardly more than the next figure, in base units: a penny, a unit, a gram, a millimetre, a millilitre;
    # needs: what must be known of goods, :weight, :size or nil; unit: says in which one a bare figure is meant in a
    # {Store}, nil where it needs none.
    Kind = Struct.new(:quantity, :side, :hair, :needs, :unit)
    KINDS = { "weight" => Kind.new(Weight, "up_to", Weight::UNITS["g"], :weight, :weight_unit.to_proc),
              "billable_weight" => Kind.new(Weight, "up_to", Weight::UNITS["g"], nil, :weight_unit.to_proc),
              "value" => Kind.new(Money, "from", 1), "quantity" => Kind.new(Integer, "from", 1),
              "volume" => Kind.new(Volume, "up_to", Volume::UNITS["ml"], :size, ->(_) { "l" }),
              "longest" => Kind.new(Length, "up_to", Length::UNITS["mm"], :size, :length_unit.to_proc) }.freeze
    private_constant :Kind
    ALL = KINDS.keys.freeze

    # @param name [String] one of ALL
    # @param store [#weight_unit, #length_unit]
    # @return [String, nil] the unit in which a bare figure is meant
    def self.unit(name, store) = KINDS[name]&.unit&.call(store)

    # @return [String]
    attr_reader :name
    # @return [Symbol] the same, as a {Load} knows it
    attr_reader :measure

    # @param name [String] one of ALL
    # @param currency [Currency]
    def initialize(name, currency)
      @name = name
      @measure = name.to_sym
      @currency = currency
      @kind = KINDS.fetch(name)
      @quantity = @kind.quantity
      freeze
    end

    # @return [String] "from" or "up_to"
    def side = @kind.side

    # @return [Integer] base units that are hardly more than nothing
    def hair = @kind.hair

    # @return [Symbol, nil] :weight or :size, which must be known of all goods
    def needs = @kind.needs

    def ==(other) = other.is_a?(Gauge) && name == other.name && currency.equal?(other.currency)
    alias eql? ==
    def hash = name.hash

    # @param text [String, Integer] a boundary as written: "5 kg", "75.00", "4"
    # @return [Integer, Rational] in base units
    # @raise [Malformed]
    def parse(text) = read(text).first

    # @param text [String, Integer] a boundary as written: "5 KG", "75", "4"
    # @return [Array(Numeric, String)] its number in base units, and how it is written from then on: "5 kg", "75", "4"
    # @raise [Malformed]
    def read(text)
      case @quantity.name
      when "Integer" then read_quantity(text).then { |units| [units, units.to_s] }
      when "GateMile::Money" then [read_money(text), text.strip]
      else @quantity.parse(text).then { |measure| [measure.base, measure.to_s] }
      end
    end

    # @param base [Integer, Rational]
    # @param unit [String, nil] for measures: the unit to write it in
    # @return [String] as a boundary is written
    def write(base, unit = nil)
      case @quantity.name
      when "Integer" then base.to_s
      when "GateMile::Money" then Money.new(base, @currency).to_s
      else @quantity.new(base, unit || @quantity::UNITS.keys.first).to_s
      end
    end

    protected

    attr_reader :currency

    private

    def read_money(text)
      money = Money.parse(text, @currency)
      money.negative? ? raise(Malformed, :negative) : money.minor
    end

    def read_quantity(text)
      text = text.to_s.strip
      raise Malformed, :not_whole unless text.match?(/\A[+-]?\d{1,15}\z/)

      value = Integer(text, 10)
      value.negative? ? raise(Malformed, :negative) : value
    end
  end
end
