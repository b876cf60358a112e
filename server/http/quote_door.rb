# frozen_string_literal: true

module Server
  # Answers what a cart gets. Checkouts ask this more often than anything else is asked, so it stands in front of the
  # application: no routes, no database but for the number of the revision, and an answer that is short where only
  # prices are wanted. Everything else goes on to the application.
  class QuoteDoor
    PATH = "/api/quote"
    PRICES = "detail=prices"
    DETAILS = ["", PRICES, "detail=reckonings"].freeze
    HEADERS = { "content-type" => "application/json", "cache-control" => "no-store",
                "x-content-type-options" => "nosniff" }.freeze
    private_constant :DETAILS, :HEADERS

    # @param app [#call]
    # @param shelf [BookShelf]
    def initialize(app, shelf)
      @app = app
      @shelf = shelf
    end

    # @param env [Hash] of Rack
    # @return [Array]
    def call(env)
      return @app.call(env) unless env["PATH_INFO"] == PATH && env["REQUEST_METHOD"] == "POST"

      [200, HEADERS.dup, [answer(env)]]
    rescue Problem => e
      e.response
    rescue GateMile::Invalid => e
      Problem.of_invalid(e).response
    rescue *Database::BUSY
      Problem.busy.response
    rescue StandardError => e
      Log.fault(e, "POST #{PATH}")
      Problem.new(500, Problem::MISTAKE).response
    ensure
      handler = ActiveRecord::Base.connection_handler
      handler.clear_active_connections! if handler.active_connections?
    end

    private

    def answer(env)
      detail = env["QUERY_STRING"].to_s
      raise Problem.new(422, "The detail is prices or reckonings.") unless DETAILS.include?(detail)

      _, book = @shelf.latest
      cart = GateMile::Cart.parse(Body.of(env, Body::LIMIT), book.currency)
      quote = book.quote(cart, at: Time.now, carriers: Carriers::Port.new)
      JSON.generate(detail == PRICES ? GateMile::QuoteDocument.prices(quote) : quote.dump)
    end
  end
end
