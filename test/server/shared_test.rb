# frozen_string_literal: true

require_relative "../support/server"

# What processes share: with Redis they count together, and a Redis that is away costs what is shared and no quote.
class SharedTest < Minitest::Test
  def setup
    @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    @pid = spawn("redis-server", "--port", @port.to_s, "--save", "", "--appendonly", "no", "--bind", "127.0.0.1", out: File::NULL, err: File::NULL)
    100.times do
      break TCPSocket.new("127.0.0.1", @port).close
    rescue SystemCallError
      sleep 0.05
    end
  end

  def teardown = stop

  def stop
    return unless @pid

    Process.kill(:KILL, @pid)
    Process.wait(@pid)
    @pid = nil
  end

  # A store as a process of its own has it.
  def store
    before = ENV.fetch("GATE_MILE_REDIS", nil)
    ENV["GATE_MILE_REDIS"] = "redis://127.0.0.1:#{@port}"
    Server::Shared.instance_variable_set(:@store, nil)
    Server::Shared.store
  ensure
    ENV["GATE_MILE_REDIS"] = before
    Server::Shared.instance_variable_set(:@store, nil)
  end

  def test_two_processes_count_together
    now = Time.now
    one, other = Array.new(2) { Server::CheckoutPace.new(store) }
    assert_equal [1, 2, 3], [one.count("key", now), other.count("key", now), one.count("key", now)]
    assert_equal 1, other.count("another", now)
    assert_equal 1, one.count("key", now + 60), "by the minute"
  end

  def test_an_answer_is_given_once_among_them
    one, other = Array.new(2) { Server::AnsweredOnce.new(store) }
    first = one.answer("key", "abc", { "a" => 1 }) { [200, {}, ["first"]] }
    assert_equal first, other.answer("key", "abc", { "a" => 1 }) { flunk }
    assert_raises(Server::Problem) { other.answer("key", "abc", { "a" => 2 }) { flunk } }
  end

  def test_while_it_is_away
    shared = store
    stop
    assert_operator Server::CheckoutPace.new(shared).count("key"), :<=, 1
    assert_equal [200, {}, ["own"]], Server::AnsweredOnce.new(shared).answer("key", "abc", {}) { [200, {}, ["own"]] }
  end

  # In memory each has its own.
  def test_without_redis
    Server::Shared.instance_variable_set(:@store, nil)
    assert_kind_of ActiveSupport::Cache::MemoryStore, Server::Shared.store
  end
end
