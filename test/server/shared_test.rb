# frozen_string_literal: true

require_relative "../support/server"
require_relative "../support/carriers"

# What processes share: with Redis they count together, and a Redis that is away costs what is shared and no quote.
class SharedTest < Minitest::Test
  include ServerSupport
  include CarriersSupport

  def setup
    @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    @pid = spawn("redis-server", "--port", @port.to_s, "--save", "", "--appendonly", "no", "--bind", "127.0.0.1", out: File::NULL, err: File::NULL)
    100.times do
      break TCPSocket.new("127.0.0.1", @port).close
    rescue SystemCallError
      sleep 0.05
    end
  end

  # That Redis was away is remembered for a while, as it should be; the next test has one of its own.
  def teardown
    stop
    store = Stoplight::Default::DATA_STORE
    store.names.each { |name| store.clear_failures(Stoplight(name)) }
  end

  def stop
    return unless @pid

    Process.kill(:KILL, @pid)
    Process.wait(@pid)
    @pid = nil
  end

  # As processes have it that share a Redis.
  def sharing
    before = ENV.fetch("GATE_MILE_REDIS", nil)
    ENV["GATE_MILE_REDIS"] = "redis://127.0.0.1:#{@port}"
    Server::Shared.clear
    yield
  ensure
    ENV["GATE_MILE_REDIS"] = before
    Server::Shared.clear
  end

  def store = sharing { Server::Shared.store }

  def test_two_processes_count_together
    now = Time.now
    one, other = Array.new(2) { Server::CheckoutPace.new(store) }
    assert_equal [1, 2, 3], [one.count("key", now), other.count("key", now), one.count("key", now)]
    assert_equal 1, other.count("another", now)
    assert_equal 1, one.count("key", now + 60), "by the minute"
  end

  def test_an_answer_is_given_once_among_them
    one, other = Array.new(2) { Server::AnsweredOnce.new(store) }
    first = one.answer("key", "abc", { "a" => 1 }, 900) { [200, {}, ["first"]] }
    assert_equal first, other.answer("key", "abc", { "a" => 1 }, 900) { flunk }
    assert_raises(Server::Problem) { other.answer("key", "abc", { "a" => 2 }, 900) { flunk } }
  end

  # At the same moment, in both: one works it out, the others wait for it. What went wrong is asked anew.
  def test_the_same_question_at_the_same_moment
    both = Array.new(2) { Server::AnsweredOnce.new(store) }
    count = Queue.new
    ask = ->(once) { once.answer("key", "now", {}, 900) { (count << sleep(0.1)) && [200, {}, [SecureRandom.hex]] } }
    assert_equal 1, Array.new(8) { |at| Thread.new { ask.call(both[at % 2]) } }.map(&:value).uniq.size
    assert_equal 1, count.size
    assert_raises(IOError) { both.first.answer("key", "error", {}, 900) { raise IOError } }
    assert_equal [200, {}, ["well"]], both.last.answer("key", "error", {}, 900) { [200, {}, ["well"]] }
  end

  def test_while_it_is_away
    shared = store
    stop
    assert_operator Server::CheckoutPace.new(shared).count("key"), :<=, 1
    assert_equal [200, {}, ["own"]], Server::AnsweredOnce.new(shared).answer("key", "abc", {}, 900) { [200, {}, ["own"]] }
  end

  # In memory each has its own.
  def test_without_redis
    Server::Shared.clear
    assert_kind_of ActiveSupport::Cache::MemoryStore, Server::Shared.store
    one, other = Array.new(2) { Server::CheckoutPace.new(Server::Shared.counts) }
    now = Time.now
    assert_equal [1, 2, 1], [one.count("key", now), one.count("key", now), other.count("key", now)]
    assert_equal 1, one.count("key", now + 60)
    Server::Shared.replies.write("reply", 1)
    assert_nil Server::Shared.replies.read("reply")
  end

  # What a carrier said to one process is good enough for another: it comes to the same price, and nobody is asked again.
  def test_what_carriers_said
    fresh(WHOLE_DEMO)
    carriers
    sharing do
      first = live_prices
      assert_equal 0, asked { assert_equal first, live_prices }, "another process asks nobody"
      stop
      quietly { assert_equal first, live_prices }
    end
    assert_operator asked { live_prices }, :>, 0, "apart, each asks itself"
  end

  # A carrier that is left alone by one process is left alone by all of them.
  def test_breakers
    fresh(WHOLE_DEMO)
    app = carriers
    app.modes["petrel"] = "down"
    petrel = Server::Records::Carrier.find("petrel")
    sharing do
      3.times { live_prices({ "country" => "IE", "postcode" => "D0#{_1} ZZ99" }) }
      assert Server::Carriers::Lines.resting?(petrel)
      Server::Shared.clear
      assert Server::Carriers::Lines.resting?(petrel), "in another process"
      stop
      refute Server::Carriers::Lines.resting?(petrel), "while Redis is away each finds out for itself"
    end
    refute Server::Carriers::Lines.resting?(petrel)
  end

  private

  # What a new process gets, which has heard nothing yet.
  def live_prices(destination = { "country" => "IE" })
    Server::Carriers::Port.clear
    api(:post, "/api/quote", { lines: [{ sku: "SHK-GAL-10", quantity: 8 }], destination: destination })["methods"].map { |one| one.values_at("rate", "price") }
  end

  # @return [Integer] calls to carriers
  def asked
    before = Server::Carriers::Calls.list.size
    yield
    Server::Carriers::Calls.list.size - before
  end
end
