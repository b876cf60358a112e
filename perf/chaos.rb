# frozen_string_literal: true

# A deployment as docs/deploy.md tells it, a workbench and two quote servers behind nginx with Redis beside them, under
# fifteen orders a second, while processes of every kind are killed (-9) and releases go live. What a service manager
# would start again is started again a second later; nobody else lends a hand. In the end no order may be lost, doubled,
# wrongly priced, or waiting. Four minutes and 25 kills, or as many seconds and kills as are named.
#   bundle exec ruby perf/chaos.rb [SECONDS] [KILLS] [SEED]

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "sqlite3"
require_relative "quote_servers"
require_relative "../clients/ruby/gate_mile_checkout"

SECONDS = Integer(ARGV[0] || sized(240, 6))
KILLS = Integer(ARGV[1] || sized(25, 3))
SEED = Integer(ARGV[2] || (Random.new_seed % 100_000))
RATE = sized(15, 5)

# All of it at once.
class Chaos
  # Shops that together place so many orders a second, and tell each one until somebody has taken it.
  class Shops
    CART = { lines: [{ sku: "LOG-A4", quantity: 1 }], destination: { country: "GB", postcode: "TR29 4ZZ" } }.freeze
    # Seconds after which a shop gives up: then nobody was there for that long.
    PATIENCE = 60
    CANCELLED = 10
    private_constant :PATIENCE, :CANCELLED

    # What a shop was told of one order.
    Told = Struct.new(:release, :price, :state)

    # @return [Hash{String => Told}] by number
    attr_reader :orders
    # @return [Array<String>] what no repetition helped
    attr_reader :given_up
    # @return [Hash{String => Integer}] calls that were cut off or refused, and were made again
    attr_reader :again
    # @return [Float] the longest that a shop had to repeat itself
    attr_reader :slowest

    # @param address [String]
    # @param key [String]
    def initialize(address, key)
      @address = address
      @key = key
      @orders = {}
      @given_up = []
      @again = Hash.new(0)
      @lock = Mutex.new
      @slowest = 0.0
      @threads = []
    end

    # @return [void]
    def open = @threads = Array.new(RATE) { |name| Thread.new { shop(name) } }

    # @return [void] once each has ended what it had begun
    def close = @threads.each { |thread| thread[:over] = true }.each(&:join)

    private

    def shop(name)
      door = GateMileCheckout.new(@address, @key)
      due = now + (name.to_f / RATE)
      count = 0
      until Thread.current[:over]
        sleep [due - now, 0].max
        due += 1
        one("#{name}-#{count += 1}", door)
      end
    end

    def one(number, door)
      quote = tried { door.quote(CART, idempotency_key: "quote-#{number}") } or return
      method = quote["methods"].find { |offered| offered["code"] == "TRACKED" }
      order = tried { door.order(number, quote: quote["quote"], method: "TRACKED") } or return
      state = (number.hash % CANCELLED).zero? && tried { door.cancel(number) } ? "cancelled" : "placed"
      @lock.synchronize { @orders[number] = Told.new(quote["release"], order["price"], state) }
      give_up("#{number}: quoted #{method["price"]}, ordered at #{order["price"]}") if method["price"] != order["price"]
    end

    # Until somebody answers. An order that waits at one server is not known to the other yet: 404 is asked again too.
    def tried
      first = now
      begin
        answer = yield
        @lock.synchronize { @slowest = [@slowest, now - first].max }
        answer
      rescue GateMileCheckout::Refused, GateMileCheckout::Unreachable, SystemCallError, IOError, Timeout::Error => e
        @lock.synchronize { @again[e.is_a?(GateMileCheckout::Refused) ? e.status.to_s : e.class.name] += 1 }
        return give_up(e.message) if now - first > PATIENCE

        sleep 0.2
        retry
      end
    end

    def give_up(why)
      @lock.synchronize { @given_up << why }
      nil
    end

    def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  end

  # The processes of a deployment, as the system sees them.
  class Victims
    KINDS = ["workbench", "what the workbench forked", "supervisor of a quote server", "quote server", "quote process",
             "courier", "nginx", "nginx worker", "Redis"].freeze

    # @param all [QuoteServers]
    def initialize(all, random)
      @all = all
      @random = random
      @killed = Hash.new(0)
    end

    # @return [Hash{String => Integer}] how many of each kind were killed
    attr_reader :killed

    # Kills one of the kind that was spared longest. What can't be found yet is looked for again.
    # @return [void]
    def strike
      KINDS.sort_by { |kind| [@killed[kind], KINDS.index(kind)] }.each do |kind|
        pid = of(kind).sample(random: @random) or next
        Process.kill(:KILL, pid)
        return @killed[kind] += 1
      rescue Errno::ESRCH
        next
      end
    end

    private

    def of(kind)
      case kind
      when "workbench", "nginx", "Redis" then tops(kind)
      when "what the workbench forked" then below("workbench")
      when "nginx worker" then below("nginx")
      when "supervisor of a quote server" then tops("quotes")
      else of_quotes(kind)
      end
    end

    def of_quotes(kind)
      couriers, servers = below("quotes").partition { |pid| command(pid).include?("courier.rb") }
      case kind
      when "courier" then couriers
      when "quote server" then servers
      else all_below(servers).select { |pid| command(pid).include?("puma: cluster worker") }
      end
    end

    def tops(name) = @all.running(name)
    def below(name) = tops(name).flat_map { |pid| children(pid) }

    def all_below(pids)
      found = pids.flat_map { |pid| children(pid) }
      found.empty? ? found : found + all_below(found)
    end

    def command(pid) = File.read("/proc/#{pid}/cmdline").tr("\0", " ")
    def children(pid) = Dir["/proc/#{pid}/task/*/children"].flat_map { |file| File.read(file).split.map(&:to_i) }
  end

  # Seconds after which everything has to have arrived.
  SETTLED = 60
  RELEASES = 20
  private_constant :SETTLED, :RELEASES

  # @param all [QuoteServers]
  def initialize(all)
    @all = all
    @amount = 595
    @prices = { 1 => "5.95" }
    @victims = Victims.new(all, Random.new(SEED))
    redis = all.redis(PORTS + 6)
    @ports = [PORTS + 3, PORTS + 4].each { |port| all.quotes(2, port: port, redis: redis) }
    all.keep
    @shops = Shops.new("http://127.0.0.1:#{all.nginx(PORTS + 5, @ports)}", all.key)
  end

  # @return [void]
  def run
    @shops.open
    others = [every(SECONDS.to_f / (KILLS + 1)) { @victims.strike if @victims.killed.values.sum < KILLS },
              every(sized(RELEASES, 5)) { release }, every(0.2) { walk }]
    sleep SECONDS
    others.each { |thread| thread[:over] = true }.each(&:join)
    @shops.close
    @settling = seconds { SETTLED.times { waiting.zero? ? break : sleep(1) } }
  end

  # @return [Boolean] whether nothing was lost, doubled, wrong, or is still waiting
  def tell
    puts "seed #{SEED}; #{@shops.orders.size} orders in #{SECONDS} s, #{@prices.size} releases; killed: " \
         "#{Victims::KINDS.map { |kind| "#{@victims.killed[kind]} #{kind}" }.join(", ")}"
    puts "calls made again: #{@shops.again}; the longest that one took: #{format("%.1f", @shops.slowest)} s; " \
         "settled #{format("%.1f", @settling)} s after the last"
    wrong = wrongs
    puts wrong.map { |name, count| "#{name}: #{count}" }.join("; ")
    puts @shops.given_up.first(5)
    spared = Victims::KINDS.reject { |kind| @victims.killed[kind].positive? }
    puts "never killed: #{spared.join(", ")}" if spared.any?
    @shops.orders.any? && wrong.values.all?(&:zero?) && (TINY || spared.empty?)
  end

  private

  def wrongs
    told = @shops.orders
    stored = stored_orders
    known = told.filter_map { |number, one| [one, stored[number].first] if stored.key?(number) }
    { "lost" => (told.keys - stored.keys).size, "doubled" => stored.values.count { |rows| rows.size > 1 },
      "another price" => known.count { |one, row| row[1].to_s != one.price },
      "priced by no release" => told.values.count { |one| @prices[one.release] != one.price },
      "in another state" => known.count { |one, row| row[2] != one.state },
      "waiting" => waiting, "kept apart" => @ports.sum { |port| standing(port).fetch("refused") },
      "given up" => @shops.given_up.size }
  end

  def stored_orders
    SQLite3::Database.new(@all.database, readonly: true)
                     .execute("SELECT number, price, state FROM orders").group_by(&:first)
  end

  # @return [Integer] orders that are on their way, with each server that does not answer
  def waiting
    @ports.sum { |port| standing(port).fetch("waiting") }
  rescue SystemCallError, IOError, JSON::ParserError
    1
  end

  def standing(port) = JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{port}/status")))

  # Another price. Where the workbench was killed before it answered, what it has published is looked up.
  def release
    @amount += 1
    amount = format("%.2f", @amount / 100.0)
    plan = { "schedule" => { "kind" => "flat", "amount" => amount } }
    insist do
      rate = @all.asked(:Get, "/api/setup")["rates"].find { |one| one["id"] == "uk-tracked" }
      @all.asked(:Patch, "/api/rates/uk-tracked", { plan: plan, lock_version: rate["lock_version"] })
    end
    insist { @all.publish(:asked) }
    insist do
      @all.asked(:Get, "/api/releases")["releases"].each { |one| @prices[one["number"]] ||= amount }
    end
  end

  def insist
    yield
  rescue QuoteServers::Unanswered, SystemCallError, IOError, Timeout::Error
    sleep 0.5
    retry
  end

  # So that something runs beside the process that answers.
  def walk
    @all.asked(:Post, "/api/walk", { zone: "uk" })
  rescue QuoteServers::Unanswered, SystemCallError, IOError, Timeout::Error
    nil
  end

  def every(pause)
    Thread.new do
      until Thread.current[:over]
        sleep pause
        yield
      end
    end
  end

  def seconds
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    yield
    Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
  end
end

QuoteServers.open do |all|
  chaos = Chaos.new(all)
  chaos.run
  exit 1 unless chaos.tell
end
