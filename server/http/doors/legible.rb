# frozen_string_literal: true

module Server
  module Doors
    # Refuses what can't be read, before anything tries to: paths and queries that are no UTF-8, queries that are longer
    # than any of ours or have structure, bodies that are no JSON.
    class Legible
      QUERY = 4096
      FIELDS = 50
      # A name with brackets.
      STRUCTURE = /(\A|&)[^=&]*(\[|%5B)/i
      # Requests that bring no body.
      BARE = %w[GET HEAD OPTIONS].freeze
      private_constant :QUERY, :FIELDS, :STRUCTURE, :BARE

      # @param app [#call]
      def initialize(app)
        @app = app
      end

      # @param env [Hash]
      # @return [Array]
      def call(env)
        fault(env)&.response || @app.call(env)
      end

      private

      def fault(env)
        query = env["QUERY_STRING"].to_s
        return unreadable unless plain?(env["PATH_INFO"].to_s)
        return Problem.new(414, "The address is too long.") if query.length > QUERY || query.count("&") >= FIELDS
        return unreadable if !plain?(query) || STRUCTURE.match?(query)

        Problem.new(415, "Send application/json.") if typed?(env)
      end

      # Rack reads forms by itself; none are sent here.
      def typed?(env)
        type = env["CONTENT_TYPE"].to_s.b
        !type.empty? && !type.match?(%r{\Aapplication/json\s*(;|\z)}i) && !BARE.include?(env["REQUEST_METHOD"])
      end

      def unreadable = Problem.new(400, "The address can't be read.")

      def plain?(text)
        found = Rack::Utils.unescape_path(text.b).force_encoding(Encoding::UTF_8)
        found.valid_encoding? && !found.include?("\0")
      rescue ArgumentError
        false
      end
    end
  end
end
