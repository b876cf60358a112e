# frozen_string_literal: true

require "rack/attack"
require "rack/protection"

module Server
  # What stands in front of the application: only known hosts, and changes only from its own pages.
  module Doors
    PUBLIC = "/public/"

    # Whether compressing an answer pays: it is longer than a packet of a network.
    LONG = lambda do |_env, _status, headers, body|
      length = headers["content-length"]&.to_i || (body.respond_to?(:to_ary) ? body.to_ary.sum(&:bytesize) : nil)
      length.nil? || length > 1400
    end

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

    # Every answer says what browsers may do with it, refusals too.
    class Headers
      SAFE = { "x-content-type-options" => "nosniff", "referrer-policy" => "same-origin",
               "content-security-policy" => Routes::Pages::POLICY, "cross-origin-opener-policy" => "same-origin",
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

    # Of all headers by which a proxy can say whom it asks for, one counts: the one that the environment names
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
        # @return [Rack::Attack] in front of it
        def new(app, most: MOST, workbench: WORKBENCH)
          Rack::Attack.cache.store = ActiveSupport::Cache::MemoryStore.new(size: 4 * 1_048_576)
          Rack::Attack.throttle("public", limit: most, period: SECONDS) do |request|
            request.ip if request.path.start_with?(PUBLIC)
          end
          Rack::Attack.throttle("workbench", limit: workbench, period: SECONDS) do |request|
            request.ip if request.path.start_with?("/api/") && !request.ip.to_s.match?(/\A(127\.|::1\z)/)
          end
          Rack::Attack.throttled_responder = method(:refused)
          Rack::Attack.new(app)
        end

        private

        # A page that may ask may also read that it asked too often.
        def refused(request)
          origin = request.env["HTTP_ORIGIN"]
          problem = Problem.new(429, "Too many requests from here. Wait a minute.", retry_after: SECONDS)
          status, headers, body = problem.response
          headers = headers.merge(Routes::Policies.told(origin)) if origin && request.path.start_with?(PUBLIC)
          [status, headers, body]
        end
      end
    end

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

    # Refuses what can't be read, before anything tries to: paths and queries that are no UTF-8, queries that are longer
    # than any of ours or have structure, bodies that are no JSON.
    class Legible
      QUERY = 4096
      FIELDS = 50
      private_constant :QUERY, :FIELDS

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
        return Problem.new(400, "The address can't be read.") unless plain?(env["PATH_INFO"].to_s)
        return Problem.new(414, "The address is too long.") if query.length > QUERY || query.count("&") >= FIELDS
        unless plain?(query) && !query.match?(/(\A|&)[^=&]*(\[|%5B)/i)
          return Problem.new(400,
                             "The address can't be read.")
        end

        Problem.new(415, "Send application/json.") if typed?(env)
      end

      # Rack reads forms by itself; none are sent here.
      def typed?(env)
        type = env["CONTENT_TYPE"].to_s.b
        !type.empty? && !type.match?(%r{\Aapplication/json\s*(;|\z)}i) && !%w[GET HEAD
                                                                              OPTIONS].include?(env["REQUEST_METHOD"])
      end

      def plain?(text)
        found = Rack::Utils.unescape_path(text.b).force_encoding(Encoding::UTF_8)
        found.valid_encoding? && !found.include?("\0")
      rescue ArgumentError
        false
      end
    end

    # Refuses requests that were addressed to another host name (DNS rebinding).
    class Host < Rack::Protection::HostAuthorization
      def default_reaction(_env) = Problem.new(403, "This server does not answer to that host name.").response
    end

    # Refuses changes that another site's page sends, and whatever of the workbench's such a page asks for at all, where
    # the browser says so (Fetch Metadata); what is public looks at the origin itself.
    class Origin < Rack::Protection::HttpOrigin
      # For the address forms of shops, read-only.
      SERVED = "/api/served"
      private_constant :SERVED

      def accepts?(env)
        path = env["PATH_INFO"]
        return true if path.start_with?(PUBLIC)

        !foreign?(env, path) && super
      end

      def default_reaction(_env) = Problem.new(403, "Requests from another origin are not taken.").response

      private

      def foreign?(env, path)
        %w[cross-site same-site].include?(env["HTTP_SEC_FETCH_SITE"]) && path.start_with?("/api/") && path != SERVED
      end
    end
  end
end
