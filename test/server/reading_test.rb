# frozen_string_literal: true

require_relative "../support/server"
require_relative "../../server/http/kept_alive"
require_relative "../../server/http/reading"
require "minitest/mock"
require "socket"

# Requests that come slowly, that are too large, or that are for somebody else, on a server with few threads.
# Sources: RFC 9110, 15.5.9 (408) and 15.5.14 (413).
class ReadingTest < Minitest::Test
  THREADS = 2
  STALLED = 200

  def setup
    app = ->(env) { [200, { "content-type" => "text/plain" }, [env["rack.input"].read.bytesize.to_s]] }
    handler = ->(_error, _env, status) { Server::Problem.unread(status) }
    @server = Puma::Server.new(app, nil, { min_threads: THREADS, max_threads: THREADS, first_data_timeout: 2, persistent_timeout: 2,
                                           log_writer: Puma::LogWriter.null, lowlevel_error_handler: handler })
    @port = @server.add_tcp_listener("127.0.0.1", 0).addr[1]
    @server.run
    @sockets = []
  end

  def teardown
    @sockets.each(&:close)
    @server.stop(true)
  end

  def connected(text)
    TCPSocket.new("127.0.0.1", @port).tap do |socket|
      @sockets << socket
      socket.write(text)
    end
  end

  def head(path, length, host: "127.0.0.1") = "POST #{path} HTTP/1.1\r\nhost: #{host}\r\ncontent-type: application/json\r\ncontent-length: #{length}\r\n\r\n"

  # @return [String] all that is answered until the server closes, or for as long as it takes
  def answer(socket, seconds = 10)
    said = +""
    said << socket.readpartial(65_536) while socket.wait_readable(seconds)
    said
  rescue EOFError, SystemCallError
    said
  end

  # Two hundred connections that send a byte now and then, of their head or of their body: others are answered at once.
  def test_stalled_connections_do_not_stop_the_server
    stalled = Array.new(STALLED) { |at| connected(at.even? ? "POST /api/quote HTTP/1.1\r\nhost: 127.0.0.1\r\nx-slow: " : "#{head("/api/quote", 1000)}{") }
    3.times do
      stalled.each { |socket| socket.write("a") }
      started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      assert_match(/200 OK/, connected("#{head("/api/quote", 2)}{}").readpartial(1000))
      assert_operator Process.clock_gettime(Process::CLOCK_MONOTONIC) - started, :<, 2
    end
  end

  # Each byte comes in time, and all of them do not: the connection ends.
  def test_a_deadline_for_the_whole
    silently(:WHOLE, 1) do
      [head("/api/quote", 1000), "POST /api/quote HTTP/1.1\r\nhost: 127.0.0.1\r\nx-slow: "].each do |beginning|
        socket = connected(beginning)
        dripping = Thread.new do
          loop do
            socket.write("a")
            sleep 0.2
          end
        rescue SystemCallError, IOError
          nil
        end
        started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        said = answer(socket, 6)
        assert_includes ["", "HTTP/1.1 408 Request Timeout"], said.lines.first.to_s.strip
        assert_operator Process.clock_gettime(Process::CLOCK_MONOTONIC) - started, :<, 5, "two seconds, not as long as it drips"
        dripping.kill
      end
      # The next request of a connection has a time of its own.
      socket = connected("")
      4.times do
        sleep 0.4
        socket.write("#{head("/api/quote", 2)}{}")
        assert_match(/200 OK/, socket.readpartial(1000))
      end
    end
  end

  def silently(name, value)
    before = Server::Reading.const_get(name)
    replace(name, value)
    yield
  ensure
    replace(name, before)
  end

  def replace(name, value)
    Server::Reading.send(:remove_const, name)
    Server::Reading.const_set(name, value)
  end

  # Refused by its length, or while it comes where it does not say how long it is: nothing of it is kept.
  def test_a_body_that_is_too_large
    Server::Reading::LIMITS.except("").each do |path, limit|
      said = answer(connected(head("#{path}x", limit + 1)))
      assert_match(%r{\AHTTP/1.1 413 }, said, path)
      assert_match(/connection: close/i, said)
    end
    socket = connected("POST /public/mileposts HTTP/1.1\r\nhost: 127.0.0.1\r\ntransfer-encoding: chunked\r\n\r\n")
    sent = 0
    begin
      200.times { sent += socket.write("2000\r\n#{"a" * 0x2000}\r\n") }
    rescue SystemCallError
      nil
    end
    assert_match(%r{\A(HTTP/1.1 413 |\z)}, answer(socket))
    assert_operator sent, :<, 1_700_000
    assert_match(/200 OK/, connected("#{head("/public/x", 65_536)}#{"a" * 65_536}").readpartial(1000))
  end

  # Who asks for another host is not listened to.
  def test_another_host
    Server::Reading.hosts = ["127.0.0.1"]
    assert_match(%r{\AHTTP/1.1 413 }, answer(connected(head("/api/quote", 1, host: "evil.example"))))
    assert_match(/200 OK/, connected("#{head("/api/quote", 1, host: "127.0.0.1:#{@port}")}a").readpartial(1000))
    Server::Reading.hosts = [".shop.example"]
    assert_equal([1_048_576, 0, 0], ["quotes.SHOP.example:443", "shop.example", "evil-shop.example"].map do |host|
      Server::Reading.limit("/checkout/v1/x", host)
    end)
    assert_match(/200 OK/, connected("GET / HTTP/1.1\r\nhost: evil.example\r\n\r\n").readpartial(1000), "what has no body is the application's to refuse")
  ensure
    Server::Reading.hosts = nil
  end

  def test_what_is_no_request
    said = answer(connected("NONSENSE\r\n\r\n"))
    assert_match(%r{\AHTTP/1\.\d 400 .*application/problem\+json}m, said)
    assert_equal "This is no request that can be read.", JSON.parse(said.split("\r\n\r\n", 2).last)["detail"]
  end
end
