# frozen_string_literal: true

require "drb"

# Stands before the application and lets requests wait, or turns them away, as a slow line or a broken server would.
class Turnstile
  include DRb::DRbUndumped

  Rule = Struct.new(:verb, :path, :held, :status, :body) do
    def for?(env) = env["REQUEST_METHOD"] == verb && path.match?(env["PATH_INFO"])
  end

  # @return [Array<String>] "PATCH /api/zones/uk" of every request that some rule was for, as they came
  attr_reader :came

  def initialize(app)
    @app = app
    @came = []
    @rules = []
    @lock = Mutex.new
    @left = ConditionVariable.new
    @inside = 0
  end

  def call(env)
    @lock.synchronize { @inside += 1 }
    pass(env)
  ensure
    @lock.synchronize do
      @inside -= 1
      @left.broadcast
    end
  end

  # Until every request is answered, and no longer than a minute.
  def wait
    over = Process.clock_gettime(Process::CLOCK_MONOTONIC) + 60
    @lock.synchronize { @left.wait(@lock, 1) until @inside.zero? || Process.clock_gettime(Process::CLOCK_MONOTONIC) > over }
    nil
  end

  # Requests wait until {#open}.
  # @param verb [String]
  # @param path [Regexp]
  def hold(verb, path) = add(Rule.new(verb, path, Queue.new, nil))

  # Requests are answered with nothing but a status.
  def refuse(verb, path, status) = add(Rule.new(verb, path, nil, status))

  # Requests are answered with something that is not of the contract.
  # @param body [String] JSON
  def confuse(verb, path, body) = add(Rule.new(verb, path, nil, 200, body))

  # Lets pass what waits, and everything from now on.
  def open
    @lock.synchronize do
      @rules.each { |rule| rule.held&.close }
      @rules = []
    end
    nil
  end

  private

  def pass(env)
    # If a rule covers one of several combined questions, the client has to send them one by one.
    return [404, {}, []] if env["PATH_INFO"] == "/api/several" && together?(env)

    rule = @lock.synchronize { @rules.find { |one| one.for?(env) } }
    return @app.call(env) if rule.nil?

    @lock.synchronize { @came << "#{env["REQUEST_METHOD"]} #{env["PATH_INFO"]}" }
    rule.held&.pop
    return @app.call(env) if rule.status.nil?

    [rule.status, { "content-type" => rule.body ? "application/json" : "text/plain" }, [rule.body || "no"]]
  end

  def together?(env)
    text = env["rack.input"].read.to_s
    env["rack.input"] = StringIO.new(text)
    asked = JSON.parse(text)["asks"].map { |ask| { "REQUEST_METHOD" => ask["body"] ? "POST" : "GET", "PATH_INFO" => ask["path"].split("?").first } }
    @lock.synchronize { asked.any? { |ask| @rules.any? { |rule| rule.for?(ask) } } }
  end

  def add(rule)
    @lock.synchronize do
      @came = []
      @rules = [rule]
    end
    nil
  end
end
