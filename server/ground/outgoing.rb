# frozen_string_literal: true

require "ipaddr"
require "net/http"
require "socket"

module Server
  # Requests to addresses that a merchant has typed: carriers and webhooks. Each name is resolved once, what it resolves
  # to must be on the internet, and that is what the connection goes to, whatever the name stands for a moment later.
  # What is in the network of the server is refused, however it is spelled, but for what the environment allows.
  module Outgoing
    # Where nobody is asked. Its message is for merchants.
    class Refused < StandardError
      def initialize = super("It is inside the server's own network, where nothing is sent")
    end

    # Addresses that are not globally reachable. Source: IANA, IPv4 and IPv6 Special-Purpose Address Registries (RFC
    # 6890); multicast: RFC 5771.
    CLOSED = %w[
      0.0.0.0/8 10.0.0.0/8 100.64.0.0/10 127.0.0.0/8 169.254.0.0/16 172.16.0.0/12 192.0.0.0/24 192.0.2.0/24
      192.88.99.0/24 192.168.0.0/16 198.18.0.0/15 198.51.100.0/24 203.0.113.0/24 224.0.0.0/4 240.0.0.0/4
      2001::/23 2001:db8::/32 2002::/16 3fff::/20
    ].map { |range| IPAddr.new(range) }.freeze
    # Of IPv6 nothing else is given out (RFC 4291).
    GLOBAL = IPAddr.new("2000::/3")
    # An address with a port: [fd00::1]:443, 10.0.0.1:443.
    NAMED = /\A(?:\[([\h:.]+)\]:(\d+)|([\d.]+):(\d+))\z/
    KEY = :gate_mile_outgoing
    private_constant :CLOSED, :GLOBAL, :NAMED, :KEY

    # Connects to what was looked at.
    module Pinned
      private

      def connect
        self.ipaddr = Outgoing.resolved(address, port) if Outgoing.guarding?
        super
      end
    end
    Net::HTTP.prepend(Pinned)

    class << self
      # @yield requests of this thread, each connection of which is looked at
      # @return [Object] what the block returns
      # @raise [Refused]
      def guarded
        before = Thread.current[KEY]
        Thread.current[KEY] = true
        yield
      ensure
        Thread.current[KEY] = before
      end

      # @return [Boolean]
      def guarding? = Thread.current[KEY] == true

      # @param host [String] a name or an address, however it is spelled
      # @param port [Integer]
      # @return [String] the address to connect to
      # @raise [Refused] where it, or another one that the name stands for, is inside
      # @raise [SocketError] for a name that stands for nothing
      def resolved(host, port)
        found = Addrinfo.getaddrinfo(host.delete("[]"), port, nil, :STREAM).map { |one| one.ip_address[/\A[^%]+/] }
        raise Refused unless found.all? { |address| open?(address, port) }

        found.first
      end

      # @param address [String] an IP address
      # @param port [Integer]
      # @return [Boolean]
      def open?(address, port)
        ip = IPAddr.new(address)
        ip = ip.native if ip.ipv4_mapped?
        public?(ip) || allowed.any? { |range, only| range.include?(ip) && [nil, port].include?(only) }
      end

      # @return [Array<Array(IPAddr, Integer)>] ranges, and the port where one is named
      def allowed
        Settings.outgoing.map do |text|
          range, port = text.match(NAMED) { |found| found[1] ? found.values_at(1, 2) : found.values_at(3, 4) }
          [IPAddr.new(range || text), port && Integer(port, 10)]
        end
      end

      private

      def public?(address)
        CLOSED.none? { |range| range.include?(address) } && (address.ipv4? || GLOBAL.include?(address))
      end
    end
  end
end
