# frozen_string_literal: true

module GateMile
  # What a cart gets at the checkout, and why.
  #
  # status: :priced (at least one method is available), :nothing_available (the zone has none for this cart),
  # :not_served (no zone covers the address), :undetermined (the address does not decide the zone, or what there is to
  # choose in it), :nothing_ships
  # (no line needs shipping), :empty (no lines). landing: nil where no address was asked for. methods: available
  # ones first. at: the moment it was asked for. text: the merchant's words to the shopper where nothing can be
  # chosen, or nil. standpoints: {Standpoints}; refused: group and coupons that the book does not take.
  class Quote < Value.of(:status, :at, :landing, :lines, :measures, :methods, :text, :standpoints, :refused)
    class << self
      # @param book [Book]
      # @param cart [Cart]
      # @param at [Time]
      # @param carriers [#answers, nil] the carriers' port; it is asked only where the book has a live rate
      # @return [Quote]
      def of(book, cart, at:, carriers: nil)
        facts = Facts.new(book, cart, book.basket(cart), at)
        landing = book.zones.land(cart.destination) if asks_where?(book, facts.basket)
        terms = Terms.new(book, facts, landing.zone, cart.destination) if landing&.zone
        methods = terms && facts.basket.shipping.any? ? in_zone(book, terms, carriers: carriers) : []
        status = status(facts.basket, landing, methods)
        new(status: status, at: at, landing: (landing if facts.basket.lines.any?), text: text(book, status, landing),
            methods: methods, **goods(facts.basket), refused: facts.refused,
            standpoints: Standpoints.new(book, facts, landing, terms, methods))
      end

      # What every method of a zone comes to.
      # @param book [Book]
      # @param terms [Terms]
      # @param place [Destination] where in the zone
      # @param carriers [#answers, nil]
      # @return [Array<MethodQuote>] available ones first, each part in the store's order
      def in_zone(book, terms, place: Destination.new(terms.address("delivery")), carriers: nil)
        basket = terms.facts.basket
        rates = book.rates_of(terms.zone)
        answers = carriers&.answers(requests(book, terms, place))
        found = rates.map { |rate| Pipeline.run(book, basket, rate, answers, place, terms: terms) }
        available, others = hidden_by_offers(found).partition(&:available?)
        available = available.sort_by.with_index { |quote, index| [quote.price.minor, index] } if book.store.by_price?
        mark(available) + others
      end

      # All that carriers must be asked for one zone, each once.
      # @param book [Book]
      # @param terms [Terms]
      # @param place [Destination]
      # @return [Array<CarrierRequest>]
      def requests(book, terms, place)
        book.rates_of(terms.zone).select(&:live).flat_map do |rate|
          Pipeline.new(Run.new(book, terms.facts.basket, rate, nil, place, terms: terms, told: false)).requests
        end.uniq
      end

      # Where an offer made a method free and hides what costs money, the others go: once, on prices after the rules.
      # As long as a fact that is not known may decide whether there is such a method, the others depend on it too.
      # @param methods [Array<MethodQuote>]
      # @return [Array<MethodQuote>]
      def hidden_by_offers(methods)
        hiding = methods.select { |quote| quote.acted.any?(&:hides_paid) }
        return methods if hiding.empty?

        free = hiding.select { |quote| quote.price&.zero? }
        perhaps = open_facts(hiding)
        cause = free.any? ? hidden_by(free.first) : nil
        methods.map { |quote| quote.price.nil? || quote.price.zero? ? quote : beside_free(quote, perhaps, cause) }
      end

      private

      # A method that costs money, where there is or may be one that is free and hides it.
      def beside_free(quote, perhaps, cause)
        quote = quote.with(provisional: quote.provisional | perhaps) if perhaps.any?
        cause ? quote.with(status: :unavailable, price: nil, causes: [cause]) : quote
      end

      # Facts by which a method that hides the others may come or go; none where one of them is sure.
      def open_facts(hiding)
        sure = hiding.any? { |quote| quote.price&.zero? && quote.unsettled.empty? }
        sure ? [] : hiding.flat_map(&:unsettled).uniq
      end

      def hidden_by(free)
        offer = free.acted.find(&:hides_paid)
        Cause.new(code: :hidden_by_offer, numbers: { offer: offer.name, free: free.name },
                  setting: { kind: "offer", id: offer.id, field: "hides_paid" })
      end

      # Offers speak before anything is in the cart.
      def asks_where?(book, basket) = basket.shipping.any? || (basket.lines.empty? && book.offers.any?)

      def goods(basket) = { lines: basket.lines, measures: basket.measures }

      # The merchant's words where a shopper can choose nothing: the zone's, or the store's.
      def text(book, status, landing)
        return unless %i[nothing_available not_served].include?(status)

        landing&.zone&.nothing_text || book.store.nothing_text
      end

      def mark(available)
        cheapest = available.map(&:price).min
        fastest = available.filter_map(&:arrives).map(&:last).min
        available.map do |quote|
          marks = [(:cheapest if quote.price == cheapest), (:fastest if fastest && quote.arrives&.last == fastest)]
          marks.any? ? quote.with(marks: marks.compact) : quote
        end
      end

      def by_address?(quote)
        quote.causes.any? && quote.causes.all? { |cause| Pipeline::ADDRESS.include?(cause.code) }
      end

      def status(basket, landing, methods)
        return :empty if basket.lines.empty?
        return :nothing_ships if landing.nil?
        return :undetermined if landing.status == :undetermined
        return :not_served if landing.zone.nil?

        return :priced if methods.any?(&:available?)

        # More of the address may bring a method: nobody is told that there is none.
        methods.any? { |quote| by_address?(quote) } ? :undetermined : :nothing_available
      end
    end

    # @return [Array<Outlook>] how each offer stands
    def outlooks = standpoints.outlooks

    # @return [Array<Verdict>] what became of each rule
    def verdicts = standpoints.verdicts

    # @return [Hash] for JSON (docs/formats/quote.schema.json)
    def dump
      { "status" => status.to_s, "at" => at.utc.strftime("%Y-%m-%dT%H:%M:%SZ"), "landing" => landing&.dump,
        "lines" => lines.map(&:dump), "measures" => measures.dump, "methods" => methods.map(&:dump),
        "text" => text, "offers" => outlooks.map(&:dump), "rules" => verdicts.map(&:dump),
        "refused" => refused.map { |item| Plain.of(item) } }
    end
  end

  # How offers and rules stand with a cart, worked out when it is asked for: a checkout that only wants prices need not
  # wait for it.
  class Standpoints
    # @param book [Book]
    # @param facts [Facts]
    # @param landing [Landing, nil]
    # @param terms [Terms, nil]
    # @param methods [Array<MethodQuote>]
    def initialize(book, facts, landing, terms, methods)
      @book = book
      @facts = facts
      @landing = landing
      @terms = terms
      @methods = methods
    end

    # @return [Array<Outlook>]
    def outlooks
      @outlooks ||= @book.offers.empty? ? [] : Outlooks.new(@book, @facts, @landing, @terms, outcomes).list
    end

    # @return [Array<Verdict>]
    def verdicts = @verdicts ||= @terms ? @terms.verdicts : []

    private

    def outcomes = @methods.select(&:available?).to_h { |quote| [quote[:method], quote.outcomes] }
  end
end
