# frozen_string_literal: true

# A cart of 10 lines quoted over HTTP, prices only, against a bare Rack application on the same server that parses and
# echoes the same JSON: on kept-alive connections, 1, 4 and 16 at once, in turns.
#   bundle exec ruby perf/http.rb

require_relative "over_http"

ECHO = PORTS + 10
QUOTE = PORTS + 11

Dir.mktmpdir do |folder|
  env = demo_in(folder)
  pids = [started(env, "perf/echo.ru", ECHO), started(env, "server/config.ru", QUOTE)]
  begin
    [ECHO, QUOTE].each { |port| wait_for(port) }
    products = call(QUOTE, :Get, "/api/products?limit=10")["products"]
    body = JSON.generate({ lines: products.map { |product| { sku: product["sku"], quantity: 3 } },
                           destination: { country: "GB", postcode: "TR29 4ZZ" } })
    puts Asking.new(QUOTE, "/api/quote?detail=prices", body).ask[0, 200]
    compare("echo" => [ECHO, "/", body], "quote" => [QUOTE, "/api/quote?detail=prices", body])
  ensure
    pids.each { |pid| Process.kill("TERM", pid) }
    Process.waitall
  end
end
