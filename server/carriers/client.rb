# frozen_string_literal: true

require "faraday"
require "faraday/net_http_persistent"
require "json_schemer"
require "stoplight"

module Server
  module Carriers
    # Asks one carrier by the carrier contract (docs/formats/carriers.md) and classifies what comes back.
    class Client
      # What a breaker does is told on the Carriers page, not on the console.
      Stoplight.default_notifiers = []

      LIMIT = 524_288
      # Calls that fail in a row until a carrier is left alone, and for how many seconds.
      FAILURES = 3
      COOL_OFF = 20
      SCHEMA = JSONSchemer.schema(JSON.parse(File.read(File.join(ROOT, "docs/formats/carrier-answer.schema.json"))))
      private_constant :SCHEMA

      # Raised inside where there is no answer to read: what it is taken for, and why.
      class Trouble < StandardError
        attr_reader :status, :said

        def initialize(status, said)
          @status = status
          @said = said
          super(said)
        end
      end

      class << self
        # One pool of connections for all carriers.
        # @return [Faraday::Connection]
        def connection
          @connection ||= Faraday.new { |to| to.adapter(:net_http_persistent, pool_size: 16) }
        end

        # @param carrier [Records::Carrier]
        # @return [Stoplight::Light]
        def breaker(carrier)
          light = Stoplight("carrier #{carrier.id} #{carrier.address}")
          light.with_threshold(FAILURES).with_cool_off_time(COOL_OFF).with_error_notifier { |_| nil }
               .with_error_handler { |error, count| counted(error, count) }
        end

        # Only silence counts: a refusal or nonsense is an answer.
        def counted(error, count)
          raise error if error.is_a?(Trouble) && error.status != :silent

          count.call(error)
        end

        # @param carrier [Records::Carrier]
        # @return [Boolean] whether it is left alone for now
        def resting?(carrier) = breaker(carrier).color == Stoplight::Color::RED
      end

      # @param carrier [Records::Carrier]
      # @param patience [Float] seconds that an answer may take
      def initialize(carrier, patience)
        @carrier = carrier
        @until = now + patience
      end

      # @param request [GateMile::CarrierRequest]
      # @return [GateMile::Reply]
      def ask(request)
        raise Trouble.new(:silent, "No address is set") if @carrier.address.nil?

        body = self.class.breaker(@carrier).run { fetched(:post, "/quotes", JSON.generate(request.dump)) }
        Answer.new(request).read(body)
      rescue Stoplight::Error::RedLight
        GateMile::Reply.failed(:silent, "It has failed several times and is left alone for a while")
      rescue Trouble => e
        GateMile::Reply.failed(e.status, e.said)
      end

      # @return [Array<Hash>] code and name of each service
      # @raise [Trouble]
      def services
        raise Trouble.new(:silent, "No address is set") if @carrier.address.nil?

        body = fetched(:get, "/services", nil)
        Answer.refuse(*body) if body.is_a?(Array)
        list = JSON.parse(body).fetch("services")
        list.map { |item| { "code" => item.fetch("service").to_s[0, 40], "name" => item.fetch("name").to_s[0, 60] } }
      rescue JSON::ParserError, KeyError, NoMethodError, TypeError
        raise Trouble.new(:unusable, "Its answer is not of the carrier contract")
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      # @return [String, Array] the body, or the status and the body where it is not 200
      def fetched(verb, path, body)
        status, text = call(verb, path, body)
        raise Trouble.new(:silent, "It answers with #{status}") if status >= 500

        status == 200 ? text : [status, text]
      end

      # Asking twice is safe: a question changes nothing. Once more where the connection was refused or lost.
      def call(verb, path, body)
        tries ||= 0
        read(verb, path, body)
      rescue Faraday::ConnectionFailed => e
        if (tries += 1) > 1 || left < 0.1 || e.wrapped_exception.is_a?(Timeout::Error)
          raise Trouble.new(:silent, "No connection")
        end

        retry
      rescue Faraday::TimeoutError
        raise Trouble.new(:silent, "No answer in time")
      rescue Faraday::Error => e
        raise Trouble.new(:silent, e.message[0, 120])
      end

      def left = @until - now

      def read(verb, path, body)
        text = +""
        response = self.class.connection.run_request(verb, @carrier.address + path, body, headers) do |sent|
          sent.options.timeout = sent.options.open_timeout = [left, 0.05].max
          sent.options.on_data = proc do |piece, size|
            raise Trouble.new(:unusable, "More than #{LIMIT / 1024} KB") if size > LIMIT
            # One that sends a byte now and then is never late by the timeout of a single read.
            raise Trouble.new(:silent, "No answer in time") unless left.positive?

            text << piece
          end
        end
        [response.status, text.force_encoding(Encoding::UTF_8)]
      end

      def headers
        { "content-type" => "application/json", "accept" => "application/json",
          "authorization" => "Bearer #{@carrier.secret}", "x-account" => @carrier.account.to_s }
      end
    end

    # Reads what a carrier answered, or says why it can't be used.
    class Answer
      # @param status [Integer] not 200
      # @param text [String] what came with it
      # @raise [Client::Trouble] :refused or :unusable
      def self.refuse(status, text)
        raise Client::Trouble.new(:refused, text.to_s.strip[0, 120].presence) if status == 422
        raise Client::Trouble.new(:unusable, "It does not accept the account") if [401, 403].include?(status)

        raise Client::Trouble.new(:unusable, "It answers with #{status}")
      end

      # @param request [GateMile::CarrierRequest]
      def initialize(request)
        @request = request
      end

      # @param found [String, Array] the body, or the status and the body where it is not 200
      # @return [GateMile::Reply]
      def read(found)
        self.class.refuse(*found) if found.is_a?(Array)

        parsed = JSON.parse(found)
        return unusable("It has not the form of an answer") unless Client.const_get(:SCHEMA).valid?(parsed)

        services = parsed["services"].to_h { |said| [said["service"], service(said)] }
        GateMile::Reply.new(status: :answered, services: services, age: 0)
      rescue JSON::ParserError
        unusable("It is not JSON")
      end

      private

      def unusable(said) = GateMile::Reply.failed(:unusable, said)

      def service(said)
        if said["status"] == "refused"
          return GateMile::ServiceAnswer.new(status: :refused, said: said["reason"].to_s[0, 120])
        end
        return bad("in #{said["currency"]}") unless said["currency"] == @request.currency.code
        return bad("for other parcels") unless said["prices"].size == @request.parcels.size

        prices = said["prices"].map { |text| GateMile::Money.parse(text, @request.currency) }
        GateMile::ServiceAnswer.new(status: :ok, prices: prices, days: said["days"])
      rescue GateMile::Malformed
        bad("no amount of this currency")
      end

      def bad(said) = GateMile::ServiceAnswer.new(status: :unusable, said: said)
    end
  end
end
