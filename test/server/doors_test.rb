# frozen_string_literal: true

require "support/server"
require "minitest/mock"
require "net/http"
require "puma"
require "puma/server"

# What stands in front of the application, piece by piece, each before an application that only says that it was reached.
class DoorsTest < Minitest::Test
  include ServerSupport

  # The pace of the next test is the usual one.
  def teardown = Server::Doors::Pace.new(REACHED)

  REACHED = ->(env) { [200, { "content-type" => "text/plain" }, [env["PATH_INFO"]]] }
  JSON_TYPE = "application/json"

  # RFC 9110, 12.5.3: a coding with a weight of 0 is not acceptable, in whatever order they stand.
  BROTLI = { "br" => true, "gzip, deflate, br" => true, "br;q=0.1" => true, "br;q=1.0, gzip;q=0.8" => true, "gzip;q=1.0, br;q=0.5" => true,
             "br;q=0" => false, "br;q=0.0" => false, "br;q=0.000, gzip" => false, "gzip" => false, "" => false, "identity" => false,
             "brotli" => false, "xbr" => false, nil => false }.freeze

  def test_brotli_goes_to_those_who_read_it
    Dir.mktmpdir do |root|
      FileUtils.mkdir_p(File.join(root, "assets"))
      File.write(File.join(root, "assets", "app.js"), "plain")
      File.binwrite(File.join(root, "assets", "app.js.br"), "small")
      door = Server::Doors::Brotli.new(REACHED, root: root, headers: {})
      BROTLI.each do |accepted, compressed|
        status, headers, body = door.call(env("/assets/app.js", "HTTP_ACCEPT_ENCODING" => accepted))
        assert_equal 200, status
        compressed ? assert_equal("br", headers["content-encoding"], accepted) : assert_nil(headers["content-encoding"], accepted.inspect)
        assert_match(/javascript/, headers["content-type"], accepted) if compressed
        assert_equal compressed ? "small" : "/assets/app.js", read(body), accepted.inspect
      end
      # What was never compressed, what is no asset, and what climbs out of its folder.
      ["/assets/other.js", "/index.html", "/assets/../../secret.js"].each do |path|
        assert_equal path, read(door.call(env(path, "HTTP_ACCEPT_ENCODING" => "br"))[2])
      end
    end
  end

  LEGIBLE = {
    ["GET", "/zones", ""] => 200, ["GET", "/zones", "item=2*SHK-10&to=GB&postcode=TR29+4ZZ"] => 200, ["GET", "/caf%C3%A9", ""] => 200,
    ["GET", "/zones", "q=%C3%A9"] => 200, ["GET", "/%FF", ""] => 400, ["GET", "/zones", "q=%FF"] => 400, ["GET", "/zones", "q=%00"] => 400,
    ["GET", "/%00", ""] => 400, ["GET", "/zones", "q[a]=1"] => 400, ["GET", "/zones", "q%5Ba%5D=1"] => 400, ["GET", "/zones", "a=1&q[]=1"] => 400,
    ["GET", "/zones", "q=[a]"] => 200, ["GET", "/zones", "q=#{"x" * 4000}"] => 200, ["GET", "/zones", "q=#{"x" * 4096}"] => 414,
    ["GET", "/zones", (["a=1"] * 50).join("&")] => 200, ["GET", "/zones", (["a=1"] * 51).join("&")] => 414
  }.freeze

  def test_addresses_that_can_be_read
    door = Server::Doors::Legible.new(REACHED)
    LEGIBLE.each do |(verb, path, query), status|
      assert_equal status, door.call(env(path, "REQUEST_METHOD" => verb, "QUERY_STRING" => query))[0], "#{path}?#{query[0, 60]}"
    end
  end

  TYPES = { JSON_TYPE => 200, "application/json; charset=utf-8" => 200, "APPLICATION/JSON" => 200, "" => 200, nil => 200,
            "application/x-www-form-urlencoded" => 415, "multipart/form-data; boundary=x" => 415, "text/plain" => 415, "application/jsonp" => 415,
            "text/json" => 415 }.freeze

  def test_bodies_that_are_json
    door = Server::Doors::Legible.new(REACHED)
    TYPES.each do |type, status|
      %w[POST PUT PATCH DELETE].each do |verb|
        assert_equal status, door.call(env("/api/zones", "REQUEST_METHOD" => verb, "CONTENT_TYPE" => type))[0], "#{verb} #{type}"
      end
      assert_equal 200, door.call(env("/api/zones", "CONTENT_TYPE" => type))[0], "GET #{type}"
    end
  end

  # What is refused says so as a problem document (RFC 9457) that no cache keeps.
  def test_a_refusal_is_a_problem_document
    status, headers, body = Server::Doors::Legible.new(REACHED).call(env("/%FF"))
    problem = JSON.parse(read(body))
    assert_equal [400, "application/problem+json", "no-store"], [status, *headers.values_at("content-type", "cache-control")]
    assert_equal [400, "about:blank", []], problem.values_at("status", "type", "errors")
    assert_equal "The address can't be read.", problem["detail"]
  end

  def test_whether_compressing_pays
    long = Server::Doors::LONG
    assert long.call({}, 200, { "content-length" => "1401" }, [])
    refute long.call({}, 200, { "content-length" => "1400" }, [])
    refute long.call({}, 200, {}, ["x" * 700, "y" * 700])
    assert long.call({}, 200, {}, ["x" * 700, "é" * 351])
    # Of a body that comes piece by piece nobody knows.
    assert long.call({}, 200, {}, Enumerator.new { |out| out << "x" })
  end

  # So many requests in a minute from one visitor to what is public, and no fewer; others are not held back by them.
  def test_the_pace_of_public_requests
    now = Time.utc(2026, 6, 1, 10)
    door = Server::Doors::Pace.new(REACHED, most: 3)
    ask = ->(path, ip) { door.call(env(path, "REMOTE_ADDR" => ip)) }
    at(now) do
      assert_equal([200, 200, 200, 429], Array.new(4) { ask.call("/public/milepost", "203.0.113.7")[0] })
      assert_equal "60", ask.call("/public/milepost", "203.0.113.7")[1]["retry-after"]
      assert_equal 200, ask.call("/public/milepost", "203.0.113.8")[0]
      assert_equal 200, ask.call("/api/setup", "203.0.113.7")[0]
    end
    at(now + 61) { assert_equal 200, ask.call("/public/milepost", "203.0.113.7")[0] }
  end

  # A page that may ask may also read that it asked too often (RFC 6585, 4; Fetch, CORS).
  def test_the_pace_is_told_to_pages
    read = ->(origin) { origin == "https://shop.example" ? { "access-control-allow-origin" => origin } : {} }
    door = Server::Doors::Pace.new(REACHED, most: 1, workbench: 2, read: read)
    ask = ->(path, **more) { door.call(env(path, **more.transform_keys(&:to_s))) }
    at(Time.utc(2026, 6, 1, 11)) do
      told = Array.new(2) { ask.call("/public/mileposts", HTTP_ORIGIN: "https://shop.example") }.last
      assert_equal [429, "https://shop.example", "60"], [told[0], *told[1].values_at("access-control-allow-origin", "retry-after")]
      assert_nil ask.call("/public/mileposts", HTTP_ORIGIN: "https://evil.example")[1]["access-control-allow-origin"]
      assert_equal([200, 200, 429], Array.new(3) { ask.call("/api/setup", REMOTE_ADDR: "203.0.113.7")[0] })
      assert_equal([200] * 5, Array.new(5) { ask.call("/api/setup", REMOTE_ADDR: "127.0.0.1")[0] }, "on the machine itself")
      assert_equal 429, ask.call("/api/setup", REMOTE_ADDR: "203.0.113.7")[0]
    end
  end

  # A forged name of a proxy's header is not believed; one of a proxy of ours is.
  def test_who_asks
    asker = lambda do |proxies, remote, forwarded, header = "x-forwarded-for", **more|
      door = Server::Doors::OneProxy.new(->(env) { Rack::Request.new(env).ip }, header: header)
      headers = { "HTTP_X_FORWARDED_FOR" => forwarded, **more.transform_keys(&:to_s) }.compact
      with_proxies(proxies) { door.call(env("/", "REMOTE_ADDR" => remote, **headers)) }
    end
    # What else a request may say of whom it comes from.
    others = { HTTP_FORWARDED: "for=9.9.9.9;proto=https", HTTP_X_REAL_IP: "9.9.9.9", HTTP_CLIENT_IP: "9.9.9.9", HTTP_X_CLIENT_IP: "9.9.9.9",
               HTTP_TRUE_CLIENT_IP: "9.9.9.9", HTTP_X_CLUSTER_CLIENT_IP: "9.9.9.9" }
    others.each do |name, value|
      assert_equal "1.2.3.4", asker.call("127.0.0.1", "127.0.0.1", "1.2.3.4", name => value), name
      assert_equal "203.0.113.7", asker.call("127.0.0.1", "203.0.113.7", "1.2.3.4", name => value), name
      assert_equal "127.0.0.1", asker.call("127.0.0.1", "127.0.0.1", nil, name => value), name
    end
    assert_equal "9.9.9.9", asker.call("127.0.0.1", "127.0.0.1", "1.2.3.4", "forwarded", **others), "where the environment names the other"
    assert_equal "127.0.0.1", asker.call("127.0.0.1", "127.0.0.1", "1.2.3.4", "forwarded"), "then this one is nobody's word"
    ENV["GATE_MILE_FORWARDED"] = "x-real-ip"
    assert_match(/GATE_MILE_FORWARDED is/, assert_raises(ArgumentError) { Server::Settings.check }.message)
    assert_equal "10.0.0.5", asker.call("", "10.0.0.5", "1.2.3.4"), "a private address is no proxy by itself"
    assert_equal "127.0.0.1", asker.call("", "127.0.0.1", "1.2.3.4")
    assert_equal "1.2.3.4", asker.call("127.0.0.1", "127.0.0.1", "1.2.3.4")
    assert_equal "1.2.3.4", asker.call("127.0.0.1,10.0.0.0/8", "127.0.0.1", "9.9.9.9, 1.2.3.4, 10.1.1.1"), "the last one that is no proxy of ours"
  ensure
    ENV.delete("GATE_MILE_FORWARDED")
  end

  # Over TLS every answer says that nothing else is spoken from now on; a proxy's word for it counts where the proxy is ours.
  def test_strict_transport
    said = lambda do |proxies, **more|
      stack = Server::Doors::OneProxy.new(Server::Doors::Headers.new(->(_) { [200, {}, []] }))
      with_proxies(proxies) { stack.call(env("/", **more.transform_keys(&:to_s)))[1]["strict-transport-security"] }
    end
    assert_nil said.call("")
    assert_equal "max-age=31536000", said.call("", HTTPS: "on")
    assert_equal "max-age=31536000", said.call("127.0.0.1", REMOTE_ADDR: "127.0.0.1", HTTP_X_FORWARDED_PROTO: "https")
    %i[HTTP_X_FORWARDED_PROTO HTTP_X_FORWARDED_SCHEME HTTP_X_FORWARDED_SSL].each do |name|
      assert_nil said.call("127.0.0.1", REMOTE_ADDR: "203.0.113.7", name => name == :HTTP_X_FORWARDED_SSL ? "on" : "https")
    end
  end

  def with_proxies(list)
    ENV["GATE_MILE_PROXIES"] = list
    yield
  ensure
    ENV.delete("GATE_MILE_PROXIES")
  end

  # Two listeners of one server: each answers to nothing of the other, whatever a request says of its port.
  def test_shops_apart_from_merchants
    server = nil
    ports = Array.new(2) { TCPServer.open("127.0.0.1", 0) { |free| free.addr[1] } }
    server = Puma::Server.new(Server::Doors::Listener.new(REACHED, port: ports.last), nil, { min_threads: 1, max_threads: 2, log_writer: Puma::LogWriter.null })
    ports.each { |port| server.add_tcp_listener("127.0.0.1", port) }
    server.run
    code = lambda do |port, path|
      request = Net::HTTP::Get.new(path, { "host" => "localhost:#{ports.last}", "x-forwarded-port" => ports.last.to_s })
      Net::HTTP.start("127.0.0.1", port) { |http| http.request(request) }.code.to_i
    end
    shops = %w[/checkout/v1/quotes /public/mileposts /embed/milepost.js /api/served]
    merchants = %w[/ /zones /api/setup /api/served/x /api/keys /api/backups/now /assets/a.js /metrics /checkout/v2/x /Public/x //public/x]
    shops.each { |path| assert_equal [404, 200], ports.map { |port| code.call(port, path) }, path }
    merchants.each { |path| assert_equal [200, 404], ports.map { |port| code.call(port, path) }, path }
    assert_equal([200, 200], ports.map { |port| code.call(port, "/health") })
    assert_equal(200, Server::Doors::Listener.new(REACHED, port: nil).call(env("/api/setup")).first, "one for all")
  ensure
    server&.stop(true)
  end

  # W3C, Fetch Metadata Request Headers: what another site's page asks of the workbench is refused; addresses typed, and what is public, are not.
  def test_where_a_request_comes_from
    door = Server::Doors::Origin.new(REACHED)
    code = ->(path, site, verb = "GET") { door.call(env(path, "HTTP_SEC_FETCH_SITE" => site, "REQUEST_METHOD" => verb))[0] }
    [["/api/setup", "cross-site", 403], ["/api/setup", "same-site", 403], ["/api/setup", "same-origin", 200],
     ["/api/setup", "none", 200], ["/api/setup", nil, 200], ["/api/served", "cross-site", 200],
     ["/public/mileposts", "cross-site", 200], ["/", "cross-site", 200]].each do |path, site, wanted|
      assert_equal wanted, code.call(path, site), "#{path} #{site}"
    end
    assert_equal 403, code.call("/api/zones", "cross-site", "POST")
  end

  # Whatever is answered, and whoever answers it, browsers are told what they may do with it (OWASP, HTTP Headers Cheat Sheet).
  def test_headers_of_every_answer
    fresh
    stack = ServerSupport::STACK
    { "/" => 200, "/api/setup" => 200, "/api/nothing" => 404, "/%FF" => 400, "/checkout/v1/quotes" => 401, "/checkout/v1/state" => 401,
      "/assets/none.js" => 404 }.each do |path, wanted|
      status, headers, body = stack.call(env(path, "HTTP_HOST" => "localhost", "REMOTE_ADDR" => "127.0.0.1"))
      body.close if body.respond_to?(:close)
      assert_equal wanted, status, path
      assert_equal %w[nosniff DENY same-origin], headers.values_at("x-content-type-options", "x-frame-options", "cross-origin-opener-policy"), path
      assert_includes headers["content-security-policy"], "frame-ancestors 'none'", path
    end
    refused = stack.call(env("/", "HTTP_HOST" => "evil.example"))
    assert_equal [403, "nosniff"], [refused[0], refused[1]["x-content-type-options"]]
  end

  private

  def env(path, more = {})
    { "REQUEST_METHOD" => "GET", "PATH_INFO" => path, "QUERY_STRING" => "", "rack.input" => StringIO.new, "SERVER_NAME" => "localhost",
      "SERVER_PORT" => "80", "rack.url_scheme" => "http", "REMOTE_ADDR" => "203.0.113.1", "SERVER_PROTOCOL" => "HTTP/1.1" }.merge(more.compact)
  end

  def read(body)
    text = +""
    body.each { |part| text << part }
    text
  ensure
    body.close if body.respond_to?(:close)
  end

  # The limiter counts by the clock.
  def at(moment)
    real = Time.method(:now)
    Time.define_singleton_method(:now) { moment }
    yield
  ensure
    Time.define_singleton_method(:now, real)
  end
end
