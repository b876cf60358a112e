# frozen_string_literal: true

# Exact price lines: of the whole Board of the demo in one request, along each measure, and how one line grows with the
# steps of its schedule.
#   bundle exec ruby perf/lines.rb

require_relative "stack"

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

RUNS = sized(15, 1)

# @return [Float] the median of fifteen runs, in milliseconds
def median(&)
  3.times(&) unless TINY
  times = Array.new(RUNS) do
    started = now
    yield
    now - started
  end
  times.sort[times.size / 2] * 1000
end

# The demo with one rate that has so many steps.
def stepped(document, count)
  steps = Array.new(count) { |at| { "at" => "#{at}0 g", "amount" => "#{at + 3}.50" } }
  plan = { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => steps } }
  GateMile::Book.compile(document.merge("rates" => [document["rates"].first.merge("plan" => plan)]))
end

stack = Stack.new
stack.app
Server::Demo.load
cart = JSON.parse(File.read(File.join(Server::ROOT, "demo/cart.json")))
echo = median { stack.ask(:post, "/api/quote", cart) }
{ "value" => "140.00", "weight" => "5 kg", "quantity" => "20" }.each do |measure, most|
  body = { cart: cart, measure: measure, most: most, line: 0 }
  pieces = JSON.parse(stack.ask(:post, "/api/lines", body))["lines"].values
  took = median { stack.ask(:post, "/api/lines", body) }
  puts format("along %<measure>s: %<rates>d lines of %<pieces>d pieces in %<took>.0f ms (wanted: under 30), " \
              "%<ratio>.1f times a quote's request",
              measure: measure, rates: pieces.size, pieces: pieces.sum(&:size), took: took, ratio: took / echo)
end

document = Server::BookDocument.read
base = nil
sized([10, 100, 1000], [10, 20]).each do |count|
  book = stepped(document, count)
  sent = GateMile::Cart.parse(cart, book.currency)
  most = GateMile::Weight.parse("#{count}0 g").base
  pieces = nil
  took = median { pieces = GateMile::PriceLines.new(book, sent, "weight", most, line: 0, at: Time.now).of.values.first.size }
  base ||= took / count
  puts format("%<count>d steps: %<pieces>d pieces, %<ratio>.2f times as long for each step as with 10",
              count: count, pieces: pieces, ratio: took / count / base)
end
