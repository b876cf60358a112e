# frozen_string_literal: true

module Server
  module Routes
    # The setup as a whole, and the shop itself.
    module Setup
      # Bytes of a book file.
      BOOK_LIMIT = 32 * 1_048_576

      def self.registered(app)
        app.get("/api/setup") { answer(Documents.setup) }
        app.get("/api/setup/since") do
          answer(Documents.setup_since(number("revision", 0, 0..(2**53)), params["journal"]))
        end
        app.get("/api/revision") { answer({ revision: Records::Store.revision, beside: AuditLog.newest }) }
        # The whole setup as a book file (docs/formats/book.schema.json); accounts and secrets of carriers are not in
        # it.
        app.get "/api/setup/export" do
          raise Problem.new(404, "There is no shop yet. Open one first.") unless Records::Store.current

          content_type :json
          taken_out "setup.json"
          headers "cache-control" => "no-store"
          document = Database.read { BookDocument.read }
          JSON.pretty_generate(SideProcess.run(Asking.now&.id || :nobody) { GateMile::Book.compile(document).dump })
        end

        app.post "/api/setup/import" do
          body = body_of("SetupImport", limit: BOOK_LIMIT)
          effort = Effort.new(env)
          book = SideProcess.run(Asking.now&.id || :nobody, wanted: lambda {
            !effort.gone?
          }) { SetupImport.compiled(body["book"]) }
          next status(204) unless book

          import = SetupImport.new(book)
          done = body["store"] ? import.store(body["revision"]) : import.preview
          answer({ **done, stored: body["store"] })
        end

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
          answer(History.edit("update", "store", -> { { name: store.name } }) do
            store = found_for_edit(Records::Store, 1, body.delete("lock_version"), :store)
            store.assign_attributes(body)
            Documents.store(save(store))
          end)
        end
      end
    end
  end
end
