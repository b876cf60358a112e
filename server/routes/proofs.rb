# frozen_string_literal: true

module Server
  module Routes
    # Kept carts, and what became of them.
    module Proofs
      # Proofs on one page of a list, and those that one action may take.
      PAGE = (1..500)
      STATES = %w[holds changed unclear].freeze

      def self.registered(app)
        app.get "/api/proofs/state" do
          answer(ProofDocuments.state(settings.suite.run))
        end

        app.get "/api/proofs" do
          answer(ProofDocuments.list(settings.suite.run, Proofs.asked(self)))
        end

        app.post "/api/proofs" do
          body = ProofKeeping.new(settings.shelf.current.last).filled(body_of("ProofDraft"))
          made = History.edit("create", "proof", { name: body["name"] }) { ProofDocuments.proof(save(Records::Proof.new(body))) }
          answer(made, 201)
        end

        app.get "/api/proofs.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "proofs.csv"
          ProofsCsv.write
        end

        app.post "/api/proofs/import" do
          body = body_of("TableImport", limit: Body::OF_TABLES)
          content_type "application/x-ndjson"
          headers "cache-control" => "no-store, no-transform"
          ImportLines.of("importing proofs") { |tell| Proofs.imported(body, &tell) }
        end

        app.post "/api/walk" do
          body = body_of("WalkRequest")
          _, book = settings.shelf.current
          effort = Effort.new(env)
          answers = Carriers::Port.kept
          walked = SideProcess.run(Asking.now&.id || :nobody, wanted: -> { !effort.gone? }) do
            WalkDocument.new(book, body, answers: answers).dump
          end
          walked ? answer(walked) : status(204)
        end

        app.post "/api/proofs/keep" do
          body = body_of("ProofsKept", limit: Body::OF_TABLES)
          keeping = ProofKeeping.new(settings.shelf.current.last)
          answer(keeping.keep(body["proofs"]), 201)
        end

        app.get "/api/proofs/:id/parting" do
          kept = settings.suite.run.list[params["id"]] or raise Problem.new(404, "The proof is not there any more.")
          answer(ProofDocuments.parting(kept, *settings.suite.quotes(kept)))
        end

        app.post "/api/proofs/accept" do
          run = settings.suite.run
          ids = Proofs.ids(body_of("ProofIds"), run)
          keeping = ProofKeeping.new(run.book)
          answer(Proofs.many(ids, "expects") do |record|
            kept = run.list[record.id] or next
            record.update!(expects: keeping.accepted(kept.proof, kept.outcome))
          end)
        end

        app.post "/api/proofs/record" do
          ids = Proofs.ids(body_of("ProofIds"), settings.suite.run)
          keeping = ProofKeeping.new(settings.shelf.current.last)
          heard = Records::Proof.where(id: ids).to_h { |record| [record.id, keeping.asked(record.document).last] }
          answer(Proofs.many(ids, "recorded") do |record|
            record.update!(recorded: GateMile::ProofForms::RecordedForm.write(heard.fetch(record.id, GateMile::Recorded::NONE)))
          end)
        end

        app.post "/api/proofs/remove" do
          ids = Proofs.ids(body_of("ProofIds"), settings.suite.run)
          names = {}
          count = History.edit("delete", "proof", names) do
            found = Records::Proof.where(id: ids).to_a
            names.merge!(Proofs.names(found))
            found.each(&:destroy!).size
          end
          answer({ count: count })
        end

        app.patch "/api/proofs/:id" do
          body = body_of("ProofPatch")
          names = {}
          answer(History.edit("update", "proof", names) { ProofDocuments.proof(Proofs.update(self, body, names)) })
        end

        app.delete "/api/proofs/:id" do
          names = {}
          History.edit("delete", "proof", names) { remove(Records::Proof, :proof, names) }
          done
        end
      end

      class << self
        # @param app [App]
        # @return [Hash{Symbol => Object}]
        # @raise [Problem] 422
        def asked(app)
          state, tag, find = app.params.values_at("state", "tag", "find").map { |text| text.to_s.strip }
          unless state.empty? || STATES.include?(state)
            raise Problem.at("/state", :not_one_of, choices: STATES.join(", "))
          end

          { state: state, tag: tag, find: GateMile::Product.fold(find), limit: app.number("limit", 100, PAGE),
            offset: app.number("offset", 0, 0..1_000_000) }
        end

        # @param body [Hash] ProofIds of the contract
        # @param run [ProofSuite::Run]
        # @return [Array<String>]
        def ids(body, run)
          return body["ids"] if body["ids"]

          asked = %w[state tag find].to_h { |key| [key.to_sym, body["like"][key].to_s.strip] }
          ProofDocuments.like(run, { **asked, find: GateMile::Product.fold(asked[:find]) }).keys
        end

        # @param body [Hash] TableImport of the contract
        # @return [Hash] TableImported of the contract
        def imported(body, &tell)
          return ProofsCsv.new(body["csv"]).read(store: false, &tell) unless body["store"]

          History.edit("import", "proof", {}) { ProofsCsv.new(body["csv"]).read(store: true, &tell) }
        end

        # One change of several proofs; those that are gone are passed over.
        # @param ids [Array<String>]
        # @param field [String]
        # @yieldparam record [Records::Proof]
        # @return [Hash] how many there were
        def many(ids, field, &change)
          names = {}
          count = History.edit("update", "proof", names) do
            found = Records::Proof.where(id: ids).order(:position, :id).to_a
            names.merge!(**names(found), fields: field)
            found.each(&change).size
          end
          { count: count }
        end

        # @return [Hash] what names several proofs in the history
        def names(found)
          found.one? ? { name: found.first.name } : { name: "", count: found.size.to_s }
        end

        # @return [Records::Proof]
        def update(app, body, names)
          moment = body.slice("at", "weekdays", "time")
          body = { "at" => nil, "weekdays" => nil, "time" => nil, **body } if moment.any?
          app.update(Records::Proof, :proof, body, names)
        end
      end
    end
  end
end
