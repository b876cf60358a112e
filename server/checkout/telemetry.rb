# frozen_string_literal: true

module Server
  # Records each quote without holding up its answer: in the metrics for operators, in the merchant's statistics of what
  # shoppers asked for, and for webhooks.
  class Telemetry
    # Statuses that mean that the cart got no method.
    NOTHING = %i[nothing_available not_served].freeze
    private_constant :NOTHING

    # @param asked [Asked] counts every quote
    # @param emptiness [#note] counts carts that got no method
    def initialize(asked: Asked.new, emptiness: Emptiness.new)
      @asked = asked
      @emptiness = emptiness
    end

    # @param quote [GateMile::Quote]
    # @param cart [GateMile::Cart]
    # @param took [Float] seconds that it took
    # @param now [Time]
    # @param orders [Boolean] whether it can be ordered, and is no estimate
    # @return [void]
    def quoted(quote, cart, took, now, orders:)
      Afterwards.work("counting a quote") do
        Metrics.quote(quote.status, took)
        @asked.note(quote, cart, took, now, orders: orders)
        @emptiness.note if NOTHING.include?(quote.status)
      end
    end
  end
end
