# frozen_string_literal: true

# A cart of 10 lines quoted over HTTP, prices only, against a bare Rack application on the same server that parses and
# echoes the same JSON: on kept-alive connections, 1, 4 and 16 at once, in turns.
#   bundle exec ruby perf/http.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "net/http"
require "socket"
require "tmpdir"

ROOT = File.expand_path("..", __dir__)
PORTS = { "echo" => 4198, "quote" => 4199 }.freeze
RACKUPS = { "echo" => "perf/echo.ru", "quote" => "server/config.ru" }.freeze
ROUNDS = 6
SECONDS = 1.0

# One kept-alive connection that asks the same again and again, with as little work of its own as possible.
class Asking
  LENGTH = /content-length: (\d+)/i

  def initialize(port, path, body)
    @port = port
    open
    @request = "POST #{path} HTTP/1.1\r\nhost: 127.0.0.1\r\ncontent-type: application/json\r\n" \
               "content-length: #{body.bytesize}\r\n\r\n#{body}"
  end

  # @return [String] the answer's body
  def ask
    @socket.write(@request)
    head = @socket.gets("\r\n\r\n")
    abort "answered #{head}" unless head&.start_with?("HTTP/1.1 200")

    # After so many requests a server closes even a kept-alive connection.
    @socket.read(head[LENGTH, 1].to_i).tap { open if head.match?(/^connection: close/i) }
  end

  private

  def open
    @socket&.close
    @socket = TCPSocket.new("127.0.0.1", @port)
    @socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1)
  end
end

# @return [Float] answers a second, by so many processes with a connection each
def measure(port, path, body, connections)
  pids = []
  readers = Array.new(connections) do
    reader, writer = IO.pipe
    pids << fork do
      asking = Asking.new(port, path, body)
      finish = Process.clock_gettime(Process::CLOCK_MONOTONIC) + SECONDS
      count = 0
      asking.ask && count += 1 while Process.clock_gettime(Process::CLOCK_MONOTONIC) < finish
      writer.write(count.to_s)
      writer.close
      exit!
    end
    writer.close
    reader
  end
  readers.sum { |reader| reader.read.to_i } / SECONDS
ensure
  pids.each { |pid| Process.wait(pid) }
end

def median(list) = list.sort[list.size / 2]

def started(env, name)
  command = ["bundle", "exec", "puma", "-C", "server/puma.rb", RACKUPS.fetch(name)]
  spawn(env.merge("PORT" => PORTS.fetch(name).to_s), *command, chdir: ROOT, out: File::NULL)
end

def wait_for(port)
  120.times do
    return TCPSocket.new("127.0.0.1", port).close
  rescue SystemCallError
    sleep 0.25
  end
  abort "nothing at #{port}"
end

Dir.mktmpdir do |folder|
  fast = system("ruby", "--yjit", "-e", "1", err: File::NULL) ? { "RUBYOPT" => "--yjit" } : {}
  env = { "GATE_MILE_DATABASE" => File.join(folder, "perf.sqlite3"), **fast }
  system(env, "bundle", "exec", "ruby", File.join(ROOT, "server/prepare.rb"), exception: true)
  pids = PORTS.keys.map { |name| started(env, name) }
  begin
    PORTS.each_value { |port| wait_for(port) }
    products = JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{PORTS["quote"]}/api/products?limit=10")))["products"]
    body = JSON.generate({ lines: products.map { |product| { sku: product["sku"], quantity: 3 } },
                           destination: { country: "GB", postcode: "TR29 4ZZ" } })
    paths = { "echo" => "/", "quote" => "/api/quote?detail=prices" }
    puts Asking.new(PORTS["quote"], paths["quote"], body).ask[0, 200]
    paths.each { |name, path| measure(PORTS[name], path, body, 2) }
    [1, 4, 16].each do |connections|
      rounds = Array.new(ROUNDS) { paths.map { |name, path| measure(PORTS[name], path, body, connections) } }
      echo, quote = rounds.transpose.map { |list| median(list) }
      puts format("%<count>2d connections: echo %<echo>5d a second, quote %<quote>5d: ratio %<ratio>.2f (wanted: 4)",
                  count: connections, echo: echo, quote: quote, ratio: echo / quote)
    end
  ensure
    pids.each { |pid| Process.kill("TERM", pid) }
    Process.waitall
  end
end
