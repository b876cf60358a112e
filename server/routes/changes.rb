# frozen_string_literal: true

module Server
  module Routes
    # Undo, redo and the list of changes.
    module Changes
      def self.registered(app)
        app.get "/api/history" do
          answer({ changes: History.list(100).map(&:document) })
        end

        app.post "/api/history/effects" do
          body = body_of("EffectsRequest")
          _, book = settings.shelf.current
          cart = bench_cart(body["cart"], book, under: "/cart")
          at = Moments.of(body["at"], book.store.time_zone)
          effects = settings.shelf.steps.map do |revision, old, new|
            { revision: revision, rates: Changes.effect(old, new, cart, at) }
          end
          answer({ effects: effects })
        end

        app.post "/api/history/undo" do
          body = body_of("HistoryStep")
          History.undo(body["change"], others: body["others"] == true)
          answer(Documents.setup)
        end

        app.post "/api/history/redo" do
          body = body_of("HistoryStep")
          History.redo(body["change"], others: body["others"] == true)
          answer(Documents.setup)
        end
      end

      # @return [Hash{String => Hash}] by rate, where the cart gets another price than before; a price is nil where the
      #   method is not available, or not there
      def self.effect(old, new, cart, at)
        before, after = [old, new].map { |book| prices(book, cart, at) }
        (before.keys | after.keys).filter_map do |rate|
          [rate, { before: before[rate], after: after[rate] }] if before[rate] != after[rate]
        end.to_h
      end

      # Of the zone in which the cart lands. Carriers are not asked.
      def self.prices(book, cart, at)
        book.quote(cart, at: at).method_quotes.to_h { |method| [method.rate, method.price&.to_s] }
      end
      private_class_method :prices
    end
  end
end
