# frozen_string_literal: true

module Server
  module Doors
    # A proxy can say for whom it asks in several headers. Only one of them counts: the one that the environment names
    # (GATE_MILE_FORWARDED: x-forwarded-for, or forwarded), from proxies that it names (GATE_MILE_PROXIES). Whatever
    # else says so is anybody's word, and taken away before anything reads it.
    class OneProxy
      # That such a header was there.
      SEEN = "gate_mile.proxied"
      HEADERS = %w[HTTP_FORWARDED HTTP_X_FORWARDED_FOR HTTP_X_FORWARDED_PROTO HTTP_X_FORWARDED_SCHEME
                   HTTP_X_FORWARDED_SSL HTTP_X_FORWARDED_HOST HTTP_X_FORWARDED_PORT HTTP_X_REAL_IP HTTP_CLIENT_IP
                   HTTP_X_CLIENT_IP HTTP_X_CLUSTER_CLIENT_IP HTTP_TRUE_CLIENT_IP HTTP_VIA].freeze
      COUNT = { "x-forwarded-for" => %w[HTTP_X_FORWARDED_FOR HTTP_X_FORWARDED_PROTO],
                "forwarded" => %w[HTTP_FORWARDED] }.freeze
      private_constant :HEADERS

      # @param address [String, nil]
      # @return [Boolean] whether it is one of the proxies that the environment names
      def self.proxy?(address)
        Settings.proxies.any? { |range| range.include?(address) }
      rescue IPAddr::Error
        false
      end

      # @param app [#call]
      # @param header [String] of {COUNT}
      def initialize(app, header: Settings.forwarded)
        @app = app
        @counting = COUNT.fetch(header)
        Rack::Request.forwarded_priority = [header == "forwarded" ? :forwarded : :x_forwarded]
        Rack::Request.ip_filter = OneProxy.method(:proxy?)
      end

      # @param env [Hash]
      # @return [Array]
      def call(env)
        sent = HEADERS.select { |name| env.key?(name) }
        return @app.call(env) if sent.empty?

        counting = OneProxy.proxy?(env["REMOTE_ADDR"]) ? @counting : []
        @app.call(env.except(*(sent - counting)).merge(SEEN => true))
      end
    end
  end
end
