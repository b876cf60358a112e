# frozen_string_literal: true

require "erb"
require "json"
require_relative "tariffs"

# Three made-up carriers behind real HTTP, speaking the carrier contract (docs/formats/carriers.md), each under its own
# path. A page, and POST /control, make one slow, down, wrong, empty or flapping, so that trouble can be tried out.
class Carriers
  MODES = %w[well slow down wrong empty flapping html negative currency huge redirect half dripping
             refusing].freeze
  SLOW = 3.0

  def initialize
    @page = ERB.new(File.read(File.join(__dir__, "page.erb")))
    @modes = Hash.new("well")
    @delays = Hash.new(0)
    @asked = Hash.new(0)
  end

  # How each carrier behaves; tests set it without a request.
  attr_reader :modes, :delays

  # @param env [Hash] of Rack
  # @return [Array] a Rack response
  def call(env)
    verb = env["REQUEST_METHOD"]
    _, first, second = env["PATH_INFO"].split("/")
    return html if first.nil?
    return control(env) if verb == "POST" && first == "control"
    return text(404, "no such carrier") unless Tariffs::CARRIERS.key?(first)

    door = { %w[GET services] => :services, %w[POST quotes] => :quotes }[[verb, second]]
    return text(404, "nothing here") unless door

    @asked[first] += 1
    sleep @delays[first] if @delays[first].positive?
    trouble = trouble(first)
    return trouble if trouble
    return text(401, "who are you?") if env["HTTP_AUTHORIZATION"].to_s.delete_prefix("Bearer ").empty?

    send(door, first, env)
  end

  private

  def quotes(carrier, env)
    asked = JSON.parse(env["rack.input"].read)
    json(200, { "services" => changed(carrier, Tariffs.quote(carrier, asked, env["HTTP_X_ACCOUNT"])) })
  rescue JSON::ParserError, KeyError => e
    text(422, e.message)
  end

  def trouble(carrier)
    case @modes[carrier]
    when "slow" then sleep(SLOW)
    when "down" then return text(503, "closed")
    when "flapping" then return text(503, "closed") if @asked[carrier].odd?
    when "html" then return [200, { "content-type" => "text/html" }, ["<h1>Welcome</h1>"]]
    when "huge" then return [200, { "content-type" => "application/json" }, Array.new(10) { " " * 1_048_576 }]
    when "redirect" then return [302, { "location" => "/" }, []]
    when "half" then return [200, { "content-type" => "application/json" }, ['{"services": [{"serv']]
    when "dripping" then return [200, { "content-type" => "application/json" }, drips]
    when "refusing" then return text(422, "not today")
    end
    nil
  end

  # One byte at a time, for longer than anybody waits.
  def drips
    Enumerator.new do |out|
      100.times do
        sleep 0.1
        out << " "
      end
    end
  end

  # Answers that have the form of one and are none.
  def changed(carrier, answers)
    case @modes[carrier]
    when "empty" then []
    when "wrong" then answers.map { |one| one.merge("prices" => ["0.00"]) }
    when "negative" then answers.map { |one| one.merge("prices" => ["-4.00"]) }
    when "currency" then answers.map { |one| one.merge("currency" => "XAU") }
    else answers
    end
  end

  def services(carrier, _env)
    _, _, list = Tariffs::CARRIERS.fetch(carrier)
    json(200, { "services" => list.map { |one| { "service" => one.code, "name" => one.name } } })
  end

  def control(env)
    body = env["rack.input"].read
    form = env["CONTENT_TYPE"].to_s.start_with?("application/x-www-form-urlencoded")
    asked = form ? URI.decode_www_form(body).to_h : JSON.parse(body)
    known = Tariffs::CARRIERS.key?(asked["carrier"]) && MODES.include?(asked["mode"])
    return text(422, "carrier and mode, one of #{MODES.join(", ")}") unless known

    @modes[asked["carrier"]] = asked["mode"]
    @delays[asked["carrier"]] = asked["delay"].to_f
    form ? [303, { "location" => "/" }, []] : json(200, @modes)
  end

  def html
    carriers = Tariffs::CARRIERS.transform_values(&:first)
    page = @page.result_with_hash(carriers: carriers, modes: @modes, delays: @delays, all: MODES)
    [200, { "content-type" => "text/html; charset=utf-8" }, [page]]
  end

  def json(status, value) = [status, { "content-type" => "application/json" }, [JSON.generate(value)]]
  def text(status, said) = [status, { "content-type" => "text/plain" }, [said]]
end
