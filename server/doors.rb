# frozen_string_literal: true

require "rack/protection"

module Server
  # What stands in front of the application: only known hosts, and changes only from its own pages.
  module Doors
    # Refuses requests that were addressed to another host name (DNS rebinding).
    class Host < Rack::Protection::HostAuthorization
      def default_reaction(_env) = Problem.new(403, "This server does not answer to that host name.").response
    end

    # Refuses changes that another site's page sends.
    class Origin < Rack::Protection::HttpOrigin
      def default_reaction(_env) = Problem.new(403, "Requests from another origin are not taken.").response
    end
  end
end
