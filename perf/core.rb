# frozen_string_literal: true

# Quotes of the core alone: against a plain loop over the same cart, and in a big book against the demo's.
#   bundle exec ruby perf/core.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "benchmark/ips"
require "json"
require "tmpdir"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
require_relative "../server/boot"

AT = Time.utc(2026, 6, 1)
ZONES = 200
RATES = 2000
STEPS = 50_000

def other_zones(count)
  Array.new(count) do |at|
    { "id" => "big#{at}", "name" => "Big #{at}",
      "areas" => [{ "kind" => "country", "country" => "JP", "only" => [(1_000_000 + at).to_s] }] }
  end
end

# The demo with other zones, whose rates the cart does not get.
def big(document)
  zones = other_zones(ZONES - document["zones"].size)
  steps = Array.new(STEPS / RATES) { |at| { "at" => "#{at} kg", "amount" => "#{at + 3}.50" } }
  methods = Array.new(12) { |at| { "id" => "big#{at}", "code" => "BIG#{at}", "name" => "Big #{at}" } }
  rates = zones.product(methods).first(RATES - document["rates"].size).map do |zone, method|
    { "id" => "#{zone["id"]}-#{method["id"]}", "zone" => zone["id"], "method" => method["id"],
      "plan" => { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => steps } } }
  end
  document.merge("zones" => document["zones"] + zones, "methods" => document["methods"] + methods,
                 "rates" => document["rates"] + rates)
end

def quote(book, text) = book.quote(GateMile::Cart.parse(JSON.parse(text), book.currency), at: AT).dump

# What nobody can do without: read the cart, find its goods, look into eight tables, write an answer as long.
def plain(text, goods, tables, answer)
  cart = JSON.parse(text)
  weight = cart["lines"].sum { |line| goods.fetch(line["sku"].downcase) * line["quantity"] }
  prices = tables.map { |table| table[table.bsearch_index { |edge, _| edge >= weight } || -1].last }
  JSON.generate(answer.merge("prices" => prices))
end

def rates_of(report) = report.entries.map { |entry| entry.stats.central_tendency }

Server::Database.connect
Server::Database.migrate
Server::Demo.load
document = Server::BookDocument.read
book = GateMile::Book.compile(document)
shipped = document["products"].reject { |product| product["ships"] == false }
lines = shipped.first(20).map { |product| { "sku" => product["sku"], "quantity" => 3 } }
text = JSON.generate({ "lines" => lines, "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } })
answer = quote(book, text)
goods = document["products"].to_h { |product| [product["sku"].downcase, product.fetch("weight", "0").to_f] }
tables = Array.new(8) { Array.new(25) { |at| [at * 2.0, "#{at}.50"] } }

plain_rate, quote_rate, echo = rates_of(Benchmark.ips(quiet: true) do |x|
  x.config(time: 3, warmup: 1)
  x.report("plain") { plain(text, goods, tables, answer) }
  x.report("quote") { JSON.generate(quote(book, text)) }
  x.report("echo") { JSON.generate(JSON.parse(text)) }
end)
puts format("%<quote>d quotes a second, 20 lines, %<methods>d methods with reckonings, %<bytes>d bytes",
            quote: quote_rate, methods: answer["methods"].size, bytes: JSON.generate(answer).bytesize)
puts format("ratio: %<plain>.1f times a plain loop (wanted: under 6), %<echo>.1f times its JSON in and out",
            plain: plain_rate / quote_rate, echo: echo / quote_rate)

large = GateMile::Book.compile(big(document))
abort "the cart gets something else in the big book" unless quote(large, text) == answer
small_rate, large_rate = rates_of(Benchmark.ips(quiet: true) do |x|
  x.config(time: 3, warmup: 1)
  x.report("demo") { quote(book, text) }
  x.report("big") { quote(large, text) }
end)
puts format("ratio: in a book of %<zones>d zones, %<rates>d rates, %<steps>d steps a quote takes " \
            "%<ratio>.2f times as long (wanted: under 1.3)",
            zones: large.zones.to_a.size, rates: large.rates.size, steps: STEPS, ratio: small_rate / large_rate)
