# frozen_string_literal: true

module GateMile
  # Whether something holds: it does, it does not, or that is not known, because some fact is missing.
  class Truth
    # @return [Symbol, nil] the fact that would decide, where it is not known
    attr_reader :fact

    # @param fact [Symbol, nil]
    def initialize(fact = nil)
      @fact = fact
      freeze
    end
    private_class_method :new

    YES = new
    NO = new
    @open = Hash.new { |known, fact| known[fact] = new(fact) }

    # @param holds [Boolean]
    # @return [Truth]
    def self.of(holds) = holds ? YES : NO

    # @param fact [Symbol, String] the one that would decide, e.g. :postcode
    # @return [Truth] the same object for the same fact
    def self.open(fact) = @open[fact.to_sym]

    # @return [Boolean] whether it surely holds
    def yes? = equal?(YES)

    # @return [Boolean] whether it surely does not hold
    def no? = equal?(NO)

    # @return [Boolean] whether it is not known
    def open? = !fact.nil?

    def inspect = "#<Truth #{fact || (yes? ? "yes" : "no")}>"
  end
end
