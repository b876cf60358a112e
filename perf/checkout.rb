# frozen_string_literal: true

# The door that checkouts ask: a cart of 10 lines, prices only, with its key, its sealed quote and its pace, against a
# bare Rack application on the same server that parses and echoes the same JSON: on kept-alive connections, 1, 4 and 16
# at once, in turns.
#   bundle exec ruby perf/checkout.rb

require_relative "over_http"

ECHO = 4198
DOOR = 4199

# @return [Hash] what the workbench answers
def tell(verb, path, body = nil)
  request = Net::HTTP.const_get(verb).new(path, { "content-type" => "application/json" })
  request.body = JSON.generate(body) if body
  JSON.parse(Net::HTTP.start("127.0.0.1", DOOR) { |http| http.request(request) }.body)
end

Dir.mktmpdir do |folder|
  env = demo_in(folder)
  pids = [started(env, "perf/echo.ru", ECHO), started(env, "server/config.ru", DOOR)]
  begin
    [ECHO, DOOR].each { |port| wait_for(port) }
    tell(:Post, "/api/releases", { revision: tell(:Get, "/api/setup")["revision"] })
    key = tell(:Post, "/api/keys", { name: "perf", calls: %w[quotes], pace: 100_000 })["key"]
    products = tell(:Get, "/api/products?limit=10")["products"]
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
