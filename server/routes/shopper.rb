# frozen_string_literal: true

module Server
  module Routes
    # What shoppers would see: the draft as the checkout door would tell it, for the parts that are shown in the
    # workbench, and carts that are looked at in the shop.
    module Shopper
      # As whom the workbench asks: as the shop's server, and nothing can be ordered with the answer.
      KEY = KeyRing::Key.new(nil, "The workbench", false, nil, [], [], nil, nil).freeze
      private_constant :KEY

      def self.registered(app)
        app.post("/api/shopper/quotes") { answer(Shopper.quotes(settings).one(body_of, KEY, Shopper.draft(settings))) }

        app.post "/api/shopper/quotes/batch" do
          answer(Shopper.quotes(settings).many(body_of, KEY, Shopper.draft(settings)))
        end

        app.get("/api/shopper/served") { answer(DeliveryPage.served(Shopper.draft(settings))) }
        app.post("/api/shopper/served") { answer(DeliveryPage.address(body_of, Shopper.draft(settings))) }

        app.post "/api/trials" do
          body = body_of("TrialRequest")
          _, book = settings.shelf.current
          cart = cart_of(body["cart"], book, under: "/cart")
          id = settings.checkout.trials.open(cart.dump.except("offer_uses"), body["release"], body["at"])
          answer({ trial: id, page: Shopper.page(book.store.storefront, id) }, 201)
        end
      end

      # @return [CheckoutQuotes]
      def self.quotes(settings) = settings.checkout.quotes

      # @return [CheckoutQuotes::Ground]
      def self.draft(settings) = settings.checkout.tried(Trials::Trial.new(nil, nil, nil, nil))

      # @param storefront [GateMile::Storefront]
      # @param id [String] of a trial
      # @return [String, nil] where it can be looked at
      def self.page(storefront, id)
        storefront.page&.then { |page| "#{page}#{page.include?("?") ? "&" : "?"}gate-mile-trial=#{id}" }
      end
    end
  end
end
