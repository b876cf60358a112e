# frozen_string_literal: true

# Quotes per second of the core alone, against parsing and writing the same cart as JSON.
#   bundle exec ruby perf/core.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "benchmark/ips"
require "json"
$LOAD_PATH.unshift(File.expand_path("../core", __dir__))
require "gate_mile"
require_relative "../server/boot"

demo = File.join(Server::ROOT, "demo")
document = JSON.parse(File.read(File.join(demo, "book.json")))
document["products"] = Server::BookRecords.products(File.join(demo, "products.csv"))
book = GateMile::Book.compile(document)
lines = document["products"].first(10).map { |product| { "sku" => product["sku"], "quantity" => 3 } }
text = JSON.generate({ "lines" => lines, "destination" => { "country" => "GB" } })
at = Time.utc(2026, 6, 1)

report = Benchmark.ips(quiet: true) do |x|
  x.config(time: 3, warmup: 1)
  x.report("echo") { JSON.generate(JSON.parse(text)) }
  x.report("quote") { JSON.generate(book.quote(GateMile::Cart.parse(JSON.parse(text), book.currency), at: at).dump) }
end
echo, quote = report.entries.map { |entry| entry.stats.central_tendency }
puts format("%<quote>d quotes a second, 10 lines, 4 methods with reckonings; JSON in and out alone: %<echo>d a second",
            quote: quote, echo: echo)
puts format("ratio: a quote costs %<ratio>.1f times its JSON", ratio: echo / quote)
