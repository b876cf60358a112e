# frozen_string_literal: true

# The door that checkouts ask: a cart of 10 lines, prices only, with its key, its sealed quote and its pace, against a
# bare Rack application on the same server that parses and echoes the same JSON: on kept-alive connections, 1, 4 and 16
# at once, in turns.
#   bundle exec ruby perf/checkout.rb

require_relative "over_http"

ECHO = PORTS + 10
DOOR = PORTS + 11

Dir.mktmpdir do |folder|
  env = demo_in(folder)
  pids = [started(env, "perf/echo.ru", ECHO), started(env, "server/config.ru", DOOR)]
  begin
    [ECHO, DOOR].each { |port| wait_for(port) }
    call(DOOR, :Post, "/api/releases", { revision: call(DOOR, :Get, "/api/setup")["revision"] })
    key = call(DOOR, :Post, "/api/keys", { name: "perf", calls: %w[quotes], pace: 100_000 })["key"]
    products = call(DOOR, :Get, "/api/products?limit=10")["products"]
    cart = { lines: products.map { |product| { sku: product["sku"], quantity: 3 } },
             destination: { country: "GB", postcode: "TR29 4ZZ" } }
    bearer = { "authorization" => "Bearer #{key}" }
    body = JSON.generate({ cart: cart, detail: "prices" })
    puts Asking.new(DOOR, "/checkout/v1/quotes", body, bearer).ask[0, 120]
    compare("echo" => [ECHO, "/", body], "door" => [DOOR, "/checkout/v1/quotes", body, bearer])
  ensure
    pids.each { |pid| Process.kill("TERM", pid) }
    Process.waitall
  end
end
