# frozen_string_literal: true

module GateMile
  # What a schedule looks at: one measure of a load, as an exact number that boundaries are compared with.
  class Gauge
    # name => the quantity its boundaries are written in, and which side they belong to unless the schedule says:
    # "up_to" for what carriers weigh and measure, "from" for value and quantity (common practice, no source).
    KINDS = { "weight" => [Weight, "up_to"], "billable_weight" => [Weight, "up_to"], "value" => [Money, "from"],
              "quantity" => [Integer, "from"], "volume" => [Volume, "up_to"], "longest" => [Length, "up_to"] }.freeze
    ALL = KINDS.keys.freeze

    # @return [String]
    attr_reader :name

    # @param name [String] one of ALL
    # @param currency [Currency]
    def initialize(name, currency)
      @name = name
      @currency = currency
      @quantity, @side = KINDS.fetch(name)
      freeze
    end

    # @return [String] "from" or "up_to"
    attr_reader :side

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
