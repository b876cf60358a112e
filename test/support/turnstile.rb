# frozen_string_literal: true

# Stands before the application and lets requests wait, or turns them away, as a slow line or a broken server would.
class Turnstile
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
  end

  def call(env)
    rule = @lock.synchronize { @rules.find { |one| one.for?(env) } }
    return @app.call(env) if rule.nil?

    @lock.synchronize { @came << "#{env["REQUEST_METHOD"]} #{env["PATH_INFO"]}" }
    rule.held&.pop
    return @app.call(env) if rule.status.nil?

    [rule.status, { "content-type" => rule.body ? "application/json" : "text/plain" }, [rule.body || "no"]]
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
  end

  private

  def add(rule)
    @lock.synchronize do
      @came = []
      @rules = [rule]
    end
  end
end
