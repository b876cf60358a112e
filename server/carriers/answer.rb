# frozen_string_literal: true

require "json_schemer"

module Server
  module Carriers
    # Reads what a carrier answered, or says why it can't be used. Nothing that a carrier sends is taken on trust: what
    # is not UTF-8, stands twice or contradicts itself is unusable.
    class Answer
      # Parts of it are looked up when they are first wanted, by one thread at a time.
      LOCK = Mutex.new
      SCHEMA = JSONSchemer.schema(JSON.parse(File.read(File.join(ROOT, "docs/formats/carrier-answer.schema.json"))))
      # Characters of what a carrier says that are kept.
      SAID = 120
      private_constant :LOCK, :SCHEMA, :SAID

      class << self
        # @param status [Integer] not 200
        # @param text [String] what came with it
        # @raise [Trouble] :refused or :unusable
        def refuse(status, text)
          raise Trouble.new(:refused, said(text)) if status == 422
          raise Trouble.new(:unusable, "It does not accept the account") if [401, 403].include?(status)

          raise Trouble.new(:unusable, "It answers with #{status}")
        end

        # @param text [String] a body
        # @return [Object] parsed JSON, all of it valid UTF-8
        # @raise [Trouble] :unusable
        def parse(text)
          raise Trouble.new(:unusable, "It is not UTF-8") unless text.valid_encoding?

          parsed = JSON.parse(text, allow_duplicate_key: false)
          unreadable = GateMile::Reader.unreadable(parsed).first
          raise Trouble.new(:unusable, "It is not UTF-8") if unreadable

          parsed
        rescue JSON::ParserError => e
          raise Trouble.new(:unusable,
                            e.message.include?("duplicate key") ? "A field stands in it twice" : "It is not JSON")
        end

        # @param text [String, nil] of a carrier
        # @return [String, nil] what is shown of it
        def said(text)
          text.to_s.dup.force_encoding(Encoding::UTF_8).scrub("\uFFFD").gsub(/[[:cntrl:]]+/, " ").strip[0,
                                                                                                        SAID].presence
        end
      end

      # @param request [GateMile::CarrierRequest]
      def initialize(request)
        @request = request
      end

      # @param found [String, Array] the body, or the status and the body where it is not 200
      # @return [GateMile::Reply]
      # @raise [Trouble] :refused or :unusable
      def read(found)
        Answer.refuse(*found) if found.is_a?(Array)

        parsed = Answer.parse(found)
        raise Trouble.new(:unusable, "It has not the form of an answer") unless LOCK.synchronize do
          SCHEMA.valid?(parsed)
        end

        services = parsed["services"].group_by { |item| item["service"] }
        GateMile::Reply.new(status: :answered, age: 0, services: services.transform_values { |list| one(list) })
      end

      private

      def one(list) = list.size > 1 ? bad("named twice, and differently") : service(list.first)

      def service(item)
        if item["status"] == "refused"
          return GateMile::ServiceAnswer.new(status: :refused, said: Answer.said(item["reason"]))
        end
        return bad("in #{Answer.said(item["currency"])}") unless item["currency"] == @request.currency.code
        return bad("for other parcels") unless item["prices"].size == @request.parcels.size
        return bad("days that run backwards") if item["days"] && item["days"][1] < item["days"][0]

        prices = item["prices"].map { |text| GateMile::Money.parse(text, @request.currency) }
        GateMile::ServiceAnswer.new(status: :ok, prices: prices, days: item["days"])
      rescue GateMile::Malformed
        bad("no amount of this currency")
      end

      def bad(said) = GateMile::ServiceAnswer.new(status: :unusable, said: said)
    end
  end
end
