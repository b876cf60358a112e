# frozen_string_literal: true

# Where the time of a quote goes at the checkout door. Runs the whole stack in this process, with a cart of 10 lines and
# prices only, and samples it a thousand times a second. Prints the share of each main step and the slowest methods. The
# file that it names can be made into a flame graph (bundle exec stackprof --d3-flamegraph FILE > flame.html).
#   bundle exec ruby perf/profile.rb

require_relative "stack"
require_relative "demo"
require "stackprof"

COUNT = sized(4000, 5)
FILE = File.join(Dir.tmpdir, "gate-mile-door.stackprof")
TOLD = 30
# The steps whose share is printed, each with everything below it.
STEPS = %w[Server::Watch#call Server::CheckoutDoor#call Server::CheckoutQuotes#told GateMile::Cart.parse GateMile::Book#quote
           Server::QuoteSeal#seal Server::CheckoutQuotes#content Server::Telemetry#quoted Server::CheckoutAnswer.of
           Server::Body.of JSON.generate Server::KeyRing#key Server::CheckoutPort#ground].freeze

Server::Database.connect
Server::Database.migrate
Server::Demo.load
stack = Stack.new
stack.ask(:post, "/api/releases", { revision: stack.json(:get, "/api/setup")["revision"] })
key = stack.json(:post, "/api/keys", { name: "perf", calls: %w[quotes], pace: 100_000 })["key"]
lines = stack.json(:get, "/api/products?limit=10")["products"].map { |product| { sku: product["sku"], quantity: 3 } }
body = JSON.generate({ cart: { lines: lines, destination: { country: "GB", postcode: "TR29 4ZZ" } }, detail: "prices" })
env = Stack::HEADERS.merge("REQUEST_METHOD" => "POST", "PATH_INFO" => "/checkout/v1/quotes", "QUERY_STRING" => "",
                           "HTTP_AUTHORIZATION" => "Bearer #{key}", "REMOTE_ADDR" => "127.0.0.1")
app = stack.app
ask = lambda do
  status, _, answer = app.call(env.merge("rack.input" => StringIO.new(body)))
  answer.each { |part| part }
  answer.close if answer.respond_to?(:close)
  abort "the door answered #{status}" unless status == 200
end
[COUNT / 10, 1].max.times { ask.call }
started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
StackProf.run(mode: :wall, interval: 1000, raw: true, out: FILE) { COUNT.times { ask.call } }
took = (Process.clock_gettime(Process::CLOCK_MONOTONIC) - started) / COUNT
report = StackProf::Report.from_file(FILE)
all = report.data[:samples]
frames = report.frames.values
share = ->(samples) { "#{format("%<share>5.1f", share: 100.0 * samples / all)} %" }
puts "#{(took * 1000).round(2)} ms a quote, watched; #{all} samples; #{FILE}"
puts "", "a step with all that is below it:"
STEPS.each do |name|
  found = frames.find { |frame| frame[:name] == name } or next
  puts "#{share.call(found[:total_samples])}  #{name}"
end
puts "", "a method alone:"
frames.sort_by { |frame| -frame[:samples] }.first(TOLD).each do |frame|
  puts "#{share.call(frame[:samples])}  #{frame[:name].ljust(50)} #{frame[:file].to_s.split("/").last(2).join("/")}"
end
