# frozen_string_literal: true

# The whole application in this process, on a database of its own, asked as a browser asks it. An answer that is a
# refusal ends the benchmark.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "tmpdir"
require_relative "sizes"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
require_relative "../server/boot"
require "rack/test"

# Requests, each of which has to be answered.
class Stack
  include Rack::Test::Methods

  # With HTTP/1.0 it would seem to come through a proxy.
  HEADERS = { "HTTP_HOST" => "localhost", "SERVER_PROTOCOL" => "HTTP/1.1", "CONTENT_TYPE" => "application/json" }.freeze

  def app = @app ||= Rack::Builder.parse_file(File.join(Server::ROOT, "server/config.ru"))

  # @param verb [Symbol]
  # @param path [String]
  # @param body [Object, nil] for JSON
  # @return [String] the answer's body
  def ask(verb, path, body = nil)
    verb == :get ? get(path, {}, HEADERS) : public_send(verb, path, JSON.generate(body), HEADERS)
    abort "#{verb} #{path}: #{last_response.status} #{last_response.body[0, 300]}" unless last_response.successful?

    last_response.body
  end

  # @return [Object] the same, parsed
  def json(...) = JSON.parse(ask(...))
end
