# frozen_string_literal: true

# How finding the zone of an address grows with the number of postcode clauses, and what compiling them takes; then how
# long the bench waits after an edit of a zone with 10,000 clauses.
#   bundle exec ruby perf/zones.rb

require_relative "stack"
require "benchmark/ips"

SIZES = sized([100, 10_000, 100_000], [10, 100, 200]).freeze
MANY = sized(10_000, 50)

def clauses(count) = Array.new(count) { |number| format("%07d", number * (9_999_999 / count)) }

def zones(count)
  document = { "id" => "z", "name" => "Z",
               "areas" => [{ "kind" => "country", "country" => "JP", "only" => clauses(count) },
                           { "kind" => "world" }] }
  GateMile::Zones.new([GateMile::Documents.read(GateMile::Zone, GateMile::Reader.new(document))])
end

def memory = Integer(File.read("/proc/self/statm").split[1], 10) * 4096 / 1_048_576.0

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

addresses = Array.new(50) { |number| GateMile::Address.new(country: "JP", postcode: format("%07d", number * 199_933)) }
rates = SIZES.map do |size|
  GC.start
  before = memory
  started = now
  compiled = zones(size)
  took = now - started
  GC.start
  entry = Benchmark.ips(quiet: true) do |x|
    x.config(time: sized(2, 0.1), warmup: sized(0.5, 0.1))
    x.report("land") { addresses.each { |address| compiled.land(address) } }
  end.entries.first
  puts format("%<size>7d clauses: compiled in %<ms>.0f ms, %<mb>.0f MB; %<micro>.0f microseconds an address",
              size: size, ms: took * 1000, mb: memory - before, micro: 1_000_000 / entry.stats.central_tendency / 50)
  entry.stats.central_tendency
end
puts format("ratios to the first: %<middle>.2f (wanted under 1.3), %<last>.2f (wanted under 2)",
            middle: rates[0] / rates[1], last: rates[0] / rates[2])

# An edit and the bench after it, through the whole stack.
class Bench < Stack
  def prepared
    app
    demo = JSON.parse(File.read(File.join(Server::ROOT, "demo/book.json")))
    demo["zones"] << { "id" => "many", "name" => "Many", "areas" => [{ "kind" => "country", "country" => "JP",
                                                                       "only" => clauses(MANY) }] }
    Server::BookRecords.write(demo)
    self
  end

  # @return [Float] seconds from sending the edit to holding what the bench gets
  def round(number)
    setup = json(:get, "/api/setup")
    zone = setup["zones"].find { |found| found["id"] == "many" }
    text = (clauses(MANY) << format("%07d", number + 1)).join(", ")
    cart = { lines: [{ sku: "X", quantity: 1, unit_price: "1.00" }],
             destination: { country: "JP", postcode: "0000999" } }
    started = now
    json(:patch, "/api/areas/#{zone["areas"].first["id"]}", { lock_version: zone["lock_version"], only: text })
    # What has changed since, as the interface asks.
    ask(:get, "/api/setup/since?revision=#{setup["revision"]}&journal=#{setup["journal"]}")
    json(:post, "/api/bench", { cart: cart })
    now - started
  end
end

bench = Bench.new.prepared
times = Array.new(sized(9, 1)) { |number| bench.round(number) }.sort
puts format("an edit of 10,000 clauses until the bench shows it: median %<ms>.0f ms (wanted under 150)",
            ms: times[times.size / 2] * 1000)
