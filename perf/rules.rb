# frozen_string_literal: true

# Quotes with many rules and offers against few, the same cart; and the findings of the demo.
#   bundle exec ruby perf/rules.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "benchmark/ips"
require "csv"
require "json"
require "tmpdir"
require_relative "sizes"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
require_relative "../server/boot"

AT = Time.utc(2026, 6, 1)
# Facts that rules look at, in turn. A shop with a thousand rules has most of them for some of its goods: one in ten of
# these holds of the cart.
FACTS = [
  ->(at) { { "fact" => "value", "over" => (20 + at).to_s } },
  ->(at) { { "fact" => "weight", "up_to" => "#{at % 40} kg" } },
  ->(_) { { "fact" => "class", "of" => ["heavy"] } },
  ->(_) { { "fact" => "tag", "of" => %w[rope deck] } },
  ->(_) { { "fact" => "zone", "of" => %w[ireland near-europe] } },
  ->(_) { { "fact" => "group", "of" => ["trade"] } },
  ->(at) { { "fact" => "postcode", "country" => "GB", "of" => ["IV#{at % 60}", "KW"] } },
  ->(at) { { "fact" => "weekday", "of" => [(at % 7) + 1] } },
  ->(_) { { "fact" => "time", "from" => "22:00", "until" => "06:00" } },
  ->(at) { { "fact" => "quantity", "from" => at % 50 } }
].freeze
METHODS = %w[tracked next-day air pallet].freeze
SKUS = CSV.read(File.join(Server::ROOT, "demo/products.csv"), headers: true, encoding: "UTF-8").map { |row| row["sku"] }

def fact(number) = FACTS[number % FACTS.size].call(number)

def rule(number)
  { "id" => "r#{number}", "name" => "Rule #{number}",
    "when" => { "all" => [{ "fact" => "product", "of" => [SKUS[number % SKUS.size]] }, fact(number),
                          { "any" => [fact(number + 3), fact(number + 7)] }] },
    "then" => [{ "kind" => "add", "amount" => "0.01", "methods" => [METHODS[number % 4]] }] }
end

def offer(number)
  { "id" => "o#{number}", "name" => "Offer #{number}", "methods" => [METHODS[number % 4]], "combines" => number.odd?,
    "effect" => { "kind" => "off", "amount" => "0.0#{(number % 9) + 1}" },
    "threshold" => { "measure" => "value", "from" => ((number * 10) + 5).to_s },
    "groups" => (number.even? ? { "except" => ["trade"] } : nil), "blocking" => { "classes" => ["heavy"] } }.compact
end

def with(document, rules, offers)
  GateMile::Book.compile(document.merge("rules" => Array.new(rules) { |at| rule(at) },
                                        "offers" => Array.new(offers) { |at| offer(at) }))
end

Server::Database.connect
Server::Database.migrate
Server::Demo.load
document = Server::BookDocument.read
shipped = document["products"].reject { |product| product["ships"] == false }
lines = shipped.first(20).map { |product| { "sku" => product["sku"], "quantity" => 3 } }
to = { "country" => "GB", "postcode" => "TR29 4ZZ", "lines" => ["1 Quay"] }
sent = GateMile::Cart.parse({ "lines" => lines, "destination" => to }, GateMile::Currency["GBP"])

books = [[10, 2], [100, 20], [500, 100], [1000, 200]].to_h { |sizes| [sizes.first, with(document, *sizes)] }
report = Benchmark.ips(quiet: true) do |x|
  x.config(time: sized(3, 0.05), warmup: sized(1, 0.02))
  books.each { |rules, book| x.report(rules.to_s) { book.quote(sent, at: AT) } }
end
times = report.entries.to_h { |entry| [entry.label.to_i, 1 / entry.stats.central_tendency] }
times.each do |rules, took|
  puts format("%<rules>4d rules, %<held>d of them hold: %<ratio>.2f times a quote with 10 rules and 2 offers",
              rules: rules, held: books[rules].quote(sent, at: AT).verdicts.count(&:held?), ratio: took / times[10])
end
puts format("ratio: %<ratio>.2f at 1,000 rules and 200 offers (wanted: 1.5); twice as many add %<more>.2f times " \
            "as much (wanted: 2 or less)",
            ratio: times[1000] / times[10], more: (times[1000] - times[10]) / (times[500] - times[10]))

book = GateMile::Book.compile(document)
started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
found = GateMile::Audit.findings(book, at: AT)
took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
puts format("findings of the demo: %<count>d in %<took>.2f s (wanted: under 1)", count: found.size, took: took)
