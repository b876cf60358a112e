# frozen_string_literal: true

require "rack/protection"

module Server
  module Doors
    # Refuses requests that were addressed to another host name (DNS rebinding).
    class Host < Rack::Protection::HostAuthorization
      def default_reaction(_env) = Problem.new(403, "This server does not answer to that host name.").response
    end
  end
end
