# frozen_string_literal: true

require "minitest/autorun"
require "json"
require "socket"
require_relative "../../server/http/kept_alive"

# Connections that are kept alive and handed from thread to thread: an answer is never torn by whoever had the connection
# before.
class KeptAliveTest < Minitest::Test
  ROUNDS = 60
  CONNECTIONS = 6

  def setup
    app = lambda do |env|
      sent = env["rack.input"].read
      [200, { "content-type" => "application/json" }, [JSON.generate({ sent: sent, thread: Thread.current.object_id })]]
    end
    @server = Puma::Server.new(app, nil, { min_threads: 2, max_threads: 6, first_data_timeout: 5, persistent_timeout: 5, log_writer: Puma::LogWriter.null })
    @port = @server.add_tcp_listener("127.0.0.1", 0).addr[1]
    @running = @server.run
  end

  def teardown = @server.stop(true)

  # A body that comes a moment after its head goes by the reactor; many at once change threads all the time.
  def test_answers_to_requests_in_two_parts_are_whole
    found = Array.new(CONNECTIONS) { |number| Thread.new { talk(number) } }.flat_map(&:value)
    assert_equal CONNECTIONS * ROUNDS, found.size
    found.each { |wanted, head, body| assert_equal [true, wanted], [head.start_with?("HTTP/1.1 200"), JSON.parse(body)["sent"]], head }
    assert_operator found.map { |_, _, body| JSON.parse(body)["thread"] }.uniq.size, :>, 1, "several threads took part"
  end

  # The very thing that Puma does: the buffer is reset by the thread that has handed the connection over, while another
  # one writes into it.
  def test_a_late_reset_touches_nothing_of_another_thread
    client = Puma::Client.allocate
    written = Queue.new
    reset = Queue.new
    writer = Thread.new do
      client.io_buffer << "HTTP/1.1 200 OK\r\n"
      written << true
      reset.pop
      client.io_buffer.read_and_reset
    end
    written.pop
    client.io_buffer.reset
    reset << true
    assert_equal "HTTP/1.1 200 OK\r\n", writer.value
    assert_same client.io_buffer, client.io_buffer
    assert_same client.io_buffer, Puma::Client.allocate.io_buffer, "a thread answers one request at a time"
  end

  def test_a_connection_is_kept
    socket = TCPSocket.new("127.0.0.1", @port)
    3.times { |at| assert_equal at.to_s, JSON.parse(ask(socket, at.to_s).last)["sent"] }
  ensure
    socket&.close
  end

  private

  def talk(number)
    socket = TCPSocket.new("127.0.0.1", @port)
    socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1)
    Array.new(ROUNDS) do |round|
      text = "#{number}-#{round}-#{"x" * (round * 7)}"
      [text, *ask(socket, text, pause: round.odd? ? 0.002 : 0)]
    end
  ensure
    socket&.close
  end

  # @return [Array(String, String)] head and body of the answer
  def ask(socket, text, pause: 0)
    socket.write("POST / HTTP/1.1\r\nhost: localhost\r\ncontent-length: #{text.bytesize}\r\n\r\n")
    sleep pause if pause.positive?
    socket.write(text)
    head = socket.gets("\r\n\r\n").to_s
    [head, socket.read(head[/content-length: (\d+)/i, 1].to_i)]
  end
end
