# frozen_string_literal: true

module Server
  module Routes
    # The built front end: its files, and its page for every address that is not the API's.
    module Pages
      POLICY = "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; font-src 'self'; " \
               "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

      def self.registered(app)
        app.get "/assets/*" do
          name = params["splat"].first
          file = File.join(Settings.web, "assets", name)
          pass unless name.match?(/\A\w[\w.-]*\z/) && File.file?(file)

          headers "cache-control" => "public, max-age=31536000, immutable"
          send_file file
        end

        # For the pages of shops: the script that shows mileposts.
        app.get "/embed/milepost.js" do
          headers "cache-control" => "public, max-age=300", "cross-origin-resource-policy" => "cross-origin"
          send_file File.join(Settings.web, "embed", "milepost.js")
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
