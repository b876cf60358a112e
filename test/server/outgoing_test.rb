# frozen_string_literal: true

require_relative "../support/server"
require_relative "../support/carriers"
require_relative "../support/raw_carrier"
require "minitest/mock"

# Where requests to addresses that a merchant types may go.
# Sources: IANA, IPv4 and IPv6 Special-Purpose Address Registries (RFC 6890); RFC 4291, 2.5.5.2 (IPv4-mapped addresses); RFC 6052 (NAT64).
class OutgoingTest < Minitest::Test
  include ServerSupport
  include CarriersSupport

  # Spellings of what is inside: decimal, octal, hexadecimal and shortened, mapped and translated.
  INSIDE = %w[127.0.0.1 127.1 2130706433 0177.0.0.1 0x7f000001 0x7f.1 0 0.0.0.0 localhost ::1 [::1] :: ::ffff:127.0.0.1 [::ffff:7f00:1] ::ffff:10.0.0.1
              10.1.2.3 172.16.0.1 172.31.255.255 192.168.0.1 169.254.169.254 100.64.0.1 198.18.0.1 192.0.2.1 203.0.113.9 224.0.0.1 255.255.255.255
              fe80::1 fc00::1 fd12::1 ff02::1 64:ff9b::7f00:1 2001:db8::1 2002:7f00:1:: 2001::1 3fff::1].freeze
  OUTSIDE = %w[1.1.1.1 8.8.8.8 172.15.0.1 172.32.0.1 100.128.0.1 192.0.1.1 198.20.0.1 223.255.255.254 2606:4700::1111 2a00:1450::1].freeze

  def live_quote
    Server::Carriers::Port.clear
    api(:post, "/api/quote", { lines: [{ sku: "SHK-GAL-10", quantity: 8 }], destination: { country: "IE" } })
  end

  # @param list [String, nil] what the environment allows
  def allowing(list)
    before = ENV.fetch("GATE_MILE_OUTGOING")
    ENV["GATE_MILE_OUTGOING"] = list
    yield
  ensure
    ENV["GATE_MILE_OUTGOING"] = before
  end

  def test_what_is_inside_is_refused_however_it_is_spelled
    allowing("") do
      INSIDE.each { |host| assert_raises(Server::Outgoing::Refused, host) { Server::Outgoing.resolved(host, 443) } }
      OUTSIDE.each { |address| assert_equal address, Server::Outgoing.resolved(address, 443) }
    end
  end

  # Addresses by chance, against Ruby's own idea of what is private, loopback and link-local.
  def test_addresses_by_chance
    random = Random.new(7)
    allowing("") do
      2000.times do
        ip = IPAddr.new(random.rand(2**32), Socket::AF_INET)
        assert_equal false, Server::Outgoing.open?(ip.to_s, 80), ip.to_s if ip.private? || ip.loopback? || ip.link_local?
        assert_equal Server::Outgoing.open?(ip.to_s, 80), Server::Outgoing.open?("::ffff:#{ip}", 80), "mapped"
      end
    end
  end

  def test_what_the_environment_allows
    allowing("127.0.0.1:4182, 10.0.0.0/8,[fd00::1]:9,fd12::/16") do
      assert Server::Outgoing.open?("127.0.0.1", 4182)
      refute Server::Outgoing.open?("127.0.0.1", 4183), "another port"
      refute Server::Outgoing.open?("127.0.0.2", 4182)
      assert Server::Outgoing.open?("10.255.0.1", 1)
      assert Server::Outgoing.open?("fd00::1", 9)
      refute Server::Outgoing.open?("fd00::1", 10)
      assert Server::Outgoing.open?("fd12::7", 10)
    end
  end

  # A name that stands for several addresses, one of them inside, is refused; and what was looked at is what is connected to.
  def test_names
    here = RawCarrier.new { |socket, _| socket.write(RawCarrier.response("{}")) }
    port = URI(here.origin).port
    answers = [%w[93.184.216.34 127.0.0.1], %w[127.0.0.1], %w[93.184.216.34]]
    resolve = ->(*) { answers.shift.map { |ip| Addrinfo.tcp(ip, port) } }
    Addrinfo.stub(:getaddrinfo, resolve) do
      assert_raises(Server::Outgoing::Refused) { allowing("") { Server::Outgoing.resolved("rebound.example", port) } }
      said = Server::Outgoing.guarded { Net::HTTP.get(URI("http://rebound.example:#{port}/")) }
      assert_equal "{}", said
    end
    assert_equal 1, answers.size, "a name is resolved once for a connection"
    assert_match(/^host: rebound.example/i, here.asked.first)
    refute Server::Outgoing.guarding?
  ensure
    here&.stop
  end

  # A carrier inside is not asked; the merchant is told why, its breaker does not count it, and no port hears of it.
  def test_a_carrier_inside
    fresh(WHOLE_DEMO)
    carriers
    here = RawCarrier.new { |socket, _| socket.write(RawCarrier.response("{}")) }
    at = find("carriers", "petrel")
    api(:patch, "/api/carriers/petrel", { lock_version: at["lock_version"], address: here.origin.sub("127.0.0.1", "2130706433") })
    told = allowing("") { api(:post, "/api/carriers/petrel/test") }
    assert_equal [false, "It is inside the server's own network, where nothing is sent"], told.values_at("ok", "said")
    4.times { allowing("") { live_quote } }
    refute Server::Carriers::Lines.resting?(Server::Records::Carrier.find("petrel"))
    assert_empty here.asked
  ensure
    here&.stop
  end

  # A secret is for the address that it was typed for: another place has to be told it anew.
  def test_a_secret_stays_where_it_was_typed_for
    fresh(WHOLE_DEMO)
    carriers
    patch = lambda do |**fields|
      api(:patch, "/api/carriers/petrel", { lock_version: find("carriers", "petrel")["lock_version"], **fields })
    end
    assert patch.call(address: "https://one.example/a", secret: "typed")["has_secret"]
    assert patch.call(address: "https://one.example/b")["has_secret"], "another path of the same place"
    assert patch.call(name: "Petrel Post anew")["has_secret"]
    refute patch.call(address: "https://two.example/b")["has_secret"]
    assert patch.call(secret: "anew")["has_secret"]
    refute patch.call(address: "http://two.example/b")["has_secret"], "without TLS"
    assert patch.call(address: "https://three.example", secret: "both")["has_secret"]
  end

  # Nor does a redirect lead there: it is no answer.
  def test_redirects_are_not_followed
    fresh(WHOLE_DEMO)
    carriers
    inner = RawCarrier.new { |socket, _| socket.write(RawCarrier.response("{}")) }
    outer = RawCarrier.new { |socket, _| socket.write("HTTP/1.1 302 Found\r\nlocation: #{inner.origin}/services\r\ncontent-length: 0\r\n\r\n") }
    api(:patch, "/api/carriers/petrel", { lock_version: find("carriers", "petrel")["lock_version"], address: outer.origin })
    refute api(:post, "/api/carriers/petrel/test")["ok"]
    assert_empty inner.asked
  ensure
    [inner, outer].each { |one| one&.stop }
  end
end
