# frozen_string_literal: true

module Server
  # Orders that a shop tells of: each is kept with what its price came from, and uses up the offers that acted on it.
  class CheckoutOrders
    # What came of an order. made: whether it is new.
    Placed = Struct.new(:order, :made)

    # @param seal [QuoteSeal]
    # @param quotes [CheckoutQuotes]
    # @param releases [ReleaseShelf]
    # @param uses [OfferUses]
    def initialize(seal:, quotes:, releases:, uses:)
      @seal = seal
      @quotes = quotes
      @releases = releases
      @uses = uses
    end

    # @param body [Hash] CheckoutOrderDraft of the contract
    # @param key [KeyRing::Key]
    # @param now [Time]
    # @yieldreturn [CheckoutQuotes::Ground] what a quote that ran out is made anew with
    # @return [Placed]
    # @raise [Problem] 409 where the number stands for another order, or the quote ran out; 422
    def place(body, key, now: Time.now)
      raise Problem.at("/order", :control_characters) if body["order"].match?(/[[:cntrl:]]/)

      family = asking(body, key)
      content = opened(body["quote"], family)
      now = told_at(body["placed_at"]) if key.relays? && body["placed_at"]
      evidence = Evidence.of_quote(content, @releases.book(content.release))
      method = promised(body, content, evidence)
      before = known(body, family)
      return before if before
      raise RanOut.problem(content, method.code, @quotes, yield) if content.holds_until < now

      Database.write { known(body, family) || store(body, content, method, evidence, key, now) }.tap { @uses.changed }
    end

    # @param number [String]
    # @param body [Hash] CheckoutOrderPatch of the contract
    # @param key [KeyRing::Key]
    # @param now [Time]
    # @return [Records::Order]
    # @raise [Problem] 404 where it is not an order of the shop that asks, 409 where it is over in another way
    def close(number, body, key, now: Time.now)
      family = asking(body, key)
      order = Database.write do
        found = Records::Order.find_by(number: number, key: family)
        raise Problem.new(404, "There is no order #{number}.") if found.nil?

        found.state == body["state"] ? found : closed(found, body["state"], now)
      end
      @uses.changed
      order
    end

    private

    # @return [String] the family of the shop's keys: its own key says it, or the quote server that hands the call on
    def asking(body, key)
      raise Problem.at("/family", :unknown_field) if body.key?("family") && !key.relays?

      body["family"] || key.family
    end

    def opened(quote, family)
      content = @seal.open(quote) or raise Problem.at("/quote", :no_such_quote)
      return content if content.family == family

      raise Problem.at("/quote", :quote_of_another_key)
    end

    def closed(order, state, now)
      unless order.state == "placed"
        raise Problem.new(409, "Order #{order.number} is #{order.state} already.", current: order.told)
      end

      order.offers.update_all(counts: false)
      order.tap { |one| one.update!(state: state, closed_at: now) }
    end

    # A quote server says when it was told.
    def told_at(text)
      Time.iso8601(text)
    rescue ArgumentError
      raise Problem.at("/placed_at", :not_a_moment)
    end

    # The same order once more, perhaps because the answer to the first was lost. Of another shop's order nothing is
    # told but that its number is taken.
    def known(body, family)
      found = Records::Order.find_by(number: body["order"]) or return
      raise Problem.new(409, "Order number #{found.number} is taken. Choose another.") unless found.key == family

      same = found.quote == QuoteSeal.mark(body["quote"]) && found.method_code == body["method"]
      return Placed.new(found, false) if same

      raise Problem.new(409, "Order #{found.number} was placed with another quote or method.", current: found.told)
    end

    def store(body, content, method, evidence, key, now)
      order = Records::Order.create!(
        number: body["order"], state: "placed", key: content.family, key_name: name_of(content, key),
        release_id: content.release,
        quote: QuoteSeal.mark(body["quote"]), cart: content.cart, recorded: content.recorded, zone: evidence.zone,
        method_id: method.method_id, method_code: method.code, method_name: method.name,
        price: content.prices.fetch(method.code), currency: evidence.currency,
        quoted_at: content.at, placed_at: now
      )
      method.acted.each { |offer| Records::OrderOffer.create!(order_number: order.number, offer: offer.id) }
      # One at a time here: each use is counted by exactly one.
      Announcements.used(method.acted)
      Placed.new(order, true)
    end

    # Through a quote server an order comes with that server's key, and was the shop's.
    def name_of(content, key)
      return key.name if content.family == key.family

      Records::CheckoutKey.where(family: content.family).order(made_at: :desc).pick(:name) || key.name
    end

    def promised(body, content, evidence)
      found = evidence.offered(body["method"])
      found && content.prices.key?(found.code) ? found : raise(Problem.at("/method", :not_offered_then))
    end
  end
end
