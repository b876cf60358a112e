# frozen_string_literal: true

module Server
  module Doors
    # Sends the files of the front end as Brotli has compressed them when they were built, to those who read that: a
    # ninth smaller than with gzip, which Rack::Static sends to the others.
    class Brotli
      # Named, and not with a weight of nothing.
      READ = /(?<!\w)br(?!\w|\s*;\s*q=0(\.0+)?\s*(,|\z))/
      private_constant :READ

      # @param app [#call]
      # @param root [String] the folder that the addresses are below
      # @param headers [Hash] of every file
      def initialize(app, root:, headers:)
        @app = app
        @files = Rack::Files.new(root, headers)
      end

      # @param env [Hash]
      # @return [Array]
      def call(env)
        compressed(env) || @app.call(env)
      end

      private

      # @return [Array, nil] nil where there is nothing compressed, or nobody who reads it
      def compressed(env)
        path = env["PATH_INFO"]
        return unless path.start_with?("/assets/") && READ.match?(env["HTTP_ACCEPT_ENCODING"].to_s)

        status, headers, body = @files.call(env.merge("PATH_INFO" => "#{path}.br"))
        return [status, headers, body] if status == 304
        return unless status == 200

        [status, headers.merge("content-encoding" => "br", "content-type" => Rack::Mime.mime_type(File.extname(path))),
         body]
      end
    end
  end
end
