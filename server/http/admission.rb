# frozen_string_literal: true

module Server
  # Who is let in, and for what. On this machine alone, with no account yet, nobody signs in; from anywhere else, and
  # from the first account on, everybody does. What each call wants is in the contract (x-role), and without a word
  # there it is a viewer for what reads and an editor for what writes.
  class Admission
    # What shops ask, which is opened by keys and origins; it is shut as long as the whole server is.
    SHOPS = Doors::Listener::SHOPS
    # Before anybody is known: the page, how it stands, and the ways in.
    FREE = %r{\A/api/(session|joining)(/|\z)}
    LOCAL = ["127.0.0.1", "::1", "::ffff:127.0.0.1"].freeze
    PROXIED = %w[HTTP_X_FORWARDED_FOR HTTP_FORWARDED HTTP_VIA HTTP_X_REAL_IP HTTP_X_FORWARDED_HOST
                 HTTP_X_FORWARDED_PROTO].freeze
    private_constant :SHOPS, :FREE, :LOCAL, :PROXIED

    # @param env [Hash] of Rack
    # @return [Boolean] whether it comes from this machine itself, and neither through a proxy, as far as that can be
    #   seen, nor to a server that others reach too
    def self.here?(env)
      return false if Settings.reached_by_others? || proxied?(env) || !LOCAL.include?(env["REMOTE_ADDR"])

      socket = env["puma.socket"]
      socket.nil? || LOCAL.include?(socket.to_io.local_address.ip_address)
    end

    # @param env [Hash] of Rack
    # @return [Boolean] whether it shows that a proxy has handed it on: by its headers, or by HTTP/1.0, which browsers
    #   don't speak and proxies do
    def self.proxied?(env)
      env["SERVER_PROTOCOL"] == "HTTP/1.0" || env.key?(Doors::OneProxy::SEEN) || PROXIED.any? { |name| env.key?(name) }
    end

    # @param app [#call]
    def initialize(app)
      @app = app
    end

    # @param env [Hash]
    # @return [Array]
    def call(env)
      Asking.now = nil
      path = env["PATH_INFO"]
      Asking.at(Rack::Request.new(env).ip) do
        shut = SHOPS.match?(path) ? closed(env) : refused(env, path)
        shut ? shut.response : @app.call(env)
      end
    end

    private

    # Before there is an owner, nobody asks a server that others reach for anything.
    def closed(env)
      return if People.accounts? || Admission.here?(env)

      Problem.new(401, "This server has no owner yet. On its machine, bin/people owner tells how to become one.")
    end

    def refused(env, path)
      return unless path.start_with?("/api/")

      Asking.now = Sessions.asking(env)
      return if FREE.match?(path)
      return not_signed_in(env) if Asking.now.nil?

      needed = Contract.role(env["REQUEST_METHOD"], path)
      return if Asking.now.at_least?(needed)

      AuditLog.refused("#{env["REQUEST_METHOD"]} #{path}")
      Problem.new(403, FORBIDDEN.fetch(needed))
    end

    FORBIDDEN = { "owner" => "Only owners may do this.",
                  "editor" => "You may look at everything and change nothing. Ask an owner for more." }.freeze
    private_constant :FORBIDDEN

    def not_signed_in(env)
      return closed(env) unless People.accounts?

      Problem.new(401, "Sign in first.")
    end
  end
end
