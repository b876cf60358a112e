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
    # @param book [GateMile::Book] of the release that counts, for the method's name
    # @param now [Time]
    # @return [Array] a Rack response: the workbench's own, or 202 with the price that was promised
    # @raise [Problem] 422 for what is no quote
    def place(body, key, seal:, book:, now: Time.now)
      content = seal.open(body["quote"]) or raise fault("/quote", :no_such_quote)
      raise fault("/quote", :quote_of_another_key) unless content.family == key.family

      method = book.methods_in_order.find { |one| one.code == body["method"] }
      raise fault("/method", :not_offered_then) unless method && content.prices.key?(method.id)

      relay(:post, "orders", { **body, "placed_at" => now.utc.iso8601 }) do
        { order: body["order"], state: "waiting", method: { code: method.code, name: method.name },
          price: content.prices.fetch(method.id), currency: book.currency.code, release: content.release,
          placed_at: now.utc.iso8601 }
      end
    end

    # @param number [String]
    # @param body [Hash] CheckoutOrderPatch of the contract
    # @return [Array] a Rack response
    def close(number, body)
      relay(:patch, "orders/#{ERB::Util.url_encode(number)}", body) { { order: number, state: "waiting" } }
    end

    private

    # What waits goes first: nothing overtakes it.
    def relay(verb, call, body)
      return @workbench.tell(verb, call, body) if @workbench && @queue.empty?

      wait(verb, call, body, yield)
    rescue Workbench::Away
      wait(verb, call, body, yield)
    end

    def wait(verb, call, body, answer)
      @queue.put({ verb: verb, call: call, body: body })
      [202, { "content-type" => "application/json", "cache-control" => "no-store" }, [JSON.generate(answer)]]
    end

    def fault(pointer, code)
      detail = Words.of(code)
      Problem.new(422, Problem::TITLES[422], errors: [{ pointer: pointer, code: code, detail: detail }])
    end
  end
end
