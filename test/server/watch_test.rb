# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../support/carriers"
require "minitest/mock"

# What stands outside can see of the server: that it is alive, whether it can do its work, what it counts, and a line for each request; and nothing of
# what was asked. Source: the text format of Prometheus, https://prometheus.io/docs/instrumenting/exposition_formats/ (from memory).
class WatchTest < Minitest::Test
  include CheckoutSupport
  include CarriersSupport

  def setup
    fresh(WHOLE_DEMO)
    carriers
    publish
    @key = key_for
  end

  def look(path, **more)
    status, headers, body = STACK.call(Rack::MockRequest.env_for("http://localhost#{path}", "REMOTE_ADDR" => "127.0.0.1", **more))
    text = +""
    body.each { |part| text << part }
    body.close if body.respond_to?(:close)
    [status, headers, text]
  end

  # @return [Hash{String => Float}] by name and labels
  def metrics = look("/metrics").last.lines.grep_v(/^#/).to_h { |line| line.strip.rpartition(" ").values_at(0, 2) }.transform_values(&:to_f)

  # Rack, SPEC, rack.response_finished: what only counts and logs waits until the answer has been sent, and its failures
  # go to the log.
  def test_counting_waits_until_the_answer_is_sent
    finished = []
    requests = -> { metrics.select { |name, _| name.start_with?("gate_mile_requests_total") }.values.sum }
    before = requests.call
    look("/api/setup", "rack.response_finished" => finished)
    assert_equal [before, 1], [requests.call, finished.size]
    finished.each { |work| work.call({}, 200, {}, nil) }
    assert_equal before + 1, requests.call
    Server::Afterwards.of({ "rack.response_finished" => finished }) { Server::Afterwards.work("counting") { raise "full" } }
    logged = nil
    Server::Log.stub(:fault, ->(error, what) { logged = [error.message, what] }) { finished.last.call({}, 200, {}, nil) }
    assert_equal %w[full counting], logged
    at_once = false
    Server::Afterwards.work("counting") { at_once = true }
    assert at_once, "outside of a request"
  end

  def change
    before = metrics
    yield
    after = metrics
    after.to_h { |name, value| [name, value - before.fetch(name, 0)] }
  end

  def test_alive_and_ready
    told = ->(path) { look(path).then { |code, _, text| [code, *JSON.parse(text).values] } }
    assert_equal [200, "alive"], told.call("/health")
    assert_equal [200, "ready"], told.call("/ready")
    ActiveRecord::Base.connection.execute("ALTER TABLE stores RENAME TO away")
    assert_equal [503, "not ready", "The database does not answer."], told.call("/ready")
    assert_equal 200, look("/health").first
  ensure
    ActiveRecord::Base.connection.execute("ALTER TABLE away RENAME TO stores") if ActiveRecord::Base.connection.table_exists?("away")
  end

  # Each quote and each call to a carrier counts once, by what came of it.
  def test_what_is_counted
    found = change do
      3.times { quoted }
      quoted(cart(goods, { "country" => "JP" }))
      ask(:post, "quotes/batch", { products: %w[LOG-A4 LOG-A4], destination: MAINLAND })
      ask(:post, "quotes", { cart: cart }, key: "wrong")
      api(:post, "/api/quote", { lines: [{ sku: "SHK-GAL-10", quantity: 8 }], destination: { country: "IE" } })
    end
    assert_equal [5.0, 1.0], found.values_at('gate_mile_quotes_total{outcome="priced"}', 'gate_mile_quotes_total{outcome="not_served"}')
    assert_equal 6.0, found["gate_mile_quote_seconds_count"]
    assert_equal 1.0, found['gate_mile_requests_total{part="checkout",status="401"}']
    assert_equal 5.0, found['gate_mile_requests_total{part="checkout",status="200"}']
    assert_equal 1.0, found['gate_mile_requests_total{part="api",status="200"}']
    assert_equal Server::Carriers::Calls.list.size.to_f, found.select { |name, _| name.start_with?("gate_mile_carrier_calls_total") }.values.sum
    assert_equal 1.0, metrics["gate_mile_release"]
    assert_equal 0.0, metrics["gate_mile_deliveries_waiting"]
  end

  # Names and values as the format has them, each with its help and type, and nothing of carts, keys or addresses.
  def test_the_text
    quoted
    code, headers, text = look("/metrics")
    assert_equal [200, "text/plain; version=0.0.4"], [code, headers["content-type"]]
    samples = text.lines.grep_v(/^#/)
    assert(samples.all?(/\A[a-z_:][a-z0-9_:]*(\{[a-z_]+="[^"]*"(,[a-z_]+="[^"]*")*\})? [-+0-9.e]+\n\z/i), samples.first)
    assert_equal(text.scan(/^# TYPE (\S+)/), text.scan(/^# HELP (\S+)/))
    [@key, "LOG-A4", "TR29", "Harbour"].each { |said| refute_includes text, said }
  end

  # Metrics are for this machine, and for those whom the environment names; others do not even hear that they are there.
  def test_who_may_read_them
    assert_equal 404, look("/metrics", "REMOTE_ADDR" => "203.0.113.7").first
    assert_equal 404, look("/metrics", "REMOTE_ADDR" => "203.0.113.7", "HTTP_X_FORWARDED_FOR" => "127.0.0.1").first, "a forged address"
    ENV["GATE_MILE_PROXIES"] = "127.0.0.1"
    assert_equal 404, look("/metrics", "HTTP_X_FORWARDED_FOR" => "203.0.113.7", "HTTP_FORWARDED" => "for=127.0.0.1").first, "a second header"
    ENV.delete("GATE_MILE_PROXIES")
    assert_equal 404, look("/metrics", "HTTP_X_FORWARDED_FOR" => "203.0.113.7").first, "through a proxy of this machine that nobody named"
    assert_equal 404, look("/metrics", "SERVER_PROTOCOL" => "HTTP/1.0").first, "the same, which hides itself"
    ENV["GATE_MILE_WATCHERS"] = "203.0.113.0/24"
    assert_equal 200, look("/metrics", "REMOTE_ADDR" => "203.0.113.7").first
    assert_equal 404, look("/metrics", "REMOTE_ADDR" => "203.0.114.7").first
    ENV["GATE_MILE_WATCHERS"] = "nonsense"
    assert_equal 404, look("/metrics", "REMOTE_ADDR" => "203.0.113.7").first
  ensure
    ENV.delete("GATE_MILE_WATCHERS")
    ENV.delete("GATE_MILE_PROXIES")
  end

  # An address that is none is told when the server starts, by the name of the setting.
  def test_settings_that_are_no_addresses
    Server::Settings.check
    %w[GATE_MILE_PROXIES GATE_MILE_WATCHERS GATE_MILE_OUTGOING].each do |name|
      before = ENV.fetch(name, nil)
      ENV[name] = "10.0.0.1, ten"
      assert_match(/\A#{name}: /, assert_raises(ArgumentError) { Server::Settings.check }.message)
    ensure
      ENV[name] = before
    end
  end

  # A line of JSON for each request, by the number that its answer names, without what was asked.
  def test_a_line_for_each_request
    said = StringIO.new
    Server::Log.to = said
    ENV["GATE_MILE_LOG"] = "1"
    quoted
    id = last_response.headers["x-request-id"]
    api(:get, "/api/orders/SECRET-7")
    lines = said.string.lines.map { |line| JSON.parse(line) }
    assert_equal([["checkout", "POST", 200], ["api", "GET", 404]], lines.map { |line| line.values_at("part", "method", "status") })
    assert_equal id, lines.first["request"]
    assert_operator lines.first["seconds"], :>, 0
    [@key, "LOG-A4", "TR29", "SECRET"].each { |text| refute_includes said.string, text }
  ensure
    ENV.delete("GATE_MILE_LOG")
    Server::Log.to = nil
  end
end
