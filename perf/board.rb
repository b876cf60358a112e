# frozen_string_literal: true

# A large Board: how long until its first prices stand, and how many elements it has, beside one of a tenth of its size.
#   bundle exec ruby perf/board.rb        (needs the built front end and Chromium, see bin/test)

require_relative "page"
require "English"

# The demo with so many zones of five rates each, postcode by postcode.
def large(zones)
  demo = JSON.parse(File.read(File.join(Server::ROOT, "demo/book.json")))
  methods = demo["methods"].first(5).map { |method| method["id"] }
  plan = demo["rates"].find { |rate| rate["id"] == "uk-tracked" }["plan"]
  made = Array.new(zones) do |at|
    { "id" => "z#{at}", "name" => "Zone #{at}", "areas" => [{ "kind" => "country", "country" => "JP",
                                                              "only" => [format("%<n>03d-0000", n: at)] }] }
  end
  rates = made.flat_map do |zone|
    methods.map do |method|
      { "id" => "#{zone["id"]}-#{method}", "zone" => zone["id"], "method" => method, "plan" => plan }
    end
  end
  none = %w[offers rules treatments].to_h { |list| [list, []] }
  goods = [{ "sku" => "SHK-GAL-10", "name" => "Shackle", "price" => "1.90", "weight" => "0.21 kg" }]
  demo.merge(none, "zones" => made, "rates" => rates, "products" => goods)
end

PRICE = "document.querySelector('#section [aria-label^=\"Why \"]') !== null"

# @return [Array(Float, Integer)] milliseconds until a price stands on the Board, and its elements then
def first_prices(session)
  times = Array.new(sized(5, 1)) do
    session.visit "about:blank"
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    session.visit "/?item=2*SHK-GAL-10&to=JP&postcode=001-0000"
    wait_for_price(session, started)
    (Process.clock_gettime(Process::CLOCK_MONOTONIC) - started) * 1000
  end
  sleep sized(1, 0.1)
  [times.sort[times.size / 2], session.evaluate_script("document.querySelectorAll('*').length")]
end

# A page without a price is no measurement.
def wait_for_price(session, started)
  until session.evaluate_script(PRICE)
    abort "no price stands on the Board" if Process.clock_gettime(Process::CLOCK_MONOTONIC) - started > 30

    sleep 0.01
  end
end

# One size in a process of its own: a shop is opened once.
def measured(zones)
  Server::BookRecords.write(large(zones))
  session = opened
  session.visit "/"
  puts first_prices(session).to_json
  session.quit
end

def compared
  few, many = sized([12, 120], [2, 4]).map do |zones|
    said = IO.popen([RbConfig.ruby, __FILE__, zones.to_s], &:read)
    abort "#{zones} zones could not be measured: #{said}" unless $CHILD_STATUS.success?

    JSON.parse(said.lines.last)
  end
  puts format("12 zones, 60 rates: first prices after %<ms>.0f ms, %<count>d elements", ms: few[0], count: few[1])
  puts format("120 zones, 600 rates: after %<ms>.0f ms (wanted: 1000), %<ratio>.2f times as long, %<count>d elements",
              ms: many[0], ratio: many[0] / few[0], count: many[1])
end

ARGV.any? ? measured(Integer(ARGV.first)) : compared
