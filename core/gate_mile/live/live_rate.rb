# frozen_string_literal: true

module GateMile
  # How a rate asks carriers.
  #
  # services: [carrier id, service code], in the merchant's order; answer: which one counts, one of ANSWERS; own: what
  # the rate's own plan is for: "fallback" (where the ladder says so) or "instead" (it counts wherever it gives a
  # price); adjustment: {Adjustment} whose handling is the markup; ladder: {Fallback}s by trouble; promise: "carrier" or
  # "merchant", whose days are told.
  class LiveRate < Value.of(:services, :answer, :own, :adjustment, :ladder, :promise)
    ANSWERS = %w[cheapest fastest first].freeze
    OWN = %w[fallback instead].freeze
    PROMISES = %w[carrier merchant].freeze
    # In the order in which the ladder is read.
    TROUBLES = %w[silent refused unusable].freeze

    # What happens in trouble. kind: :none (not available), :amount or :plan.
    class Fallback < Value.of(:kind, :amount)
      KINDS = %w[none amount plan].freeze
      NONE = new(kind: :none)

      # @param reader [Reader]
      # @param currency [Currency]
      # @return [Fallback]
      def self.read(reader, currency)
        kind = reader.choice("kind", among: KINDS)
        fallback = new(kind: kind&.to_sym, amount: (reader.money("amount", currency) if kind == "amount"))
        reader.finish
        fallback
      end

      # @return [Hash] for JSON
      def dump = { "kind" => kind.to_s, "amount" => amount&.to_s }.compact
    end

    class << self
      # @param reader [Reader]
      # @param currency [Currency]
      # @return [LiveRate]
      def read(reader, currency)
        services = reader.list("services", most: 40) { |item| [item.text("carrier"), item.text("service", most: 40)] }
        reader.problem("services", :no_service) if services.empty? && reader.given?("services")
        live = new(services: services, answer: reader.choice("answer", among: ANSWERS, default: "cheapest"),
                   own: reader.choice("own", among: OWN, default: "fallback"),
                   adjustment: Adjustment.read(reader, currency), ladder: ladder(reader, currency),
                   promise: reader.choice("promise", among: PROMISES, default: "carrier"))
        reader.finish
        live
      end

      private

      def ladder(reader, currency)
        given = reader.object("ladder", required: false)
        found = TROUBLES.to_h do |trouble|
          step = given&.object(trouble, required: false)
          [trouble.to_sym, step ? Fallback.read(step, currency) : Fallback::NONE]
        end
        given&.finish
        found
      end
    end

    # Which answer counts: by price, then the sooner one, then the higher in the list; or by days first; or by the list.
    # @param answers [Array] in any order
    # @yieldparam one [Object] of them
    # @yieldreturn [Array] its {Money}, its days or nil, and its place in the list of services
    # @return [Object, nil]
    def first_of(answers)
      answers.min_by do |one|
        price, days, at = yield(one)
        latest = days&.last || Float::INFINITY
        case answer
        when "cheapest" then [price.minor, latest, at]
        when "fastest" then [latest, price.minor, at]
        else [at]
        end
      end
    end

    # @return [Boolean] whether it needs the rate's own plan
    def plan_in_ladder? = ladder.each_value.any? { |fallback| fallback.kind == :plan }

    # @return [Hash] for JSON
    def dump
      { "services" => services.map { |carrier, service| { "carrier" => carrier, "service" => service } },
        "answer" => answer, "own" => own, **adjustment.dump, "promise" => promise,
        "ladder" => ladder.to_h { |trouble, fallback| [trouble.to_s, fallback.dump] } }.compact
    end
  end
end
