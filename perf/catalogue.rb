# frozen_string_literal: true

# A catalogue of 20,000 products against one of 200: reading it from CSV, finding goods, quoting, and how long the bench
# waits after one edited cell.
#   bundle exec ruby perf/catalogue.rb

require_relative "stack"
require "csv"

SMALL = sized(200, 20)
LARGE = sized(20_000, 60)
TIMES = sized(200, 2)
COLUMNS = %w[sku name price weight length width height class tags].freeze
WORDS = %w[brass bronze steel rope cleat shackle block fender lamp chart anchor oar paddle jacket line hook].freeze
ASKED = ["shackle", "brass cleat", "P-00017", "anchor lamp 12", "bronze", "ope", "rope 199"].freeze

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
def memory = Integer(File.read("/proc/self/statm").split[1], 10) * 4096 / 1_048_576.0
def median(list) = list.sort[list.size / 2]

def table(count)
  random = Random.new(1)
  CSV.generate do |csv|
    csv << COLUMNS
    count.times do |number|
      csv << [format("P-%05d", number), "#{WORDS.sample(random: random)} #{WORDS.sample(random: random)} #{number}",
              "#{random.rand(1..99)}.#{random.rand(10..99)}", "#{random.rand(10..9000)} g", "10 cm", "8 cm", "4 cm",
              %w[Small Long].sample(random: random), "perf"]
    end
  end
end

# What is measured.
class Catalogue < Stack
  # @return [Float] seconds
  def fill(csv)
    started = now
    body = { csv: csv, mapping: COLUMNS.to_h { |column| [column, column] }, store: true }
    lines = ask(:post, "/api/products/import", body).lines
    abort lines.last[0, 300] unless JSON.parse(lines.last).key?("result")
    now - started
  end

  # @return [Float] seconds for each request, the median
  def search
    ASKED.each { |words| ask(:get, "/api/products?limit=50&q=#{URI.encode_www_form_component(words)}") }
    median(Array.new(sized(20, 1)) do
      ASKED.map do |words|
        started = now
        ask(:get, "/api/products?limit=50&q=#{URI.encode_www_form_component(words)}")
        now - started
      end
    end.flatten)
  end

  # @return [Float] seconds for each quote of twenty lines, the median
  def quote
    cart = { lines: Array.new(20) { |at| { sku: format("P-%05d", at * (SMALL / 20)), quantity: 2 } },
             destination: { country: "GB", postcode: "TR29 4ZZ" } }
    median(Array.new(TIMES) do
      started = now
      ask(:post, "/api/quote", cart)
      now - started
    end)
  end

  # @return [Float] seconds from sending a cell to holding what the bench gets
  def cell(number)
    row = json(:get, "/api/products?q=P-00010")["products"].first
    cart = { lines: [{ sku: "P-00010", quantity: 3 }], destination: { country: "GB", postcode: "TR29 4ZZ" } }
    started = now
    ask(:post, "/api/products/cells", { rows: [{ id: row["id"], lock_version: row["lock_version"],
                                                 cells: { weight: "#{number + 1} kg" } }] })
    ask(:get, "/api/setup")
    bench = json(:post, "/api/bench", { cart: cart })
    took = now - started
    abort "the bench does not show it" unless bench["quote"]["measures"]["weight"] == "#{(number + 1) * 3} kg"
    took
  end
end

stack = Catalogue.new
stack.app
demo = JSON.parse(File.read(File.join(Server::ROOT, "demo/book.json")))
Server::BookRecords.write(demo)
stack.fill(table(SMALL))
small = [stack.search, stack.quote]
GC.start
before = memory
took = stack.fill(table(LARGE))
peak = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024.0
puts format("import of %<count>d products: %<rows>d rows a second; memory %<before>.0f MB, %<peak>.0f MB at most",
            count: LARGE - SMALL, rows: LARGE / took, before: before, peak: peak)
large = [stack.search, stack.quote]
puts format("search: %<small>.2f ms with %<few>d products, %<large>.2f ms with %<many>d; " \
            "ratio %<ratio>.2f (wanted under 2)",
            few: SMALL, many: LARGE, small: small[0] * 1000, large: large[0] * 1000, ratio: large[0] / small[0])
puts format("quote of 20 lines: %<small>.2f ms and %<large>.2f ms; ratio %<ratio>.2f (wanted under 1.2)",
            small: small[1] * 1000, large: large[1] * 1000, ratio: large[1] / small[1])
times = Array.new(sized(15, 2)) { |number| stack.cell(number) }
puts format("one edited cell until the bench shows it: median %<ms>.0f ms, at most %<slowest>.0f ms " \
            "(wanted under 150)",
            ms: median(times) * 1000, slowest: times.max * 1000)
shelf = Server::BookShelf.new
started = now
book = shelf.current.last
puts format("%<count>d products compiled after a start: %<s>.2f s (wanted: 1)",
            count: book.catalogue.size, s: now - started)
started = now
stack.ask(:get, "/api/findings")
puts format("findings: %<ms>.0f ms (wanted: 1500)", ms: (now - started) * 1000)
Server::App.settings.shelf.clear
started = now
Server::App.settings.shelf.current
puts format("the whole book compiled anew, as after a start: %<ms>.0f ms", ms: (now - started) * 1000)
