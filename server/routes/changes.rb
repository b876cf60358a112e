# frozen_string_literal: true

module Server
  module Routes
    # Undo, redo and the list of changes.
    module Changes
      def self.registered(app)
        app.get "/api/history" do
          answer({ changes: History.list(100).map(&:document) })
        end

        app.post "/api/history/undo" do
          History.undo(body_of("HistoryStep")["change"])
          answer(Documents.setup)
        end

        app.post "/api/history/redo" do
          History.redo(body_of("HistoryStep")["change"])
          answer(Documents.setup)
        end
      end
    end
  end
end
