# frozen_string_literal: true

module GateMile
  # Which of some methods are the cheapest and the fastest; several where they tie. A method without known days is never
  # the fastest.
  class Marks
    # @param quotes [Array<MethodQuote>] the available ones
    def initialize(quotes)
      @quotes = quotes
    end

    # @param quote [MethodQuote] one of them
    # @return [Array<Symbol>] of :cheapest and :fastest
    def of(quote)
      [(:cheapest if quote.price.minor == cheapest),
       (:fastest if fastest && quote.arrival&.last_day == fastest)].compact
    end

    private

    def cheapest = @cheapest ||= @quotes.map { |quote| quote.price.minor }.min

    def fastest
      return @fastest if defined?(@fastest)

      @fastest = @quotes.filter_map { |quote| quote.arrival&.last_day }.min
    end
  end
end
