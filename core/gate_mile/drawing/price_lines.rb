# frozen_string_literal: true

module GateMile
  # The price lines of all rates of a book for one cart.
  class PriceLines
    # @param book [Book]
    # @param cart [Cart]
    # @param measure [String] one of {ScaledCart}::MEASURES
    # @param most [Integer, Rational] where the axis ends
    # @param line [Integer] place of the line whose units change, along quantity
    # @param at [Time] the moment of the checkout
    # @param carriers [#answers, nil] whom live rates of the cart's zone are sampled by
    # @param stop [#call] says true where no more may be looked at; lines that are not whole by then are told as
    #   unlooked
    def initialize(book, cart, measure, most, at:, line: 0, carriers: nil, stop: -> { false })
      @carriers = carriers
      @stop = stop
      @book = book
      @most = most
      @scaled = ScaledCart.new(book, cart, measure, line)
      @here = book.zones.land(cart.destination).zone
      @destination = Destination.new(cart.destination)
      @facts = Facts.new(book, cart, @scaled.at(@scaled.here), at) if @scaled.drawn?
      @points = TurningPoints.new(book, @scaled, measure, most) { |position| facts(position) }
      @positions = {}
      @terms = {}
      @bands = {}
    end

    # @param rates [Array<Rate>]
    # @return [Hash{String => Array<Piece>}] by rate id; nothing at all where the cart has none of the measure
    def of(rates = @book.rates)
      return {} unless @scaled.drawn?

      sampled = asked(rates)
      # Where the cart goes comes first.
      drawn = rates.sort_by.with_index { |rate, at| [here?(rate) ? 0 : 1, at] }
                   .to_h { |rate| [rate.id, sampled[rate.id] || drawn(rate)] }
      rates.to_h { |rate| [rate.id, drawn.fetch(rate.id)] }
    end

    # Positions at which a rate's price can be another than just before or behind.
    # @param rate [Rate]
    # @param from [Integer]
    # @param upto [Integer]
    # @return [Array<Integer>] whole positions between these
    def turns(rate, from, upto)
      return [] if rate.plan.nil? || !@scaled.drawn?

      return [*from..upto] if @points.slopes?(rate.plan)

      near = @points.of(rate).flat_map { |at| [at.ceil - 1, at.floor, at.ceil, at.floor + 1] }
      [@scaled.here - 1, @scaled.here + 1, *near].grep(from..upto).uniq
    end

    # Raised inside where no more may be looked at.
    class Stopped < StandardError
    end
    private_constant :Stopped

    private

    def here?(rate) = @here&.id == rate.zone

    def asked(rates)
      live = @carriers ? rates.select { |rate| rate.live && here?(rate) } : []
      return {} if live.empty?

      SampledLines.new(@book, @scaled, @most, @carriers) do |rate, at|
        visit(@destination, terms(rate.zone, @destination, at))
      end.of(live)
    end

    def drawn(rate)
      raise Stopped if @stop.call

      line(rate).pieces
    rescue Stopped
      [Piece.new(from: @scaled.least, to: @most, from_in: true, to_in: true, status: :unlooked, causes: [])]
    end

    def line(rate)
      destination = here?(rate) ? @destination : Destination::SOMEWHERE
      PriceLine.new(@scaled, @most, @points.of(rate)) { |position| ask(rate, destination, position) }
    end

    # Where an offer may hide what costs money, the other methods of the zone have a say.
    def ask(rate, destination, position)
      raise Stopped if @stop.call

      terms = terms(rate.zone, destination, position)
      return run(rate, destination, terms) unless hiding?(rate.zone)

      @bands[[rate.zone, position]] ||= Quote.hidden_by_offers(
        @book.rates_of(terms.zone).map { |other| run(other, destination, terms) }
      ).to_h { |quote| [quote.rate, quote] }
      @bands[[rate.zone, position]].fetch(rate.id)
    end

    def run(rate, destination, terms) = @book.program(rate).quote(visit(destination, terms))

    def visit(destination, terms) = Visit.of(terms, destination)

    def terms(zone, destination, position)
      @terms[[zone, position]] ||= Terms.new(@book, facts(position), @book.zone(zone), destination.address)
    end

    def facts(position) = @positions[position] ||= @facts.of(@scaled.at(position))

    def hiding?(zone)
      @book.offers.any? { |offer| offer.active && offer.hides_paid && offer.in_zone?(zone) }
    end
  end
end
