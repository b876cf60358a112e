# frozen_string_literal: true

# Whether accounts slow a quote: the same quote of ten lines with a key through the checkout door, and with a session at
# the workbench's own door, before and after there are accounts and sessions, in turns on two servers that are otherwise
# alike; and while somebody signs in each second, which takes a quarter of a second of one processor each time.
#   bundle exec ruby perf/people.rb

require_relative "over_http"
require "bcrypt"

BEFORE = PORTS + 10
AFTER = PORTS + 11
TURNS = sized(40, 2)
EACH = sized(200, 5)
WARM = sized(3000, 5)
PEOPLE = sized(20, 2)

# @return [Array(String, Hash)] body of the question, and the header with the key
def opened(port)
  revision = call(port, :Get, "/api/setup")["revision"]
  call(port, :Post, "/api/releases", { revision: revision })
  key = call(port, :Post, "/api/keys", { name: "P", calls: ["quotes"], pace: 100_000 })["key"]
  products = call(port, :Get, "/api/products?limit=10")["products"]
  cart = { lines: products.map { |one| { sku: one["sku"], quantity: 3 } },
           destination: { country: "GB", postcode: "TR29 4ZZ" } }
  [cart, { "authorization" => "Bearer #{key}" }]
end

# An owner and twenty others, each signed in.
# @return [Hash] the header with the owner's session
def peopled(port)
  words = { password: "lantern gravel whistle" }
  first = answer_of(port, :Post, "/api/joining/first", { name: "Ann", email: "ann@tarrow.example", **words })
  abort "no account was made: #{first.body}" unless first.code == "201"

  owner = { "cookie" => first["set-cookie"][/\A[^;]+/] }
  PEOPLE.times do |at|
    link = call(port, :Post, "/api/invitations", { role: "editor" }, owner)["link"]
    call(port, :Post, "/api/joining", { link: link, name: "P#{at}", email: "p#{at}@tarrow.example", **words })
  end
  owner
end

# @return [Float] seconds of so many quotes, one after the other
def seconds(asking)
  started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  EACH.times { asking.ask }
  Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
end

def ratio(name, *questions)
  before, after = questions.map { |question| Asking.new(*question).tap { |one| WARM.times { one.ask } } }
  ratios = Array.new(TURNS) do |round|
    pair = round.even? ? [seconds(before), seconds(after)] : [seconds(after), seconds(before)].reverse
    pair[1] / pair[0]
  end
  puts format("%-34<name>s ratio %.3<ratio>f (wanted: 1.02)", name: name, ratio: median(ratios))
end

# @return [Thread] that signs in each second
def signing_in
  Thread.new do
    loop do
      call(AFTER, :Post, "/api/session", { email: "ann@tarrow.example", password: "lantern gravel whistle" })
      sleep 1
    end
  end
end

Dir.mktmpdir do |folder|
  pids = [BEFORE, AFTER].map { |port| started(demo_in(File.join(folder, port.to_s)), "server/config.ru", port) }
  begin
    [BEFORE, AFTER].each { |port| wait_for(port) }
    cart, plain = opened(BEFORE)
    _, keyed = opened(AFTER)
    owner = peopled(AFTER)
    door = JSON.generate({ cart: cart, detail: "prices" })
    doors = [[BEFORE, "/checkout/v1/quotes", door, plain], [AFTER, "/checkout/v1/quotes", door, keyed]]
    own = [[BEFORE, "/api/quote?detail=prices", JSON.generate(cart), {}],
           [AFTER, "/api/quote?detail=prices", JSON.generate(cart), owner]]
    ratio("a key, with accounts to without", *doors)
    ratio("a session to nobody signed in", *own)
    trying = signing_in
    ratio("a key, a sign-in each second", *doors)
    trying.kill
  ensure
    pids.each { |pid| Process.kill("TERM", pid) }
    Process.waitall
  end
end
