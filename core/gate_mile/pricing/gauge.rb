# frozen_string_literal: true

module GateMile
  # What a schedule looks at: one measure of a load, as an exact number that boundaries are compared with.
  class Gauge
    ALL = GaugeKind::ALL.keys.freeze

    # @param name [String] one of ALL
    # @param store [#weight_unit, #length_unit]
    # @return [String, nil] the unit in which a bare figure is meant
    def self.unit(name, store) = GaugeKind::ALL[name]&.unit(store)

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
      @kind = GaugeKind::ALL.fetch(name)
      freeze
    end

    # @return [String] "from" or "up_to"
    def side = @kind.side

    # @return [Boolean] whether it goes in whole figures
    def counted? = @kind.counted?

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
    def read(text) = @kind.read(text, currency)

    # @param base [Integer, Rational]
    # @param unit [String, nil] for measures: the unit to write it in
    # @return [String] as a boundary is written
    def write(base, unit = nil) = @kind.write(base, currency, unit)

    protected

    attr_reader :currency
  end
end
