# frozen_string_literal: true

module Server
  module Routes
    # The built front end: its page for every address that is not the API's, and what pages of shops fetch.
    module Pages
      # Scripts, styles and fonts of the front end, as Rack::Static takes it: their names change with what is in them,
      # and beside those that pay lies a compressed one (web/vite.config.ts).
      KEPT = { "cache-control" => "public, max-age=31536000, immutable", "vary" => "accept-encoding",
               "x-content-type-options" => "nosniff" }.freeze
      ASSETS = { urls: ["/assets"], gzip: true, cascade: true, header_rules: [[:all, KEPT]] }.freeze

      EMBEDDED = %w[estimate choice milepost address].freeze
      private_constant :EMBEDDED

      # @param settings [#releases, #duties] of the application
      # @return [Hash{Symbol => Integer}] what stands now, for those who watch
      def self.standing(settings)
        since = settings.releases.since
        { release: settings.releases.number, release_age: since && [(Time.now - since).round, 0].max,
          deliveries_waiting: Records::WebhookDelivery.where(state: "waiting").count,
          backup_age: Nightly.age&.round, backup_failures: settings.duties.backups.failures }
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end

      def self.registered(app)
        # For the pages of shops: the scripts of the parts that they embed.
        EMBEDDED.each do |name|
          app.get "/embed/#{name}.js" do
            headers "cache-control" => "public, max-age=300", "cross-origin-resource-policy" => "cross-origin"
            send_file File.join(Settings.web, "embed", "#{name}.js")
          end
        end

        app.get(%r{/(?!api/|assets/|public/|embed/).*}) do
          file = File.join(Settings.web, request.path == "/favicon.svg" ? "favicon.svg" : "index.html")
          headers "cache-control" => "no-cache"
          send_file file
        end
      end
    end
  end
end
