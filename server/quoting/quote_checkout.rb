# frozen_string_literal: true

module Server
  # What the checkout door works with in a quote process: the newest state of its folder, and a workbench for orders. It
  # stands where {Checkout} stands in the workbench.
  class QuoteCheckout
    include CheckoutPort

    # @param source [QuoteGround]
    # @param orders [RelayedOrders]
    # @param queue [OrderQueue]
    # @param notices [#note] hears of carts for which there is nothing
    def initialize(source, orders, queue, notices)
      @source = source
      @orders = orders
      @queue = queue
      @notices = notices
      open_with(KeyRing.new(-> { @source.ready&.keys || {} }))
    end

    # @param now [Time]
    # @return [CheckoutQuotes::Ground]
    # @raise [Problem] 503 before there is a release
    def ground(now = Time.now)
      ready = here
      CheckoutQuotes::Ground.new(ready.number, ready.book, ready.uses, ready.settings, Time.at(now.to_i).utc)
    end

    # @return [CheckoutQuotes]
    def quotes
      ready = here
      return @quotes.last if @quotes&.first.equal?(ready)

      asking = ->(seconds) { Carriers::Port.new(seconds, carriers: ready.carriers) }
      telemetry = Telemetry.new(asked: @notices.asked, emptiness: @notices)
      (@quotes = [ready, CheckoutQuotes.new(ready.seal, carriers: asking, telemetry: telemetry)]).last
    end

    # @param body [Hash] CheckoutOrderDraft of the contract
    # @param key [KeyRing::Key]
    # @return [Array] a Rack response
    def place(body, key)
      @orders.place(body, key, seal: here.seal) { |content| RanOut.problem(content, body["method"], quotes, ground) }
    end

    # @param number [String]
    # @param body [Hash] CheckoutOrderPatch of the contract
    # @return [Array] a Rack response
    def close(number, body, key) = @orders.close(number, body, key)

    # @param now [Time]
    # @return [Hash] how it stands, for whoever watches over it: ages in seconds
    def status(now = Time.now)
      { release: @source.ready&.number, age: @source.ready&.age(now)&.round, trouble: @source.trouble,
        waiting: @queue.size, refused: @queue.refused, oldest: @queue.age(now)&.round(1),
        seen: @source.seen(now)&.round(1), rounds: @source.rounds(now)&.round(1) }
    end

    private

    def here = @source.ready || raise(Problem.new(503, "There is no release here yet.", retry_after: 5))
  end
end
