# frozen_string_literal: true

# Quotes and orders through two quote servers of two processes each, with a new release every 20 seconds and a quote
# process killed (-9) every 30: no order may be lost or count twice, no answer may be of two releases, and memory has to
# stay level. Ten minutes, or as many seconds as are named.
#   bundle exec ruby perf/soak_checkout.rb [SECONDS]

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "sqlite3"
require_relative "quote_servers"
require_relative "../clients/ruby/gate_mile_checkout"

SECONDS = Integer(ARGV.first || sized(600, 4))
SHOPS = 3

# All of it at once.
class Soak
  # A shop that asks one server after the other, and tells an order again until somebody has taken it.
  class Shop
    attr_reader :asked, :failed, :mixed, :taken

    # @param doors [Array<GateMileCheckout>]
    # @param prices [Hash{Integer => String}] by release
    # @param name [Integer]
    def initialize(doors, prices, name)
      @doors = doors
      @prices = prices
      @name = name
      @asked = 0
      @failed = Hash.new(0)
      @mixed = []
      @taken = {}
    end

    # @return [void]
    def round(cart)
      quote = once { |door| door.quote(cart) } or return
      price = quote["methods"].find { |one| one["code"] == "TRACKED" }.fetch("price")
      @mixed << [quote["release"], price] unless @prices[quote["release"]] == price
      order(quote, price) if (@asked % 5).zero?
    end

    private

    def once
      @asked += 1
      yield @doors[@asked % @doors.size]
    rescue GateMileCheckout::Refused => e
      @failed[e.message] += 1
      nil
    rescue GateMileCheckout::Unreachable, SystemCallError, IOError, Timeout::Error => e
      @failed[e.class.name] += 1
      nil
    end

    def order(quote, price)
      number = "#{@name}-#{@asked}"
      told = nil
      told = once { |door| door.order(number, quote: quote["quote"], method: "TRACKED") } until told
      @taken[number] = price
      @mixed << [number, told["price"], price] unless told["price"] == price
    end
  end

  # The processes that quote, as the system sees them.
  module Workers
    class << self
      # @return [Array<Integer>]
      def pids
        below(Process.pid).select { |pid| File.read("/proc/#{pid}/cmdline").include?("puma: cluster worker") }
      rescue SystemCallError
        []
      end

      # @return [Integer] MB that they have, what they share counted once
      def memory
        pids.sum { |pid| File.read("/proc/#{pid}/smaps_rollup")[/^Pss:\s+(\d+)/, 1].to_i } / 1024
      rescue SystemCallError
        0
      end

      private

      def below(pid)
        children = File.read("/proc/#{pid}/task/#{pid}/children").split.map(&:to_i)
        children + children.flat_map { |child| below(child) }
      rescue SystemCallError
        []
      end
    end
  end

  CART = { lines: [{ sku: "LOG-A4", quantity: 1 }], destination: { country: "GB", postcode: "TR29 4ZZ" } }.freeze

  # @param all [QuoteServers]
  def initialize(all)
    @all = all
    @prices = { 1 => "5.95" }
    @killed = 0
    @levels = []
    doors = [PORTS + 3, PORTS + 4].map { |port| GateMileCheckout.new("http://127.0.0.1:#{all.quotes(2, port: port)}", all.key) }
    @shops = Array.new(SHOPS) { |at| Shop.new(doors, @prices, at) }
  end

  # @return [void]
  def run
    asking = @shops.map { |shop| Thread.new { shop.round(CART) until Thread.current[:over] } }
    others = [every(sized(20, 1)) { release }, every(sized(30, 2)) { kill }, every(sized(10, 1)) do
      @levels << Workers.memory
    end]
    sleep SECONDS
    others.each(&:kill)
    asking.each { |thread| thread[:over] = true }.each(&:join)
    sleep sized(10, 2) # what waits is handed on
  end

  # @return [Boolean] whether nothing was lost, doubled or wrong
  def tell
    taken = @shops.map(&:taken).inject(:merge)
    puts "#{@shops.sum(&:asked)} calls, #{taken.size} orders, #{@prices.size} releases, #{@killed} processes killed"
    wrong = wrongs(taken)
    puts wrong.map { |name, count| "#{name}: #{count}" }.join("; ")
    failed = @shops.map(&:failed).inject { |one, other| one.merge(other) { |_, *counts| counts.sum } }
    puts "calls that were cut off or refused: #{failed}"
    levels
    taken.any? && wrong.values.all?(&:zero?)
  end

  private

  def wrongs(taken)
    stored = SQLite3::Database.new(@all.database, readonly: true).execute("SELECT number, price FROM orders").to_h
    { "lost" => (taken.keys - stored.keys).size,
      "other price" => taken.count { |number, price| stored[number] && stored[number].to_s != price },
      "more than were told" => (stored.keys - taken.keys).size,
      "of two releases" => @shops.sum { |shop| shop.mixed.size } }
  end

  def levels
    third = [@levels.size / 3, 1].max
    puts "memory of the quote processes, MB: #{@levels.first(third).sum / third} in the first third, " \
         "#{@levels.last(third).sum / third} in the last; #{@levels.minmax.join(" to ")}"
  end

  def every(seconds)
    Thread.new do
      loop do
        sleep seconds
        yield
      end
    end
  end

  def release
    rate = @all.ask(:Get, "/api/setup")["rates"].find { |one| one["id"] == "uk-tracked" }
    amount = format("%.2f", 6 + (@prices.size / 100.0))
    plan = { "schedule" => { "kind" => "flat", "amount" => amount } }
    @all.ask(:Patch, "/api/rates/uk-tracked", { plan: plan, lock_version: rate["lock_version"] })
    @prices[@prices.size + 1] = amount
    @all.publish
  end

  def kill
    pid = Workers.pids.sample or return
    Process.kill(:KILL, pid)
    @killed += 1
  rescue Errno::ESRCH
    nil
  end
end

QuoteServers.open do |all|
  soak = Soak.new(all)
  soak.run
  exit 1 unless soak.tell
end
