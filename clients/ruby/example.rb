# frozen_string_literal: true

# From a cart to an order:  ruby clients/ruby/example.rb http://127.0.0.1:4180 gmk_...
require_relative "gate_mile_checkout"

door = GateMileCheckout.new(*ARGV.first(2))
cart = { lines: [{ sku: "LOG-A4", quantity: 2 }], destination: { country: "GB", postcode: "TR29 4ZZ" } }

quote = door.quote(cart)
quote["methods"].each { |method| puts "#{method["code"]}: #{method["price"]} #{quote["currency"]}" }

begin
  order = door.order("ruby-1", quote: quote["quote"], method: quote["methods"].first["code"])
  puts "Order #{order["order"]} pays #{order["price"]} by release #{order["release"]}"
rescue GateMileCheckout::Refused => e
  raise unless e.ran_out?

  puts "The price was #{e.problem["promised"]} and is #{e.problem["now"]} now: ask the shopper"
end
puts "#{door.cancel("ruby-1")["order"]} is cancelled"
