# frozen_string_literal: true

module GateMile
  # What a cart gets at the checkout, and why.
  class Quote
    # @return [Symbol] :priced (at least one method is available), :nothing_available (the zone has none for this cart),
    #   :not_served (no zone covers the address), :undetermined (the address does not decide the zone, or what there is
    #   to choose in it), :nothing_ships (no line needs shipping), :empty (no lines)
    attr_reader :status
    # @return [Landing, nil] nil where no address was asked for
    attr_reader :landing
    # @return [Array<MethodQuote>] available ones first
    attr_reader :method_quotes

    # @param book [Book]
    # @param facts [Facts] of the cart at its moment
    # @param carriers [#answers, nil] the carriers' port; it is asked only where the book has a live rate
    def initialize(book, facts, carriers: nil)
      @book = book
      @facts = facts
      @asked = book.zones.land(facts.cart.destination) if asks_where?
      @terms = Terms.new(book, facts, @asked.zone, facts.cart.destination) if @asked&.zone
      @method_quotes = @terms && facts.basket.shipping.lines.any? ? Quote.in_zone(book, @terms, carriers: carriers) : []
      @landing = @asked if facts.basket.lines.any?
      @status = find_status
    end

    class << self
      # @param book [Book]
      # @param cart [Cart]
      # @param at [Time]
      # @param carriers [#answers, nil]
      # @return [Quote]
      def of(book, cart, at:, carriers: nil)
        new(book, Facts.new(book, cart, Basket.of(cart, book), at), carriers: carriers)
      end

      # What every method of a zone comes to.
      # @param book [Book]
      # @param terms [Terms]
      # @param destination [Destination] where in the zone
      # @param carriers [#answers, nil]
      # @return [Array<MethodQuote>] available ones first, each part in the store's order
      def in_zone(book, terms, destination: Destination.new(terms.circumstances.address("delivery")), carriers: nil)
        programs = book.programs_of(terms.zone)
        visit = Visit.of(terms, destination)
        visit = visit.with(answers: carriers.answers(requests(programs, visit))) if carriers
        found = hidden_by_offers(programs.map { |program| program.quote(visit) })
        available, others = found.partition(&:available?)
        available = available.sort_by.with_index { |quote, at| [quote.price.minor, at] } if book.store.by_price?
        marks = Marks.new(available)
        available.map { |quote| quote.marked(marks) } + others
      end

      # All that carriers must be asked for one zone, each once.
      # @param programs [Array<Program>]
      # @param visit [Visit]
      # @return [Array<CarrierRequest>]
      def requests(programs, visit) = programs.select(&:live).flat_map { |program| program.requests(visit) }.uniq

      # Where an offer made a method free and hides what costs money, the others go: once, on prices after the rules.
      # As long as a fact that is not known may decide whether there is such a method, the others depend on it too.
      # @param methods [Array<MethodQuote>]
      # @return [Array<MethodQuote>]
      def hidden_by_offers(methods)
        hiding = methods.select { |quote| quote.acted.any?(&:hides_paid) }
        return methods if hiding.empty?

        free = hiding.select { |quote| quote.price&.zero? }
        perhaps = freeing_facts(hiding)
        cause = free.any? ? hidden_by(free.first) : nil
        methods.map { |quote| quote.price.nil? || quote.price.zero? ? quote : quote.beside_free(perhaps, cause) }
      end

      private

      # Facts by which a method that hides the others may come or go; none where one of them is sure.
      def freeing_facts(hiding)
        sure = hiding.any? { |quote| quote.price&.zero? && quote.freeing.empty? }
        sure ? [] : hiding.flat_map(&:freeing).uniq
      end

      def hidden_by(free)
        offer = free.acted.find(&:hides_paid)
        Cause.new(:hidden_by_offer, { kind: "offer", id: offer.id, field: "hides_paid" }) do
          { offer: offer.name, free: free.name }
        end
      end
    end

    # @return [Time] the moment it was asked for
    def at = @facts.at

    # @return [Array<Line>]
    def lines = @facts.basket.lines

    # @return [Measures] of the lines that ship
    def measures = @facts.basket.measures

    # @return [Array<Hash>] group and coupons that the book does not take
    def refused = @facts.refused

    # @return [String, nil] the merchant's words to the shopper where nothing can be chosen: the zone's, or the store's
    def text
      return unless %i[nothing_available not_served].include?(status)

      landing&.zone&.nothing_text || @book.store.nothing_text
    end

    # @return [Array<Outlook>] how each offer stands
    def outlooks
      return [] if @book.offers.empty?

      @outlooks ||= begin
        available = method_quotes.select(&:available?)
        outcomes = available.to_h { |quote| [quote.method_id, quote.outcomes] }
        free = available.select { |quote| quote.price.zero? }.map(&:method_id)
        Outlooks.new(@book, @facts, @asked, @terms, outcomes, free: free).list
      end
    end

    # @return [Array<Verdict>] what became of each rule
    def verdicts = @terms ? @terms.ruling.verdicts : []

    # @return [Store]
    def store = @book.store

    # @param reckonings [Boolean, Array<String>] whether steps are among it: of every method, of none, or of these rates
    # @return [Hash] for JSON (docs/formats/quote.schema.json)
    def dump(reckonings: true) = QuoteDocument.write(self, reckonings: reckonings)

    private

    # Offers speak before anything is in the cart.
    def asks_where?
      basket = @facts.basket
      basket.shipping.lines.any? || (basket.lines.empty? && @book.offers.any?)
    end

    def find_status
      return :empty if lines.empty?
      return :nothing_ships if landing.nil?
      return :undetermined if landing.status == :undetermined
      return :not_served if landing.zone.nil?
      return :priced if method_quotes.any?(&:available?)

      # More of the address may bring a method: nobody is told that there is none.
      method_quotes.any? { |quote| by_address?(quote) } ? :undetermined : :nothing_available
    end

    def by_address?(quote)
      quote.causes.any? && quote.causes.all? { |cause| MethodQuote::ADDRESS.include?(cause.code) }
    end
  end
end
