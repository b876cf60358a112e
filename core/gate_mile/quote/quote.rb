# frozen_string_literal: true

module GateMile
  # What a cart gets at the checkout, and why.
  #
  # status: :priced (at least one method is available), :nothing_available (the zone has none for this cart),
  # :not_served (no zone covers the address), :undetermined (the address does not decide the zone), :nothing_ships
  # (no line needs shipping), :empty (no lines). landing: nil where no address was asked for. methods: available
  # ones first. at: the moment it was asked for. text: the merchant's words to the shopper where nothing can be
  # chosen, or nil.
  class Quote < Value.of(:status, :at, :landing, :lines, :measures, :methods, :text)
    class << self
      # @param book [Book]
      # @param cart [Cart]
      # @param at [Time]
      # @param carriers [#answers, nil] the carriers' port; it is asked only where the book has a live rate
      # @return [Quote]
      def of(book, cart, at:, carriers: nil)
        basket = book.basket(cart)
        landing = book.zones.land(cart.destination) if basket.shipping.any?
        place = Destination.new(cart.destination)
        methods = landing&.zone ? in_zone(book, basket, landing.zone, place: place, carriers: carriers) : []
        status = status(basket, landing, methods)
        new(status: status, at: at, landing: landing, lines: basket.lines, measures: basket.measures, methods: methods,
            text: text(book, status, landing))
      end

      # The same goods as if they went to the given zone.
      # @param book [Book]
      # @param basket [Basket]
      # @param zone [Zone]
      # @param place [Destination] where in the zone
      # @param carriers [#answers, nil]
      # @return [Array<MethodQuote>] available ones first, each part in the store's order
      def in_zone(book, basket, zone, place: Destination::SOMEWHERE, carriers: nil)
        rates = book.rates_of(zone)
        requests = rates.filter_map { |rate| rate.plan&.request(basket) }
        answers = requests.empty? ? {} : carriers.answers(requests)
        found = rates.map { |rate| Pipeline.run(book, basket, rate, answers, place) }
        available, others = found.partition(&:available?)
        available = available.sort_by.with_index { |quote, index| [quote.price.minor, index] } if book.store.by_price?
        mark(available) + others
      end

      private

      # The merchant's words where a shopper can choose nothing: the zone's, or the store's.
      def text(book, status, landing)
        return unless %i[nothing_available not_served].include?(status)

        landing&.zone&.nothing_text || book.store.nothing_text
      end

      def mark(available)
        cheapest = available.map(&:price).min
        available.map { |quote| quote.price == cheapest ? quote.with(marks: [:cheapest]) : quote }
      end

      def status(basket, landing, methods)
        return :empty if basket.lines.empty?
        return :nothing_ships if landing.nil?
        return :undetermined if landing.status == :undetermined
        return :not_served if landing.zone.nil?

        methods.any?(&:available?) ? :priced : :nothing_available
      end
    end

    # @return [Hash] for JSON (docs/formats/quote.schema.json)
    def dump
      { "status" => status.to_s, "at" => at.utc.strftime("%Y-%m-%dT%H:%M:%SZ"), "landing" => landing&.dump,
        "lines" => lines.map(&:dump), "measures" => measures.dump, "methods" => methods.map(&:dump),
        "text" => text }
    end
  end
end
