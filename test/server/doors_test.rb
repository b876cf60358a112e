# frozen_string_literal: true

require "support/server"

# What stands in front of the application, piece by piece, each before an application that only says that it was reached.
class DoorsTest < Minitest::Test
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

  private

  def env(path, more = {})
    { "REQUEST_METHOD" => "GET", "PATH_INFO" => path, "QUERY_STRING" => "", "rack.input" => StringIO.new, "SERVER_NAME" => "localhost",
      "SERVER_PORT" => "80", "rack.url_scheme" => "http", "REMOTE_ADDR" => "203.0.113.1" }.merge(more.compact)
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
