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
          answer(ReleaseDocuments.release(settings.publishing.publish(body_of("ReleaseDraft"))), 201)
        end

        app.get "/api/releases/:number/book" do
          release = found(Records::Release, Releases.number(params))
          content_type :json
          attachment "release-#{release.id}.json"
          headers "cache-control" => "no-store"
          release.text
        end

        app.post "/api/releases/:number/return" do
          made = settings.publishing.go_back(Releases.number(params), body_of("ReleaseReturn"))
          answer(ReleaseDocuments.publication(made), 201)
        end

        app.delete "/api/publications/:id" do
          settings.publishing.withdraw(Integer(params["id"], 10, exception: false))
          done
        end
      end

      # @return [Integer, nil] nil for what is no number
      def self.number(params) = Integer(params["number"], 10, exception: false)
    end
  end
end
