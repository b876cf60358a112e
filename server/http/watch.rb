# frozen_string_literal: true

module Server
  # For whoever watches over the server: /health (it is alive), /ready (it can do its work) and /metrics (to those who
  # may read them); and a line for each request, where the environment asks for it.
  class Watch
    PLAIN = { "content-type" => "application/json", "cache-control" => "no-store" }.freeze
    # The beginning of an address, and what it is a part of.
    PARTS = { "/checkout/" => "checkout", "/public/" => "public", "/api/" => "api" }.freeze
    private_constant :PLAIN, :PARTS

    # @param app [#call]
    # @param ready [#call] returns nil, or why it can't do its work
    # @param now [#call] returns what stands now, for {Metrics.told}
    # @param more [#call] returns what /ready tells beside that, such as ages
    def initialize(app, ready:, now:, more: -> { {} })
      @app = app
      @ready = ready
      @now = now
      @more = more
    end

    # @param env [Hash] of Rack
    # @return [Array]
    def call(env)
      case env["PATH_INFO"]
      when "/health" then [200, PLAIN.dup, [JSON.generate({ status: "alive" })]]
      when "/ready" then ready
      when "/metrics" then metrics(env)
      else watched(env)
      end
    end

    private

    def ready
      why = @ready.call
      told = { status: why ? "not ready" : "ready", why: why, **@more.call }.compact
      [why ? 503 : 200, PLAIN.dup, [JSON.generate(told)]]
    end

    def metrics(env)
      return Problem.new(404, "There is nothing at this address.").response unless watcher?(env)

      [200, { "content-type" => Prometheus::Client::Formats::Text::CONTENT_TYPE, "cache-control" => "no-store" },
       [Metrics.told(@now.call)]]
    end

    # Through a proxy that nobody named, everybody would seem to be on this machine.
    def watcher?(env)
      return false if Settings.proxies.empty? && Admission.proxied?(env)

      Settings.watcher?(Rack::Request.new(env).ip)
    end

    def watched(env)
      started = Database.now
      Afterwards.of(env) do
        status, headers, body = @app.call(env)
        took = Database.now - started
        id = SecureRandom.hex(8) if Settings.log_requests?
        Afterwards.work("counting a request") { count(env, status, id, took) }
        [status, id ? headers.merge("x-request-id" => id) : headers, body]
      end
    end

    def count(env, status, id, took)
      part = PARTS.find { |start, _| env["PATH_INFO"].start_with?(start) }&.last || "page"
      Metrics.request(part, status)
      Log.request(id: id, part: part, method: env["REQUEST_METHOD"], status: status, seconds: took) if id
    end
  end
end
