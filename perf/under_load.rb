# frozen_string_literal: true

# The checkout while the merchant works and a carrier hangs, and beside eight walks, an audit and an import: quotes a
# second and their 99th percentile, against the same server left in peace, in turns. Quotes are of goods to the mainland
# (the merchant's own rates) and to Ireland (carriers, each cart with an answer of its own to ask for).
#   bundle exec ruby perf/under_load.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "net/http"
require "tmpdir"
require_relative "sizes"
require_relative "demo"

ROOT = File.expand_path("..", __dir__)
PORT = PORTS + 7
CARRIERS_PORT = PORTS + 8
ROUNDS = sized(5, 1)
SECONDS = sized(6, 1)
SHOPPERS = sized(3, 1)
ROWS = sized(5000, 50)
# Seconds between two edits: nobody edits faster with a mouse; 0 is a script that never stops.
PACES = sized({ "five edits a second" => 0.2, "edits without a pause" => 0 }, { "five edits a second" => 0.2 }).freeze

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
def median(list) = list.sort[list.size / 2]
def percentile(list, share) = list.sort[((list.size - 1) * share).ceil]

def ask(port, verb, path, body = nil)
  request = Net::HTTP.const_get(verb).new(path, "content-type" => "application/json")
  request.body = JSON.generate(body) if body
  answer = Net::HTTP.start("127.0.0.1", port) { |http| http.request(request) }
  abort "#{verb} #{path} answered #{answer.code}: #{answer.body}" unless answer.code.start_with?("2")
  JSON.parse(answer.body)
end

def carrier(name, mode)
  ask(CARRIERS_PORT, "Post", "/control", { carrier: name, mode: mode, delay: mode == "slow" ? sized(30, 2) : 0 })
end

def cart(count)
  to = count.even? ? { country: "GB", postcode: "TR29 4ZZ" } : { country: "IE" }
  { lines: [{ sku: "SHK-GAL-10", quantity: (count % 400) + 1 }, { sku: "ROP-BRD-08", quantity: (count % 7) + 1 }],
    destination: to }
end

# Quotes for so many seconds, by several shoppers at once.
def shop(from)
  finish = now + SECONDS
  took = Array.new(SHOPPERS) do |at|
    Thread.new do
      own = []
      count = from + at
      while now < finish
        started = now
        ask(PORT, "Post", "/api/quote", cart(count += SHOPPERS))
        own << (now - started)
      end
      own
    end
  end.flat_map(&:value)
  [took.size / SECONDS.to_f, percentile(took, 0.99)]
end

# One who changes a price again and again.
def editing(pause)
  done = 0
  thread = Thread.new do
    Thread.current.report_on_exception = true
    lock = ask(PORT, "Get", "/api/setup")["rates"].find { |one| one["id"] == "hi-tracked" }["lock_version"]
    loop do
      sent = { lock_version: lock, name: "Tracked #{done += 1}" }
      lock = ask(PORT, "Patch", "/api/rates/hi-tracked", sent)["lock_version"]
      sleep pause
    end
  end
  yield.tap { abort "nothing was edited" if done.zero? }
ensure
  thread.kill
end

# The breaker is open after the first silent calls, as it is in a shop whose carrier has been hanging for a while.
def troubled(from, pause)
  carrier("fulmar", "slow")
  editing(pause) { shop(from) }
ensure
  carrier("fulmar", "well")
end

# Eight who walk again and again (each is told to wait where there is no turn for it), one who edits and reads the
# findings, one who looks at what an import would do.
def worked_on(from)
  walked = 0
  rows = Array.new(ROWS) { |at| format("SKU-%<at>05d,Thing %<at>d,1.00,0.2 kg", at: at) }
  table = { csv: ["sku,name,price,weight", *rows].join("\n"), store: false,
            mapping: { sku: "sku", name: "name", price: "price", weight: "weight" } }
  tasks = [-> { ask(PORT, "Get", "/api/findings") }, -> { imported(table) }] +
          Array.new(8) { -> { walk ? walked += 1 : sleep(0.5) } }
  threads = tasks.map { |task| Thread.new { loop { task.call } } }
  begun = now
  sleep 0.05 until walked.positive? || now - begun > 60
  abort "nobody walked" if walked.zero?
  editing(0.5) { shop(from) }
ensure
  threads.each(&:kill)
end

# @return [Boolean] false where there was no turn
def walk
  body = JSON.generate({ zone: "mainland" })
  answer = Net::HTTP.start("127.0.0.1", PORT, read_timeout: 120) do |http|
    http.post("/api/walk", body, "content-type" => "application/json")
  end
  abort "a walk answered #{answer.code}: #{answer.body}" unless %w[200 429 503].include?(answer.code)
  answer.code == "200"
end

def imported(table)
  answer = Net::HTTP.start("127.0.0.1", PORT, read_timeout: 120) do |http|
    http.post("/api/products/import", JSON.generate(table), "content-type" => "application/json")
  end
  abort "an import answered #{answer.code}: #{answer.body[0, 300]}" unless answer.code == "200"
end

# @return [Array<Integer>] process ids, once both servers take connections
def serve(folder)
  env = { "GATE_MILE_DATABASE" => File.join(folder, "perf.sqlite3"), "PORT" => PORT.to_s,
          "CARRIERS_PORT" => CARRIERS_PORT.to_s, "GATE_MILE_OUTGOING" => "127.0.0.1" }
  DemoShop.into(env["GATE_MILE_DATABASE"])
  carriers = ["-C", "stand_ins/puma.rb", "--bind", "tcp://127.0.0.1:#{CARRIERS_PORT}", "stand_ins/carriers/config.ru"]
  started = [%w[-C server/puma.rb server/config.ru], carriers].map do |arguments|
    spawn(env, "bundle", "exec", "puma", *arguments, chdir: ROOT, out: File::NULL, err: File::NULL)
  end
  started.tap { [PORT, CARRIERS_PORT].each { |port| wait_for(port) } }
end

def wait_for(port)
  tries ||= 0
  TCPSocket.new("127.0.0.1", port).close
rescue SystemCallError
  sleep 0.25
  (tries += 1) < 80 ? retry : raise
end

# @yieldparam from [Integer] the first of the carts to ask about
def compare(name)
  rounds = Array.new(ROUNDS) { |at| [shop(at * 100), yield((at * 100) + 50)] }
  peace, trouble = rounds.transpose.map { |list| list.transpose.map { |figures| median(figures) } }
  puts format("in peace %<many>.0f quotes a second, 99 in 100 within %<late>.0f ms", many: peace[0],
                                                                                     late: peace[1] * 1000)
  puts format("%<name>s: %<many>.0f quotes a second, 99 in 100 within %<late>.0f ms",
              name: name, many: trouble[0], late: trouble[1] * 1000)
  puts format("ratio: quotes a second %<many>.2f, 99th percentile %<late>.2f (wanted: under 1.5)",
              many: peace[0] / trouble[0], late: trouble[1] / peace[1])
end

Dir.mktmpdir do |folder|
  servers = serve(folder)
  shop(0)
  PACES.each { |name, pause| compare("one carrier hangs, #{name}") { |from| troubled(from, pause) } }
  compare("eight walks, an audit and an import") { |from| worked_on(from) }
ensure
  servers&.each { |server| Process.kill("TERM", server) && Process.wait(server) }
end
