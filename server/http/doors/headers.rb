# frozen_string_literal: true

module Server
  module Doors
    # Every answer says what browsers may do with it, refusals too.
    class Headers
      SAFE = { "x-content-type-options" => "nosniff", "referrer-policy" => "same-origin",
               "content-security-policy" => POLICY, "cross-origin-opener-policy" => "same-origin",
               "cross-origin-resource-policy" => "same-origin", "x-frame-options" => "DENY" }.freeze
      # Where TLS is known: for a year nothing else is spoken (RFC 6797).
      SECURE = { "strict-transport-security" => "max-age=31536000" }.freeze
      private_constant :SAFE, :SECURE

      # @param app [#call]
      def initialize(app)
        @app = app
      end

      # @param env [Hash]
      # @return [Array]
      def call(env)
        status, headers, body = @app.call(env)
        # What pages of other origins may read says so itself.
        open = headers.key?("access-control-allow-origin")
        safe = open ? SAFE.merge("cross-origin-resource-policy" => "cross-origin") : SAFE
        safe = safe.merge(SECURE) if Rack::Request.new(env).ssl?
        [status, safe.merge(headers), body]
      end
    end
  end
end
