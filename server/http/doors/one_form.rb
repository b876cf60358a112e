# frozen_string_literal: true

module Server
  module Doors
    # Writes addresses in their one form (RFC 3986, 6.2.2.2): routes take "/%61pi" for "/api", and so must all doors.
    class OneForm
      UNRESERVED = /%(?:4[1-9a-f]|5[0-9a]|6[1-9a-f]|7[0-9a]|3[0-9]|2[de]|5f|7e)/i
      private_constant :UNRESERVED

      # @param app [#call]
      def initialize(app)
        @app = app
      end

      # @param env [Hash]
      # @return [Array]
      def call(env)
        path = env["PATH_INFO"]
        plain = path&.include?("%") ? path.gsub(UNRESERVED) { |code| code[1, 2].hex.chr } : path
        @app.call(plain.equal?(path) ? env : env.merge("PATH_INFO" => plain))
      end
    end
  end
end
