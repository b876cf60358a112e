# frozen_string_literal: true

require "rack/protection"

module Server
  module Doors
    # Refuses changes that another site's page sends, and whatever of the workbench's such a page asks for at all, where
    # the browser says so (Fetch Metadata); what is public looks at the origin itself.
    class Origin < Rack::Protection::HttpOrigin
      # For the address forms of shops, read-only.
      SERVED = "/api/served"
      private_constant :SERVED

      def accepts?(env)
        path = env["PATH_INFO"]
        return true if path.start_with?(PUBLIC)

        !foreign?(env, path) && super
      end

      def default_reaction(_env) = Problem.new(403, "Requests from another origin are not taken.").response

      private

      def foreign?(env, path)
        %w[cross-site same-site].include?(env["HTTP_SEC_FETCH_SITE"]) && path.start_with?("/api/") && path != SERVED
      end
    end
  end
end
