# frozen_string_literal: true

require_relative "../support/server"

# The library that reads the contract looks parts of it up when they are first wanted.
class ContractThreadsTest < Minitest::Test
  BODIES = { "RatePatch" => { "lock_version" => 0, "plan" => { "schedule" => { "kind" => "flat", "amount" => "1.00" } } },
             "StorePatch" => { "lock_version" => 0, "name" => "Quay" } }.freeze
  PARTS = %i[@document @schemas @source].freeze

  def teardown = Server::Contract.prepare

  # Threads that give way to each other all the time, at a contract nobody has read yet: what is right is never refused.
  def test_the_first_requests_of_several_threads
    giving_way = TracePoint.new(:call) { Thread.pass if rand < 0.05 }
    giving_way.enable
    4.times do
      PARTS.each { |name| Server::Contract.remove_instance_variable(name) if Server::Contract.instance_variable_defined?(name) }
      threads = BODIES.to_a.cycle.first(8).map { |name, body| Thread.new { refusal(name, body) } }
      assert_empty threads.filter_map(&:value)
    end
  ensure
    giving_way.disable
  end

  def refusal(name, body)
    Server::Contract.check(name, body)
    nil
  rescue StandardError => e
    e.message
  end
end
