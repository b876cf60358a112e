# frozen_string_literal: true

# Quotes of the core alone, against a plain loop over the same cart that writes an answer as long: prices only, and with
# all reckonings and the whole document; how many objects a quote makes; and a quote in a big book against the demo's.
#   bundle exec ruby perf/core.rb       with RUBYOPT=--yjit as bin/start serves

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "tmpdir"
require_relative "sizes"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
require_relative "../server/boot"

AT = Time.utc(2026, 6, 1)
ZONES = sized(200, 30)
RATES = sized(2000, 60)
STEPS = sized(50_000, 300)
ROUNDS = sized(12, 1)
TIMES = sized(150, 2)

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

def asked(book, text) = book.quote(GateMile::Cart.parse(JSON.parse(text), book.currency), at: AT)

# What nobody can do without: read the cart, find its goods, look into eight tables, write an answer as long.
def plain(text, goods, tables, answer)
  cart = JSON.parse(text)
  weight = cart["lines"].sum { |line| goods.fetch(line["sku"].downcase) * line["quantity"] }
  prices = tables.map { |table| table[table.bsearch_index { |edge, _| edge >= weight } || -1].last }
  JSON.generate(answer.merge("prices" => prices))
end

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

# @param ways [Hash{Symbol => Proc}] taken in turns
# @return [Hash{Symbol => Float}] seconds for one of each, the best of all rounds
def best(**ways)
  ways.each_value { |way| TIMES.times(&way) }
  rounds = Array.new(ROUNDS) do
    ways.transform_values do |way|
      started = now
      TIMES.times(&way)
      (now - started) / TIMES
    end
  end
  ways.keys.to_h { |name| [name, rounds.map { |round| round[name] }.min] }
end

def objects
  GC.disable
  before = GC.stat(:total_allocated_objects)
  yield
  GC.stat(:total_allocated_objects) - before
ensure
  GC.enable
end

Server::Database.connect
Server::Database.migrate
Server::Demo.load
document = Server::BookDocument.read
book = GateMile::Book.compile(document)
shipped = document["products"].reject { |product| product["ships"] == false }
cart = lambda do |count|
  lines = shipped.first(count).map { |product| { "sku" => product["sku"], "quantity" => 3 } }
  JSON.generate({ "lines" => lines, "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } })
end
text = cart.call(20)
goods = document["products"].to_h { |product| [product["sku"].downcase, product.fetch("weight", "0").to_f] }
tables = Array.new(8) { Array.new(25) { |at| [at * 2.0, "#{at}.50"] } }
short = -> { GateMile::QuoteDocument.prices(asked(book, text)) }
long = -> { asked(book, text).dump }
answers = { short: short.call, long: long.call }
took = best(loop_short: ->(_) { plain(text, goods, tables, answers[:short]) },
            prices: ->(_) { JSON.generate(short.call) },
            loop_long: ->(_) { plain(text, goods, tables, answers[:long]) },
            whole: ->(_) { JSON.generate(long.call) })
puts format("20 lines, %<methods>d methods, prices only: %<us>d µs, %<ratio>.1f times the loop (wanted: 5)",
            methods: answers[:short]["methods"].size, us: took[:prices] * 1e6, ratio: took[:prices] / took[:loop_short])
puts format("with reckonings, %<bytes>d bytes: %<us>d µs, %<ratio>.1f times the loop (wanted: 8)",
            bytes: JSON.generate(answers[:long]).bytesize, us: took[:whole] * 1e6,
            ratio: took[:whole] / took[:loop_long])
ten = cart.call(10)
made = objects { asked(book, ten).method_quotes.each(&:price) }
puts format("objects for 10 lines, prices only: %<made>d, the parsed JSON among them (wanted: 600)", made: made)

large = GateMile::Book.compile(big(document))
abort "the cart gets something else in the big book" unless asked(large, text).dump == long.call
took = best(demo: ->(_) { asked(book, text).dump }, big: ->(_) { asked(large, text).dump })
puts format("ratio: in a book of %<zones>d zones, %<rates>d rates, %<steps>d steps a quote takes " \
            "%<ratio>.2f times as long (wanted: under 1.3)",
            zones: large.zones.to_a.size, rates: large.rates.size, steps: STEPS, ratio: took[:big] / took[:demo])
