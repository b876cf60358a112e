# frozen_string_literal: true

module Server
  module Routes
    # The setup as a whole, and the shop itself.
    module Setup
      def self.registered(app)
        app.get("/api/setup") { answer(Documents.setup) }
        app.get("/api/choices") { answer(Choices.all) }

        app.post "/api/store" do
          body = body_of("StoreDraft")
          raise Problem.new(409, "There is a shop already.") if Records::Store.current

          Opening.shop(body)
          answer(Documents.setup, 201)
        end

        app.patch "/api/store" do
          body = body_of("StorePatch")
          store = Records::Store.current
          answer(::Server::History.edit("update", "store", -> { { name: store.name } }) do
            store = found_for_edit(Records::Store, 1, body.delete("lock_version"), :store)
            store.assign_attributes(body)
            Documents.store(save(store))
          end)
        end
      end
    end
  end
end
