# frozen_string_literal: true

# Quote servers of one process and of two, from the same release, asked in turns for the prices of a cart of 10 lines on
# as many kept-alive connections.
#   bundle exec ruby perf/quote_processes.rb

require_relative "over_http"
require_relative "quote_servers"

CONNECTIONS = sized(8, 2)

QuoteServers.open do |all|
  ports = [1, 2].to_h { |processes| [processes, all.quotes(processes)] }
  body = JSON.generate({ cart: all.cart, detail: "prices" })
  bearer = { "authorization" => "Bearer #{all.key}" }
  ask = ->(port) { measure(port, "/checkout/v1/quotes", body, CONNECTIONS, bearer) }
  ports.each_value { |port| 2.times { ask.call(port) } }
  one, two = Array.new(ROUNDS * 2) { ports.values.map { |port| ask.call(port) } }.transpose.map { |list| median(list) }
  puts format("%<at_once>d connections: 1 process %<one>d a second, 2 processes %<two>d: %<ratio>.2f (wanted: 1.8)",
              at_once: CONNECTIONS, one: one, two: two, ratio: two / one)
end
