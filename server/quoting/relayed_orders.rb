# frozen_string_literal: true

module Server
  # Orders as a quote process takes them: handed on to the workbench, and kept on the disk while that is away.
  class RelayedOrders
    # @param workbench [Workbench, nil] nil where there is none: then all wait
    # @param queue [OrderQueue]
    def initialize(workbench, queue)
      @workbench = workbench
      @queue = queue
    end

    # @param body [Hash] CheckoutOrderDraft of the contract
    # @param key [KeyRing::Key]
    # @param seal [QuoteSeal]
    # @param now [Time]
    # @yieldparam content [QuoteSeal::Content] of a quote that ran out while the workbench is away
    # @yieldreturn [Problem] what is said of it
    # @return [Array] a Rack response: the workbench's own, or 202 with the price that was promised
    # @raise [Problem] 422 for what is no quote
    def place(body, key, seal:, now: Time.now)
      content = seal.open(body["quote"]) or raise Problem.at("/quote", :no_such_quote)
      raise Problem.at("/quote", :quote_of_another_key) unless content.family == key.family

      relay(:post, "orders", { **body, "placed_at" => now.utc.iso8601, "family" => key.family }) do
        promised = content.prices[body["method"]] or raise Problem.at("/method", :not_offered_then)
        raise yield(content) if content.holds_until < now

        { order: body["order"], state: "waiting", price: promised, release: content.release }
      end
    end

    # @param number [String]
    # @param body [Hash] CheckoutOrderPatch of the contract
    # @param key [KeyRing::Key]
    # @return [Array] a Rack response
    def close(number, body, key)
      relay(:patch, "orders/#{ERB::Util.url_encode(number)}", { **body, "family" => key.family }) do
        { order: number, state: "waiting" }
      end
    end

    private

    # What waits goes first: nothing overtakes it.
    def relay(verb, call, body, &)
      return @workbench.tell(verb, call, body) if @workbench && @queue.empty?

      wait(verb, call, body, &)
    rescue Workbench::Away
      wait(verb, call, body, &)
    end

    def wait(verb, call, body)
      answer = yield
      kept({ verb: verb, call: call, body: body })
      [202, CheckoutDoor::HEADERS.dup, [JSON.generate(answer)]]
    end

    def kept(call)
      @queue.put(call)
    rescue Errno::ENOSPC, Errno::EDQUOT
      raise Problem.new(507, "The disk of this quote server is full. The order was not taken: tell it again.")
    rescue SystemCallError => e
      Log.fault(e, "keeping an order")
      raise Problem.new(503, "This quote server can't keep the order. Tell it again.", retry_after: 5)
    end
  end
end
