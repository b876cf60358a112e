# frozen_string_literal: true

module GateMile
  # Runs proofs in a book.
  class Proving
    # What became of a proof. state: :holds, :changed (it gets something else than it is to get) or :unclear (what it
    # speaks of is gone, or no carrier's answer was recorded: it can't be said); departures: {Departure}s; unclear:
    # hashes of a code and what belongs to it; at: {Time} of the quote that shows it; looked: {Looked}.
    class Outcome < Value.of(:state, :departures, :unclear, :at, :looked)
    end

    # @param book [Book]
    # @param now [Time]
    def initialize(book, now:)
      @book = book
      @now = now
    end

    # @param proof [Proof]
    # @return [Outcome]
    def run(proof)
      gone = gone(proof)
      outcomes = times(proof).lazy.map { |at| once(proof, at, gone) }
      first = nil
      outcomes.each do |outcome|
        first ||= outcome
        return outcome unless outcome.state == :holds
      end
      first
    end

    # @param proof [Proof]
    # @param at [Time] one of {#times}
    # @param heard [Recorded::Heard]
    # @return [Quote]
    def quote(proof, at = times(proof).first, heard = proof.recorded.port)
      @book.quote(proof.cart, at: at, carriers: heard)
    end

    # @param proof [Proof]
    # @return [Array<Time>] at which it is looked at: those of its moments that some setting tells apart
    def times(proof)
      all = proof.moment.times(@now, @book.store.time_zone)
      return all if all.size < 2 || proof.expected.methods.any? { |one| one.marks.include?(:fastest) }

      all.uniq { |at| clock.at(at) }
    end

    # @return [Boolean] whether some setting asks what the clock shows
    def timed? = clock.timed?

    private

    def clock = @clock ||= ClockLook.new(@book)

    def once(proof, at, gone)
      heard = proof.recorded.port
      quote = quote(proof, at, heard)
      unclear = [*gone, *refused(quote), *unrecorded(proof, quote, heard)]
      departures = Comparing.new(proof.expected, quote).list
      state = departures.any? ? :changed : :holds
      state = :unclear if unclear.any?
      Outcome.new(state: state, departures: departures, unclear: unclear, at: at, looked: Looked.at(quote, proof.cart))
    end

    # What it speaks of and the book has not.
    def gone(proof)
      [*goods(proof.cart), *methods(proof.expected), *zone(proof.expected)]
    end

    def goods(cart)
      cart.lines.filter_map { |line| { code: :no_product, names: [line.sku] } if unknown?(line) } +
        cart.lines.filter_map do |line|
          named = line.own&.shipping_class
          { code: :no_class, names: [named] } if named && @book.class_named(named).nil?
        end
    end

    # A line that brings its own price needs no catalogue.
    def unknown?(line) = line.sku && line.unit_price.nil? && @book.catalogue[line.sku].nil?

    def methods(expected)
      expected.methods.reject { |one| @book.shipping_method(one.method_id) }
              .map { |one| { code: :no_method, names: [one.method_id] } }
    end

    def zone(expected)
      expected.zone && @book.zone(expected.zone).nil? ? [{ code: :no_zone, names: [expected.zone] }] : []
    end

    # A coupon that is over is one that a cart can hold; one that nobody knows is not.
    def refused(quote)
      quote.refused.select { |one| one[:reason] == :unknown }
           .map { |one| { code: one[:field] == "group" ? :no_group : :no_coupon, names: [one[:code]] } }
    end

    # A method at a carrier that was not asked this says nothing of itself, and perhaps something of the others.
    def unrecorded(proof, quote, heard)
      return [] if heard.missing.empty?

      live = quote.method_quotes.select(&:live?).map(&:method_id)
      named = proof.expected.methods.map(&:method_id)
      return [] unless proof.expected.only || proof.expected.ordered || live.intersect?(named)

      names = heard.missing.map { |request| @book.carriers.find { |one| one.id == request.carrier }&.name }.uniq
      [{ code: :not_recorded, names: names }]
    end
  end
end
