# frozen_string_literal: true

module Server
  module Routes
    # Customer groups, coupons, offers and rules.
    module Policies
      # Bytes of a cart that a shop's page may send.
      PUBLIC_LIMIT = 65_536
      CORS = { "access-control-allow-methods" => "POST", "access-control-allow-headers" => "content-type",
               "access-control-max-age" => "600", "vary" => "origin" }.freeze

      # Lets pages of the shops that the store lists ask, and nobody else.
      # @return [GateMile::Book]
      # @raise [Problem] 404 while it is closed, 403
      def self.opened(app)
        _, book = app.settings.shelf.current
        origin = app.request.env["HTTP_ORIGIN"]
        raise Problem.new(404, "This shop does not tell its mileposts.") unless book.store.storefront.open
        raise Problem.new(403, "This page is not on the shop's list.") unless book.store.storefront.lets?(origin)

        app.headers(CORS.merge("access-control-allow-origin" => origin))
        book
      end

      # @param shelf [BookShelf]
      # @param origin [String]
      # @return [Hash] headers with which pages of that origin may read what is told them, where they may
      def self.told(shelf, origin)
        _, book = shelf.current
        return {} unless book.store.storefront.lets?(origin)

        CORS.merge("access-control-allow-origin" => origin, "access-control-expose-headers" => "retry-after")
      end

      def self.registered(app)
        { "groups" => [Records::CustomerGroup, "group"], "coupons" => [Records::Coupon, "coupon"],
          "offers" => [Records::Offer, "offer"], "rules" => [Records::Rule, "rule"] }.each do |list, (model, kind)|
          Plain.order(app, "/api/#{list}", model, kind)
          Plain.copies(app, "/api/#{list}", model, kind) if %w[offers rules].include?(list)
          Plain.routes(app, "/api/#{list}", model, kind)
        end

        app.post "/api/margins" do
          body = body_of("MarginsRequest")
          _, book = settings.shelf.current
          cart = cart_of(body["cart"], book, under: "/cart")
          shown = Previews.policy(book, body.slice("offer"))
          answer(Policies.margins(shown, cart, body["offer"]["id"], Moments.of(body["at"], book.store.time_zone)))
        end

        app.options("/public/mileposts") { Policies.opened(self) && done }

        app.post "/public/mileposts" do
          draft = Policies.opened(self)
          # What shoppers read is what counts for them; before the first release that is what there is.
          book = settings.releases.number ? settings.releases.live(Time.now).last : draft
          answer(Mileposts.of(book, cart_of(body_of(limit: PUBLIC_LIMIT), book), at: Time.now))
        end
      end

      # @return [Hash] Margins of the contract
      def self.margins(book, cart, id, at)
        margins = GateMile::Margins.new(book, cart, book.offers.find { |offer| offer.id == id }, at)
        rows = margins.rows.map do |row|
          { method: row.method_id, **row.to_h.except(:method_id), left: row.left }.transform_values do |value|
            value&.to_s
          end
        end
        { unknown: margins.unknown, rows: rows }
      end
    end
  end
end
