# frozen_string_literal: true

module Server
  module Routes
    # What is published, and from when on it counts.
    module Releases
      def self.registered(app)
        app.get("/api/releases") { answer(ReleaseDocuments.list(settings.releases)) }
        app.get("/api/releases/state") { answer(ReleaseDocuments.state(settings.releases)) }

        app.get "/api/releases/changes" do
          answer(settings.comparisons.changes(params["from"].to_s, params["to"].to_s))
        end

        app.post "/api/releases" do
          made = settings.publishing.publish(Releases.signed(body_of("ReleaseDraft")))
          AuditLog.add(:published, about: "release #{made.id}")
          answer(ReleaseDocuments.release(made), 201)
        end

        app.get "/api/releases/:number/book" do
          release = found(Records::Release, Releases.number(params))
          content_type :json
          taken_out "release-#{release.id}.json"
          headers "cache-control" => "no-store"
          release.text
        end

        app.post "/api/releases/:number/return" do
          made = settings.publishing.go_back(Releases.number(params), Releases.signed(body_of("ReleaseReturn")))
          AuditLog.add(:went_back, about: "release #{made.release_id}")
          answer(ReleaseDocuments.publication(made), 201)
        end

        app.delete "/api/publications/:id" do
          settings.publishing.withdraw(Integer(params["id"], 10, exception: false))
          AuditLog.add(:withdrawn)
          done
        end
      end

      # Who is signed in signs by that name.
      # @param said [Hash] ReleaseDraft or ReleaseReturn of the contract
      # @return [Hash]
      def self.signed(said) = Asking.now ? said.merge("by" => Asking.now.name) : said

      # @return [Integer, nil] nil for what is no number
      def self.number(params) = Integer(params["number"], 10, exception: false)
    end
  end
end
