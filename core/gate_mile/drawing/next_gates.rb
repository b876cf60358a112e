# frozen_string_literal: true

module GateMile
  # How many units more or fewer of which line change a price: for each rate of the cart's zone the nearest one in each
  # direction. Where a price can change is known of each line ({PriceLines#turns}); these places are looked at from the
  # nearest on, so that what is near is found first.
  class NextGates
    # How far is looked, in units.
    FAR = 60

    # rate: id; line: place of the line; by: units more, or fewer where negative; price: {Money} then, nil where it is
    # not available any more.
    Gate = Struct.new(:rate, :line, :by, :price)

    # @param book [Book]
    # @param cart [Cart]
    # @param at [Time] the moment of the checkout
    # @param stop [#call] says true where no more may be looked at: what has been found by then is all
    def initialize(book, cart, at:, stop: -> { false })
      @book = book
      @cart = cart
      @at = at
      @stop = stop
      @zone = book.zones.land(cart.destination).zone
      @destination = Destination.new(cart.destination)
      @lines = Lines.of(cart, book.assortment)
      @facts = Facts.new(book, cart, Basket.new(@lines, book.store), at)
    end

    # @return [Boolean] whether everything was looked at
    def whole? = !@stopped

    # @return [Array<Gate>]
    def list
      return [] if @zone.nil? || @lines.empty?

      found = {}
      here = prices(@lines, rates)
      turns.each do |(_, line, by), wanted|
        break if stopped?

        open = wanted.reject { |rate| found.key?([rate.id, by.positive?]) }
        look(line, by, open).each do |rate, price|
          found[[rate, by.positive?]] ||= Gate.new(rate, line, by, price) if price != here[rate]
        end
      end
      found.values
    end

    private

    def stopped? = @stopped ||= @stop.call

    # Carriers are not asked here: what waits for them has no gates.
    def rates
      @rates ||= @book.rates_of(@zone).reject { |rate| rate.live && (rate.plan.nil? || rate.live.own != "instead") }
    end

    # Where a price can change, with the rates whose it is: the nearest first, among these the line that stands higher.
    # @return [Array<Array(Array, Array<Rate>)>] distance, line and units more or fewer, each with rates
    def turns
      found = Hash.new { |hash, key| hash[key] = [] }
      @lines.each_index do |line|
        break if stopped?

        here = @lines[line].quantity
        turning = PriceLines.new(@book, @cart, "quantity", here + FAR, line: line, at: @at)
        rates.each do |rate|
          turning.turns(rate, [1, here - FAR].max, here + FAR).each do |units|
            found[[(units - here).abs, line, units - here]] << rate unless units == here
          end
        end
      end
      found.sort_by { |(distance, line, by), _| [distance, line, -by] }
    end

    def look(line, by, rates)
      return {} if rates.empty?

      changed = @lines.each_with_index.map do |one, at|
        at == line ? one.with_units(one.quantity + by) : one
      end
      prices(changed, rates)
    end

    # @return [Hash{String => Money, nil}] what these rates take; where one method may hide others, all are looked at
    def prices(lines, rates)
      terms = Terms.new(@book, @facts.of(Basket.new(lines, @book.store)), @zone, @destination.address)
      hiding = terms.standings.any? { |standing| standing.offer.active && standing.offer.hides_paid }
      visit = Visit.of(terms, @destination)
      found = (hiding ? @book.rates_of(@zone) : rates).map { |rate| @book.program(rate).quote(visit) }
      prices = Quote.hidden_by_offers(found).to_h { |quote| [quote.rate, quote.price] }
      rates.to_h { |rate| [rate.id, prices[rate.id]] }
    end
  end
end
