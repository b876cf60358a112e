# frozen_string_literal: true

module GateMile
  # What an offer leaves the merchant of one cart: as it is, and topped up or cut down to the threshold. A cart is
  # topped up in proportion: every line's value, cost and weight alike; along quantity by units of its first line.
  class Margins
    # method_id, rate: ids; at: "cart" or "threshold"; value: {Money} that the shopper pays for the goods; margin: on
    # the goods before shipping, without tax, nil where a cost is not known; paid: what the shopper pays for shipping;
    # cost: what it costs the merchant, nil where that is not said.
    Row = Struct.new(:method_id, :rate, :at, :value, :margin, :paid, :cost) do
      # @return [Money, nil] of the margin, after shipping
      def left = margin && cost && (margin + paid - cost)
    end

    WITHOUT_TAX = Basis.new(discounts: "after", tax: "without", lines: "all")
    private_constant :WITHOUT_TAX

    # @param book [Book]
    # @param cart [Cart]
    # @param offer [Offer] one of the book's
    # @param at [Time]
    def initialize(book, cart, offer, at)
      @book = book
      @cart = cart
      @offer = offer
      @facts = Facts.new(book, cart, book.basket(cart), at)
      @zone = book.zones.land(cart.destination).zone
    end

    # @return [Array<String>] goods of which the cost is not known
    def unknown = @facts.basket.lines.select { |line| cost_of(line).nil? }.map(&:label).uniq

    # @return [Array<Row>] none where the cart lands in no zone of the offer
    def rows
      return [] if @zone.nil? || @facts.basket.shipping.empty? || !@offer.in_zone?(@zone.id)

      [["cart", @facts, 1], *at_threshold].flat_map { |at, facts, factor| priced(at, facts, factor) }
    end

    private

    def priced(at, facts, factor)
      terms = Terms.new(@book, facts, @zone, @cart.destination)
      found = Quote.in_zone(@book, terms).select { |quote| quote.available? && @offer.names?(quote.method_id) }
      value = Money.new(facts.basket.all.value(@book.store.basis), @book.currency)
      found.map do |quote|
        Row.new(quote.method_id, quote.rate, at, value, margin(facts, factor), quote.price, quote.cost)
      end
    end

    def margin(facts, factor)
      return if unknown.any?

      net = Money.new(facts.basket.all.value(WITHOUT_TAX), @book.currency)
      spent = facts.basket.lines.sum(Money.zero(@book.currency)) { |line| cost_of(line) * line.quantity }
      net - (spent * factor)
    end

    def cost_of(line) = line.sku && @book.catalogue[line.sku]&.cost

    def at_threshold
      wanted = @offer.threshold or return []
      here = Standing.new(@offer, @facts, @zone).amount(@facts.basket.shipping)
      return [] if here.nil? || !here.positive? || here == wanted.from.base

      basket, factor = wanted.measure == "quantity" ? by_units(wanted.from.base - here) : in_proportion(wanted, here)
      basket ? [["threshold", @facts.of(basket), factor]] : []
    end

    def by_units(more)
      units = @cart.lines.first.quantity + more
      units.positive? ? [ScaledCart.new(@book, @cart, "quantity", 0).at(units), 1] : nil
    end

    # Never short of the threshold by a rounding.
    def in_proportion(wanted, here)
      factor = Rational(wanted.from.base, here)
      scaled = ScaledCart.new(@book, @cart, "value", 0)
      return unless scaled.drawn?

      lines = scaled.at((scaled.here * factor).ceil).lines.map do |line|
        line.unit_weight ? line.of(unit_weight: line.unit_weight * factor) : line
      end
      [Basket.new(lines, @book.store), factor]
    end
  end
end
