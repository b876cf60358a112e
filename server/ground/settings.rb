# frozen_string_literal: true

require "ipaddr"

module Server
  # What the environment says, read in one place.
  module Settings
    # @return [String] the database file
    def self.database = ENV.fetch("GATE_MILE_DATABASE", File.join(ROOT, "var", "gate_mile.sqlite3"))

    # @param file [String]
    # @yield with that file as the database, and its folder for the keys
    # @return [Object] what the block returns
    def self.with_database(file)
      before = ENV.fetch("GATE_MILE_DATABASE", nil)
      ENV["GATE_MILE_DATABASE"] = file
      yield
    ensure
      ENV["GATE_MILE_DATABASE"] = before
    end

    # @return [String] the folder of the built front end
    def self.web = ENV.fetch("GATE_MILE_WEB", File.join(ROOT, "web", "dist"))

    # @return [String] the folder of what takes long to work out and is the same for every shop; it may be emptied
    def self.aside = File.join(ROOT, "tmp")

    # Addresses that stand for all of a machine's.
    ALL = %w[0.0.0.0 :: [::]].freeze
    private_constant :ALL

    # Headers in which a proxy can name the client it forwards for; the first one is the default.
    FORWARDED = %w[x-forwarded-for forwarded].freeze

    # @return [String] the address that the server listens on
    def self.bind = ENV.fetch("BIND", "127.0.0.1")

    # @return [Array<String>] host names that requests may be addressed to
    def self.hosts = %w[localhost 127.0.0.1 ::1 [::1]] + named + ([bind] - ALL)

    # @return [Array<String>] host names that the environment lists
    def self.named = ENV.fetch("GATE_MILE_HOSTS", "").split(",").map(&:strip).reject(&:empty?)

    # @return [String] where a browser reaches the workbench, as far as that is known
    def self.address
      return "https://#{named.first}" if named.any?

      "http://#{ALL.include?(bind) ? "127.0.0.1" : bind}:#{ENV.fetch("PORT", "4180")}"
    end

    # @return [Integer, nil] port of the listener for shops; nil where there is one for all
    def self.public_port = ENV["GATE_MILE_PUBLIC"].to_s[/:(\d+)\z/, 1]&.to_i

    # @return [void]
    # @raise [ArgumentError] for addresses that are none, before anybody is served by them
    def self.check
      forwarded
      { "GATE_MILE_PROXIES" => -> { proxies }, "GATE_MILE_WATCHERS" => -> { watchers },
        "GATE_MILE_OUTGOING" => -> { Outgoing.allowed } }.each do |name, read|
        read.call
      rescue IPAddr::Error => e
        raise ArgumentError, "#{name}: #{e.message}"
      end
    end

    # @return [Boolean] whether others than this machine reach the server, as far as the environment says so: then
    #   nothing is told to anybody without an account
    def self.reached_by_others?
      !%w[127.0.0.1 ::1 localhost].include?(bind) || ENV["GATE_MILE_ACCOUNTS"] == "1" ||
        %w[GATE_MILE_HOSTS GATE_MILE_PROXIES GATE_MILE_PUBLIC].any? { |name| !ENV[name].to_s.strip.empty? }
    end

    # @return [String] the header by which they say whom they ask for: x-forwarded-for or forwarded (RFC 7239)
    # @raise [ArgumentError] for another one
    def self.forwarded
      said = ENV["GATE_MILE_FORWARDED"].to_s.strip.downcase
      return FORWARDED.first if said.empty?

      FORWARDED.include?(said) ? said : raise(ArgumentError, "GATE_MILE_FORWARDED is #{FORWARDED.join(" or ")}")
    end

    # @return [Array<IPAddr>] proxies whose word counts for whom they ask
    def self.proxies = ENV.fetch("GATE_MILE_PROXIES", "").split(",").map { |text| IPAddr.new(text.strip) }

    # @param address [String, nil] of who asks
    # @return [Boolean] whether metrics are told there: to this machine, and to those that the environment names
    def self.watcher?(address)
      watchers.any? { |range| range.include?(IPAddr.new(address.to_s)) }
    rescue IPAddr::Error
      false
    end

    # @return [Array<IPAddr>] those to whom metrics are told
    def self.watchers
      ["127.0.0.0/8", "::1", *ENV.fetch("GATE_MILE_WATCHERS", "").split(",")].map { |text| IPAddr.new(text.strip) }
    end

    # @return [Boolean] whether each request is a line on the error stream
    def self.log_requests? = ENV["GATE_MILE_LOG"] == "1"

    # @return [Array<String>] origins of the demo shop's own pages
    def self.demo_shops
      port = ENV.fetch("SHOP_PORT", "4181")
      ["http://127.0.0.1:#{port}", "http://localhost:#{port}"]
    end

    # @return [String] the folder that a quote process quotes from
    def self.quotes = File.expand_path(ENV.fetch("GATE_MILE_QUOTES", "var/quotes"), ROOT)

    # @return [Array(String, String), nil] address of the workbench, and the key that a quote server shows there; nil
    #   for none
    def self.workbench
      pair = ENV.values_at("GATE_MILE_WORKBENCH", "GATE_MILE_KEY").map { |text| text.to_s.strip }
      pair unless pair.any?(&:empty?)
    end

    # @return [String, nil] where Redis is; nil for none
    def self.redis = ENV["GATE_MILE_REDIS"].to_s.strip.presence

    # @return [Array<String>] addresses or ranges inside the own network, some with a port, that carriers and webhooks
    #   may have all the same
    def self.outgoing = ENV.fetch("GATE_MILE_OUTGOING", "").split(",").map(&:strip).reject(&:empty?)

    # @return [Float] seconds that carriers may take to answer a quote
    def self.deadline = Float(ENV.fetch("GATE_MILE_DEADLINE", "2.5"))

    # @return [Float] seconds that are spent on the strips or gates of one cart before what is left is told as not
    #   looked at
    def self.patience = Float(ENV.fetch("GATE_MILE_PATIENCE", "0.09"))

    # @return [String] where the demo's carriers are
    def self.demo_carriers = "http://127.0.0.1:#{ENV.fetch("CARRIERS_PORT", "4182")}"

    # @return [Boolean] whether the server does by itself what is due; tests say when
    def self.duties? = ENV["GATE_MILE_DUTIES"] != "0"

    # @return [Boolean] whether the endpoint is there that perf/http.rb measures against
    def self.echo? = ENV["GATE_MILE_ECHO"] == "1"
  end
end
