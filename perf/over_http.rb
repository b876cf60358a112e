# frozen_string_literal: true

# What the benchmarks over HTTP share: kept-alive connections that ask the same again and again, and servers to ask.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "net/http"
require "socket"
require "tmpdir"
require_relative "demo"
require_relative "served"
require_relative "sizes"

ROOT = File.expand_path("..", __dir__)
ROUNDS = sized(6, 1)
SECONDS = sized(1.0, 0.1)

# One kept-alive connection that asks the same again and again, with as little work of its own as possible.
class Asking
  LENGTH = /content-length: (\d+)/i

  # @param port [Integer]
  # @param path [String]
  # @param body [String] JSON
  # @param headers [Hash]
  def initialize(port, path, body, headers = {})
    @port = port
    open
    own = headers.map { |name, value| "#{name}: #{value}\r\n" }.join
    @request = "POST #{path} HTTP/1.1\r\nhost: 127.0.0.1\r\ncontent-type: application/json\r\n#{own}" \
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
def measure(port, path, body, connections, headers = {})
  pids = []
  readers = Array.new(connections) do
    reader, writer = IO.pipe
    pids << fork do
      asking = Asking.new(port, path, body, headers)
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
  counts = readers.map { |reader| reader.read.to_i }
  abort "#{path} was not answered on every connection" if counts.any?(&:zero?)

  counts.sum / SECONDS
ensure
  pids.each { |pid| Process.wait(pid) }
end

def median(list) = list.sort[list.size / 2]

# @return [Integer] the process of a server of this rackup file
def started(env, rackup, port)
  command = ["bundle", "exec", "puma", "-C", "server/puma.rb", rackup]
  spawn(env.merge("PORT" => port.to_s), *command, chdir: ROOT, out: File::NULL)
end

def wait_for(port)
  120.times do
    return TCPSocket.new("127.0.0.1", port).close
  rescue SystemCallError
    sleep 0.25
  end
  abort "nothing at #{port}"
end

# @return [Hash, nil] what is answered to a call that is no measurement
def call(port, verb, path, body = nil, headers = {})
  answer = answer_of(port, verb, path, body, headers)
  abort "#{verb} #{path}: #{answer.code} #{answer.body[0, 300]}" unless answer.is_a?(Net::HTTPSuccess)

  answer.body.to_s.empty? ? nil : JSON.parse(answer.body)
end

# @return [Net::HTTPResponse]
def answer_of(port, verb, path, body = nil, headers = {})
  headers = { "content-type" => "application/json", "host" => "localhost" }.merge(headers)
  request = Net::HTTP.const_get(verb).new(path, headers)
  request.body = JSON.generate(body) if body
  Net::HTTP.start("127.0.0.1", port) { |http| http.request(request) }
end

# @return [Hash] the environment of a server with a database of its own that holds the demo
def demo_in(folder)
  env = { "GATE_MILE_DATABASE" => File.join(folder, "perf.sqlite3"), **AS_SERVED }
  DemoShop.into(env["GATE_MILE_DATABASE"])
  env
end

# A server against a bare one that echoes, in turns: the same connections, the same bodies.
# @param targets [Hash{String => Array}] port, path, body and headers of "echo" and of what is measured
# @return [void]
def compare(targets)
  targets.each_value { |port, path, body, headers| measure(port, path, body, 2, headers.to_h) }
  sized([1, 4, 16], [1, 2]).each do |connections|
    rounds = Array.new(ROUNDS) do
      targets.values.map { |port, path, body, headers| measure(port, path, body, connections, headers.to_h) }
    end
    echo, other = rounds.transpose.map { |list| median(list) }
    puts format("%<count>2d connections: echo %<echo>5d a second, %<name>s %<other>5d: ratio %<ratio>.2f (wanted: 4)",
                count: connections, echo: echo, name: targets.keys.last, other: other, ratio: echo / other)
  end
end
