# frozen_string_literal: true

require "stringio"

module Server
  module Routes
    # Several questions in one request, each answered in a line of its own as soon as it is: what a page asks after an
    # edit, or when it is opened. Only what reads is asked so.
    module Several
      # Method and address of what can be asked.
      ASKED = { true => %w[/api/bench /api/gates /api/lines /api/landing],
                false => %w[/api/findings /api/proofs/state /api/releases/state /api/class-prices] }.freeze
      QUERY = /\A[\w.:%=&+~-]{0,2000}\z/
      # What a request brings along that is about its own body and address.
      OWN = /\A(?:sinatra\.|rack\.request\.|CONTENT_LENGTH\z)/
      private_constant :ASKED, :QUERY, :OWN

      def self.registered(app)
        app.post "/api/several" do
          asks = body_of("Several")["asks"]
          asks.each_with_index { |ask, at| Several.check(ask, at) }
          content_type "application/x-ndjson"
          headers "cache-control" => "no-store"
          Several.answers(self.class, env, asks)
        end
      end

      class << self
        # @param ask [Hash] path and body, as the contract has it
        # @param at [Integer] its place
        # @return [void]
        # @raise [Problem] 422 where it is nothing that can be asked here
        def check(ask, at)
          path, query = ask["path"].split("?", 2)
          return if ASKED.fetch(ask.key?("body")).include?(path) && QUERY.match?(query.to_s)

          raise Problem.at("/asks/#{at}/path", :not_one_of, choices: ASKED.values.flatten.join(", "))
        end

        # @param app [#call] that answers each by itself
        # @param env [Hash] of Rack
        # @param asks [Array<Hash>]
        # @return [Enumerator<String>] lines of JSON, in the order of the questions; none is worked on once nobody
        #   waits for it
        def answers(app, env, asks)
          effort = Effort.new(env)
          Enumerator.new do |out|
            asks.each_with_index do |ask, at|
              break if effort.gone?

              status, _, body = app.call(asked(env, ask))
              text = body.to_enum.to_a.join
              out << "{\"at\":#{at},\"status\":#{status},\"body\":#{text.empty? ? "null" : text}}\n"
            end
          end
        end

        private

        def asked(env, ask)
          path, query = ask["path"].split("?", 2)
          env.reject { |name, _| OWN.match?(name) }.merge(
            "REQUEST_METHOD" => ask.key?("body") ? "POST" : "GET", "PATH_INFO" => path, "QUERY_STRING" => query.to_s,
            "rack.input" => StringIO.new(ask.key?("body") ? JSON.generate(ask["body"]) : "")
          )
        end
      end
    end
  end
end
