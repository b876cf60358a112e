# frozen_string_literal: true

module Server
  module Doors
    # Keeps what shops ask apart from what merchants use, where the environment names a listener of its own for shops
    # (GATE_MILE_PUBLIC): each of the two answers to nothing of the other.
    class Listener
      SHOPS = %r{\A/(public/|embed/|checkout/v1/|api/served\z)}
      # Both are asked how they are.
      BOTH = %w[/health /ready].freeze
      private_constant :BOTH

      # @param app [#call]
      # @param port [Integer, nil] of the listener for shops; nil where there is one for all
      def initialize(app, port: Settings.public_port)
        @app = app
        @port = port
      end

      # @param env [Hash]
      # @return [Array]
      def call(env)
        path = env["PATH_INFO"]
        return @app.call(env) if @port.nil? || BOTH.include?(path) || SHOPS.match?(path) == at?(env["puma.socket"])

        Problem.new(404, "There is nothing at this address.").response
      end

      private

      # By the connection itself: what a request says of its port is anybody's word.
      def at?(socket) = socket.to_io.local_address.ip_port == @port
    end
  end
end
