# frozen_string_literal: true

# Live quotes: five services of 200 ms each against one, and one carrier that hangs against the deadline.
#   bundle exec ruby perf/live.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "tmpdir"
require_relative "sizes"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
# The stand-ins for carriers are on this machine.
ENV["GATE_MILE_OUTGOING"] = "127.0.0.1"
require_relative "../server/boot"
require_relative "../test/support/carriers"

AT = Time.utc(2026, 6, 1)
IRELAND = { "lines" => [{ "sku" => "SHK-GAL-10", "quantity" => 8 }], "destination" => { "country" => "IE" } }.freeze
DEADLINE = 1.0

def took
  Server::Carriers::Port.clear
  started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  yield
  Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
end

def median(&block) = Array.new(sized(5, 1)) { took(&block) }.then { |times| times.sort[times.size / 2] }

Server::Database.connect
Server::Database.migrate
Server::Demo.load
app, origin = CarriersSupport.boot
# Five carriers, a service each: every one of them is a call of its own.
Server::History.unrecorded do
  Server::Records::Carrier.find_each { |carrier| carrier.update!(address: "#{origin}/#{carrier.id}", secret: "quay") }
  2.times { |at| Server::Records::Carrier.create!(name: "Petrel #{at}", address: "#{origin}/petrel", secret: "quay", services: [{ code: "PARCEL-48", name: "P" }]) }
  five = Server::Records::Carrier.order(:position).map { |one| { "carrier" => one.id, "service" => one.services.last["code"] } }
  Server::Records::Rate.find("ie-live").update!(live: { "services" => five })
end
book = GateMile::Book.compile(Server::BookDocument.read)
one = book.with(rates: book.rates.map do |rate|
  rate.id == "ie-live" ? rate.with(live: rate.live.with(services: rate.live.services.first(1))) : rate
end)
cart = GateMile::Cart.parse(IRELAND, book.currency)
# What carriers have refused to answer measures nothing.
ask = lambda do |shop, hanging = 0|
  quote = shop.quote(cart, at: AT, carriers: Server::Carriers::Port.new(DEADLINE))
  live = quote.method_quotes.find { |one| one.rate == "ie-live" }
  answers = live.reckoning.count { |step| step.code == :"live.answer" }
  wanted = shop.rates.find { |rate| rate.id == "ie-live" }.live.services.size - hanging
  abort "#{answers} of #{wanted} services have answered: #{live.reckoning.map(&:code)}" if answers < wanted
end
ask.call(book)
Tariffs::CARRIERS.each_key { |carrier| app.delays[carrier] = 0.2 }
puts format("ratio: five services of 200 ms take %<ratio>.2f times one (wanted: under 1.3)", ratio: median {
  ask.call(book)
} / median {
      ask.call(one)
    })
app.delays["fulmar"] = 3.0
hanging = median { ask.call(book, 1) }
puts format("ratio: with one carrier hanging %<ratio>.2f of the deadline (wanted: at most 1.10)",
            ratio: hanging / DEADLINE)
