# frozen_string_literal: true

require "rack/attack"

module Server
  module Doors
    # Refuses one visitor's requests where they come too often: to what is public, and, from other machines, to the
    # workbench.
    class Pace
      # Requests in so many seconds.
      MOST = 120
      WORKBENCH = 6000
      SECONDS = 60

      class << self
        # @param app [#call]
        # @param most [Integer] requests to what is public
        # @param workbench [Integer] requests to the workbench
        # @param read [#call] takes an origin, returns the headers with which its pages may read a refusal
        # @return [Rack::Attack] in front of it
        def new(app, most: MOST, workbench: WORKBENCH, read: ->(_origin) { {} })
          Rack::Attack.cache.store = ActiveSupport::Cache::MemoryStore.new(size: 4 * 1_048_576)
          Rack::Attack.throttle("public", limit: most, period: SECONDS) do |request|
            request.ip if request.path.start_with?(PUBLIC)
          end
          Rack::Attack.throttle("workbench", limit: workbench, period: SECONDS) do |request|
            request.ip if request.path.start_with?("/api/") && !request.ip.to_s.match?(/\A(127\.|::1\z)/)
          end
          Rack::Attack.throttled_responder = ->(request) { refused(request, read) }
          Rack::Attack.new(app)
        end

        private

        # A page that may ask may also read that it asked too often.
        def refused(request, read)
          origin = request.env["HTTP_ORIGIN"]
          problem = Problem.new(429, "Too many requests from here. Wait a minute.", retry_after: SECONDS)
          status, headers, body = problem.response
          headers = headers.merge(read.call(origin)) if origin && request.path.start_with?(PUBLIC)
          [status, headers, body]
        end
      end
    end
  end
end
