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
    def parse(text)
      return parse_quantity(text) if @quantity == Integer

      read = @quantity == Money ? Money.parse(text, @currency) : @quantity.parse(text)
      raise Malformed, :negative if @quantity == Money && read.negative?

      @quantity == Money ? read.minor : read.base
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

    def parse_quantity(text)
      value = text.is_a?(Integer) ? text : Integer(text.to_s.strip, 10, exception: false)
      raise Malformed, :not_whole if value.nil?
      raise Malformed, :negative if value.negative?

      value
    end
  end
end
