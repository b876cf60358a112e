# frozen_string_literal: true

module Server
  # The door that checkouts ask (/checkout/v1). It stands in front of the application: a quote takes no routes and, but
  # for what changes, no database.
  class CheckoutDoor
    PATH = "/checkout/v1/"
    # Bytes of a body.
    LIMIT = 1_048_576
    # A number has 60 characters at most, and each takes up to twelve in an address.
    ORDER = %r{\Aorders/([^/]{1,720})\z}
    BOOK = %r{\Abook/(\d{1,9})\z}
    TRIAL = %r{\Atrials/(\w{1,100})\z}
    # The calls; a key must be for the first word of each.
    CALLS = { %w[POST quotes] => :quote, %w[POST quotes/batch] => :batch, %w[POST orders] => :order,
              %w[GET methods] => :shipping_methods, %w[GET served] => :served, %w[POST served] => :address,
              %w[GET offers] => :offers, %w[GET state] => :state, %w[POST notices] => :notices }.freeze
    HEADERS = { "content-type" => "application/json", "cache-control" => "no-store",
                "x-content-type-options" => "nosniff" }.freeze
    CORS = { "access-control-allow-methods" => "GET, POST", "access-control-max-age" => "600",
             "access-control-allow-headers" => "authorization, content-type, idempotency-key",
             "vary" => "origin" }.freeze
    # What only a quote server's key is for.
    RELAYED = %r{\A(book/|notices\z)}
    private_constant :LIMIT, :ORDER, :BOOK, :TRIAL, :RELAYED, :CALLS, :CORS

    # @param app [#call] what is behind it
    # @param checkout [CheckoutPort]
    def initialize(app, checkout)
      @app = app
      @checkout = checkout
    end

    # @param env [Hash] of Rack
    # @return [Array]
    def call(env)
      path = env["PATH_INFO"]
      return @app.call(env) unless path.start_with?(PATH)

      guarded(env) { asked(env, path.delete_prefix(PATH)) }
    end

    private

    def guarded(env)
      yield
    rescue Problem => e
      with_origin(env, e.response)
    rescue GateMile::Invalid => e
      with_origin(env, Problem.of_invalid(e).response)
    rescue *Database::BUSY
      with_origin(env, Problem.busy.response)
    rescue StandardError => e
      unwritable = Problem.unwritable(e) and return with_origin(env, unwritable.response)
      Log.fault(e, "#{env["REQUEST_METHOD"]} #{PATH}")
      with_origin(env, Problem.new(500, Problem::MISTAKE).response)
    ensure
      handler = ActiveRecord::Base.connection_handler
      handler.clear_active_connections! if handler.active_connections?
    end

    def asked(env, call)
      return preflight(env) if env["REQUEST_METHOD"] == "OPTIONS"

      key = opened(env, call)
      pace(key)
      with_origin(env, answered(env, call, key))
    end

    # @return [KeyRing::Key]
    def opened(env, call)
      key = @checkout.keys.key(env) or raise Problem.new(401, "Send a key of this shop as a bearer token.",
                                                         headers: { "www-authenticate" => "Bearer" })
      raise Problem.new(403, "This key is for pages of the origins that it lists.") unless key.lets?(env["HTTP_ORIGIN"])

      about = about(call)
      raise Problem.new(403, "This key is not for #{about}.") if known?(call) && !key.for?(about)

      key
    end

    # @return [String] which of the calls that a key may be for it is
    def about(call)
      return "quotes" if TRIAL.match?(call)

      RELAYED.match?(call) ? "state" : call[/\A\w+/]
    end

    def known?(call)
      CALLS.any? { |(_, name), _| name == call } || [ORDER, BOOK, TRIAL].any? { |one| one.match?(call) }
    end

    def pace(key, times = 1)
      count = @checkout.pace.count(key.id, times: times)
      return if count <= key.pace

      raise Problem.new(429, "This key may ask #{key.pace} times a minute.", retry_after: @checkout.pace.left)
    end

    def answered(env, call, key)
      number = call[ORDER, 1]
      return close(env, number_of(number), key) if number

      trial = call[TRIAL, 1]
      return json(@checkout.trial(trial, key).told) if trial && env["REQUEST_METHOD"] == "GET"

      book = call[BOOK, 1]
      return [200, HEADERS.dup, [@checkout.book(Integer(book))]] if book && env["REQUEST_METHOD"] == "GET"

      name = CALLS[[env["REQUEST_METHOD"], call]] or raise wrong_way(call)
      send(name, env, key)
    end

    # @raise [Problem] 400 for what is no text
    def number_of(part)
      found = Rack::Utils.unescape_path(part).dup.force_encoding(Encoding::UTF_8)
      found.valid_encoding? ? found : raise(Problem.new(400, "The address can't be read."))
    end

    def wrong_way(call)
      return Problem.new(404, "There is nothing at this address.") unless known?(call)

      not_so(CALLS.keys.select { |_, name| name == call }.map(&:first).join(", "))
    end

    def not_so(allowed) = Problem.new(405, "Not with this method.", headers: { "allow" => allowed })

    def quote(env, key)
      body = Body.of(env, LIMIT)
      once(env, key, body) { json(@checkout.quotes.one(body, key, ground(body, key))) }
    end

    # A batch counts as many times as it holds carts.
    def batch(env, key)
      body = Body.of(env, LIMIT)
      carts = body.is_a?(Hash) ? Array(body["carts"] || body["products"]).size : 0
      pace(key, carts - 1) if carts > 1
      once(env, key, body) { json(@checkout.quotes.many(body, key, ground(body, key))) }
    end

    # @return [CheckoutQuotes::Ground] of what is tried, where something is
    def ground(body, key)
      given = body.is_a?(Hash) && body["trial"] or return @checkout.ground

      @checkout.tried(@checkout.trial(given, key))
    end

    # @return [CheckoutQuotes::Ground] by the query, where a body has no room for it
    def asked_ground(env, key) = ground(Rack::Utils.parse_query(env["QUERY_STRING"]), key)

    def order(env, key)
      body = Body.of(env, LIMIT)
      Contract.check("CheckoutOrderDraft", body)
      @checkout.place(body, key)
    end

    def close(env, number, key)
      raise not_so("PATCH") unless env["REQUEST_METHOD"] == "PATCH"

      body = Body.of(env, LIMIT)
      Contract.check("CheckoutOrderPatch", body)
      @checkout.close(number, body, key)
    end

    def notices(env, _key)
      body = Body.of(env, LIMIT)
      Contract.check("CheckoutNotices", body)
      @checkout.notice(body)
    end

    # What a quote server has to know; little is said where nothing has changed.
    def state(env, _key)
      text = JSON.generate(@checkout.state)
      etag = %("#{Digest::SHA256.hexdigest(text)[0, 32]}")
      return [304, { "etag" => etag }, []] if env["HTTP_IF_NONE_MATCH"] == etag

      [200, HEADERS.merge("etag" => etag), [text]]
    end

    def shipping_methods(_env, _key) = json(DeliveryPage.shipping_methods(@checkout.ground))
    def served(env, key) = json(DeliveryPage.served(asked_ground(env, key)))
    def address(env, key) = json(DeliveryPage.address(Body.of(env, LIMIT), asked_ground(env, key)))
    def offers(_env, _key) = json(DeliveryPage.offers(@checkout.ground))

    # The same question under the same idempotency key gets the same answer for as long as a quote holds.
    def once(env, key, body, &)
      given = env["HTTP_IDEMPOTENCY_KEY"] or return yield
      @checkout.once.answer(key.id, given, body, @checkout.ground.settings[:holds_minutes] * 60, &)
    end

    def json(value, status = 200) = [status, HEADERS.dup, [JSON.generate(value)]]

    def preflight(env)
      origin = env["HTTP_ORIGIN"]
      listed = origin && @checkout.keys.origin?(origin)
      raise Problem.new(403, "No key of this shop is for pages of that origin.") unless listed

      [204, CORS.merge("access-control-allow-origin" => origin), []]
    end

    # A page may read what its key was told; with any other key nothing is open to pages.
    def with_origin(env, response)
      origin = env["HTTP_ORIGIN"]
      return response unless origin && @checkout.keys.origin?(origin)

      response[1] = response[1].merge("access-control-allow-origin" => origin, "vary" => "origin",
                                      "access-control-expose-headers" => "retry-after")
      response
    end
  end
end
