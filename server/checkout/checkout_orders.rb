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
      raise fault("/order", :control_characters) if body["order"].match?(/[[:cntrl:]]/)

      content = opened(body["quote"], key)
      # A quote server says when it was told.
      now = Time.iso8601(body["placed_at"]) if key.relays? && body["placed_at"]
      evidence = Evidence.of_quote(content, @releases.book(content.release))
      method = promised(body, content, evidence)
      before = known(body)
      return before if before
      raise ran_out(body, content, method, key, yield) if content.holds_until < now

      placed = Database.write { known(body) || store(body, content, method, evidence, key, now) }
      @uses.changed
      Announcements.used(method.acted, @uses.counts) if placed.made
      placed
    end

    # @param number [String]
    # @param state [String]
    # @param now [Time]
    # @return [Records::Order]
    # @raise [Problem] 404, 409 where it is over in another way
    def close(number, state, key, now: Time.now)
      order = Database.write do
        found = Records::Order.find_by(number: number)
        mine = found && (found.key == key.family || key.relays?)
        raise Problem.new(404, "There is no order #{number}.") unless mine

        found.state == state ? found : closed(found, state, now)
      end
      @uses.changed
      order
    end

    private

    def opened(quote, key)
      content = @seal.open(quote) or raise fault("/quote", :no_such_quote)
      return content if content.family == key.family || key.relays?

      raise fault("/quote", :quote_of_another_key)
    end

    def closed(order, state, now)
      unless order.state == "placed"
        raise Problem.new(409, "Order #{order.number} is #{order.state} already.", current: order.told)
      end

      order.offers.update_all(counts: false)
      order.tap { |one| one.update!(state: state, closed_at: now) }
    end

    # The same order once more, perhaps because the answer to the first was lost.
    def known(body)
      found = Records::Order.find_by(number: body["order"]) or return
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
        price: content.prices.fetch(method.method_id), currency: evidence.currency,
        quoted_at: content.at, placed_at: now
      )
      method.acted.each { |offer| Records::OrderOffer.create!(order_number: order.number, offer: offer.id) }
      Placed.new(order, true)
    end

    # Through a quote server an order comes with that server's key, and was the shop's.
    def name_of(content, key)
      return key.name if content.family == key.family

      Records::CheckoutKey.where(family: content.family).order(made_at: :desc).pick(:name) || key.name
    end

    def promised(body, content, evidence)
      found = evidence.offered(body["method"])
      found && content.prices.key?(found.method_id) ? found : raise(fault("/method", :not_offered_then))
    end

    # It is quoted again; the shop decides which of both prices it takes, and orders with the new quote.
    def ran_out(body, content, method, key, ground)
      cart = GateMile::Cart.parse(content.cart.except("offer_uses"), ground.book.currency)
      fresh = @quotes.answer(cart, key, ground, Settings.deadline, "methods")
      now = fresh[:methods].find { |one| one[:code] == body["method"] }
      detail = "The quote held until #{content.holds_until.iso8601}. Order with the new one, or let the shopper " \
               "choose again."
      Problem.new(409, detail, errors: [{ pointer: "/quote", code: "quote_ran_out", detail: detail }],
                               promised: content.prices.fetch(method.method_id), now: now && now[:price], quote: fresh)
    rescue GateMile::Invalid
      Problem.new(409, "The quote ran out, and the shop can't quote this cart any more.")
    end

    def fault(pointer, code)
      detail = Words.of(code)
      Problem.new(422, Problem::TITLES[422], errors: [{ pointer: pointer, code: code, detail: detail }])
    end
  end
end
