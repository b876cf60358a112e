# frozen_string_literal: true

require "timeout"

module Server
  module Carriers
    # Asks one carrier by the carrier contract (docs/formats/carriers.md) and classifies what comes back.
    class Client
      LIMIT = 524_288
      # Seconds below which nobody is asked again.
      LEAST = 0.05

      # Raised inside when the time is over, wherever the call is.
      class Late < StandardError
      end
      private_constant :Late

      # @param carrier [Records::Carrier]
      # @param patience [Float] seconds that an answer may take
      def initialize(carrier, patience)
        @carrier = carrier
        @until = now + patience
      end

      # @param request [GateMile::CarrierRequest]
      # @return [GateMile::Reply]
      def ask(request)
        Answer.new(request).read(fetched(:post, "/quotes", JSON.generate(GateMile::Documents.write(request)),
                                         guarded: true))
      rescue Stoplight::Error::RedLight
        GateMile::Reply.failed(:silent, "It has failed several times and is left alone for a while")
      rescue Trouble => e
        GateMile::Reply.failed(e.status, e.said)
      end

      # @return [Array<Hash>] code and name of each service
      # @raise [Trouble]
      def services
        body = fetched(:get, "/services", nil)
        Answer.refuse(*body) if body.is_a?(Array)
        list = Answer.parse(body).fetch("services")
        list.map { |item| { "code" => item.fetch("service").to_s[0, 40], "name" => item.fetch("name").to_s[0, 60] } }
      rescue KeyError, NoMethodError, TypeError
        raise Trouble.new(:unusable, "Its answer is not of the carrier contract")
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      def left = @until - now

      # @param guarded [Boolean] behind the carrier's breaker
      # @return [String, Array] the body, or the status and the body where it is not 200
      def fetched(verb, path, body, guarded: false)
        raise Trouble.new(:silent, "No address is set") if @carrier.address.nil?

        status, text = Lines.open(@carrier.address, left) do |connection|
          if guarded
            Lines.guarded(@carrier) do
              answered(connection, verb, path, body)
            end
          else
            answered(connection, verb, path, body)
          end
        end
        status == 200 ? text : [status, text]
      end

      def answered(connection, verb, path, body)
        status, text = call(connection, verb, path, body)
        raise Trouble.new(:silent, "It answers with #{status}") if status >= 500

        [status, text]
      end

      # Asking twice is safe: a question changes nothing. Once more where the connection was refused or lost. The whole
      # call is under one deadline: headers that come drop by drop are late too.
      def call(connection, verb, path, body)
        tries ||= 0
        raise Late unless left.positive?

        Timeout.timeout(left, Late) { Outgoing.guarded { read(connection, verb, path, body) } }
      rescue Outgoing::Refused => e
        raise Trouble.new(:silent, e.message, own: true)
      rescue Late, Faraday::TimeoutError
        raise Trouble.new(:silent, "No answer in time")
      rescue Faraday::ConnectionFailed => e
        tries += 1
        retry if tries < 2 && left > LEAST && !e.wrapped_exception.is_a?(Timeout::Error)
        raise Trouble.new(:silent, "No connection")
      rescue Faraday::Error, Zlib::Error => e
        raise unreadable(e)
      end

      # What breaks while an answer is read is nonsense; everything else is silence.
      def unreadable(error)
        return Trouble.new(:unusable, "It can't be unpacked") if error.is_a?(Zlib::Error)

        Trouble.new(:silent, Answer.said(error.message))
      end

      def read(connection, verb, path, body)
        text = +""
        response = connection.run_request(verb, @carrier.address + path, body, headers) do |sent|
          sent.options.timeout = sent.options.open_timeout = [left, LEAST].max
          sent.options.on_data = proc do |piece, size|
            raise Trouble.new(:unusable, "More than #{LIMIT / 1024} KB") if size > LIMIT

            text << piece
          end
        end
        [response.status, text.force_encoding(Encoding::UTF_8)]
      end

      # Plain text is asked for, and what comes is taken as it is, whatever its headers say of how it is packed.
      def headers
        { "content-type" => "application/json", "accept" => "application/json", "accept-encoding" => "identity",
          "authorization" => "Bearer #{@carrier.secret}", "x-account" => @carrier.account.to_s }
      end
    end
  end
end
