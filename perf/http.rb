# frozen_string_literal: true

# The quote endpoint against an endpoint of the same server that only parses and echoes the same JSON: the same cart of
# 10 lines, in turns.
#   bundle exec ruby perf/http.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "net/http"
require "tmpdir"

ROOT = File.expand_path("..", __dir__)
PORT = 4199
ROUNDS = 12
REQUESTS = 250

def measure(http, path, body)
  started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  REQUESTS.times do
    answer = http.post(path, body, "content-type" => "application/json")
    abort "#{path} answered #{answer.code}: #{answer.body}" unless answer.code == "200"
  end
  REQUESTS / (Process.clock_gettime(Process::CLOCK_MONOTONIC) - started)
end

def median(list) = list.sort[list.size / 2]

Dir.mktmpdir do |folder|
  env = { "GATE_MILE_DATABASE" => File.join(folder, "perf.sqlite3"), "GATE_MILE_ECHO" => "1", "PORT" => PORT.to_s }
  system(env, "bundle", "exec", "ruby", File.join(ROOT, "server/prepare.rb"), exception: true)
  server = spawn(env, "bundle", "exec", "puma", "-C", "server/puma.rb", "server/config.ru", chdir: ROOT, out: File::NULL)
  begin
    http = Net::HTTP.new("127.0.0.1", PORT)
    60.times do
      http.start
      break
    rescue SystemCallError
      sleep 0.25
    end
    products = JSON.parse(http.get("/api/products?limit=10").body)["products"]
    body = JSON.generate({ lines: products.map { |product| { sku: product["sku"], quantity: 3 } },
                           destination: { country: "GB" } })
    paths = %w[/api/echo /api/quote]
    paths.each { |path| measure(http, path, body) }
    rates = Array.new(ROUNDS) { paths.map { |path| measure(http, path, body) } }.transpose.map { |list| median(list) }
    puts format("echo %<echo>d a second, quote %<quote>d a second (median of #{ROUNDS} rounds of #{REQUESTS})",
                echo: rates[0], quote: rates[1])
    puts format("ratio: a quote costs %<ratio>.2f times an echo", ratio: rates[0] / rates[1])
  ensure
    Process.kill("TERM", server)
    Process.wait(server)
  end
end
