# frozen_string_literal: true

require "socket"

# A carrier that answers with whatever bytes a test wants, over a plain socket: what no web server would let through.
class RawCarrier
  # @return [String]
  attr_reader :origin
  # @return [Array<String>] requests that came, as they came
  attr_reader :asked

  # @yieldparam socket [TCPSocket] after the request has been read
  # @yieldparam request [String]
  def initialize(&answer)
    @server = TCPServer.new("127.0.0.1", 0)
    @origin = "http://127.0.0.1:#{@server.addr[1]}"
    @answer = answer
    @asked = []
    @lock = Mutex.new
    @thread = Thread.new { loop { Thread.new(@server.accept) { |socket| serve(socket) } } }
  end

  def stop
    @thread.kill
    @server.close
  end

  # @return [String] a whole response
  def self.response(body, status: "200 OK", headers: {})
    lines = { "content-type" => "application/json", "content-length" => body.bytesize, "connection" => "close" }.merge(headers)
    "HTTP/1.1 #{status}\r\n#{lines.map { |name, value| "#{name}: #{value}\r\n" }.join}\r\n".b + body.b
  end

  private

  def serve(socket)
    head = +""
    head << socket.readpartial(4096) until head.include?("\r\n\r\n")
    length = head[/content-length: (\d+)/i, 1].to_i
    head << socket.readpartial(4096) while head.split("\r\n\r\n", 2).last.bytesize < length
    @lock.synchronize { @asked << head }
    @answer.call(socket, head)
  rescue IOError, SystemCallError
    nil
  ensure
    socket.close unless socket.closed?
  end
end
