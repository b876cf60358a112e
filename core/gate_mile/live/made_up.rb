# frozen_string_literal: true

module GateMile
  # Carriers that all answer alike, whatever they are asked: a carriers' port that asks nobody. What a live rate makes
  # of an answer, and of each kind of trouble, shows by it.
  class MadeUp
    ANSWERED = "answered"
    KINDS = [ANSWERED, *LiveRate::TROUBLES].freeze
    # Minor units of each parcel.
    PRICE = 1000
    private_constant :PRICE

    # @param kind [String] one of KINDS
    def initialize(kind)
      @kind = kind
    end

    # @param requests [Array<CarrierRequest>]
    # @return [Hash{CarrierRequest => Reply}]
    def answers(requests) = requests.to_h { |request| [request, reply(request)] }

    private

    def reply(request)
      return Reply.failed(@kind.to_sym, "Made up") unless @kind == ANSWERED

      prices = request.parcels.map { |parcel| Money.new(PRICE * parcel.count, request.currency) }
      said = ServiceAnswer.new(status: :ok, prices: prices)
      Reply.new(status: :answered, services: request.services.to_h { |code| [code, said] }, age: 0)
    end
  end
end
