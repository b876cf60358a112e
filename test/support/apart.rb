# frozen_string_literal: true

require "drb/unix"
require "json"
require "net/http"
require "rbconfig"

# Starts the application in a process of its own (application.rb), and asks it over HTTP.
module Apart
  # A Rack application that hands every request on to it.
  class Relay
    KINDS = { "GET" => Net::HTTP::Get, "POST" => Net::HTTP::Post, "PATCH" => Net::HTTP::Patch, "PUT" => Net::HTTP::Put,
              "DELETE" => Net::HTTP::Delete, "OPTIONS" => Net::HTTP::Options, "HEAD" => Net::HTTP::Head }.freeze

    def initialize(origin) = @origin = URI(origin)

    def call(env)
      query = env["QUERY_STRING"].to_s
      asked = KINDS.fetch(env["REQUEST_METHOD"]).new(query.empty? ? env["PATH_INFO"] : "#{env["PATH_INFO"]}?#{query}")
      asked["accept-encoding"] = "identity"
      env.each { |name, value| asked[name.delete_prefix("HTTP_").tr("_", "-")] = value if name.start_with?("HTTP_") }
      asked["content-type"] = env["CONTENT_TYPE"] if env["CONTENT_TYPE"]
      body = env["rack.input"]&.read.to_s
      asked.body = body unless body.empty?
      response = Net::HTTP.start(@origin.host, @origin.port, read_timeout: 60) { |http| http.request(asked) }
      [response.code.to_i, response.to_hash.transform_values { |list| list.size == 1 ? list.first : list }, [response.body.to_s]]
    end
  end

  class << self
    # @return [String]
    attr_reader :origin
    # @return [Application] as the other process has it
    attr_reader :application

    # @return [void] it runs until this process ends
    def start
      held, @lifeline = IO.pipe
      said, write = IO.pipe
      spawn(RbConfig.ruby, "-Itest", "-Icore", File.join(__dir__, "application.rb"), in: held, out: write)
      [held, write].each(&:close)
      @said = said
    end

    # @return [String] the file of its database
    def ready
      place = JSON.parse(@said.gets || abort("The application did not start."))
      @origin = place["origin"]
      DRb.start_service
      @application = DRbObject.new_with_uri(place["control"])
      place["database"]
    end

    def relay = @relay ||= Relay.new(origin)
  end
end
