# frozen_string_literal: true

module GateMile
  # Findings about one rate, by the name that the merchant knows it by. Who includes it has the book in `@book`.
  module OfRates
    private

    # @param code [Symbol]
    # @param harm [Symbol]
    # @param rate [Rate]
    # @param numbers [Hash] what its sentence tells
    # @return [Finding]
    def finding(code, harm, rate, **numbers)
      Finding.new(code: code, harm: harm, zone: rate.zone, numbers: { rate: name_of(rate), **numbers },
                  setting: { kind: "rate", id: rate.id })
    end

    # @param rate [Rate]
    # @return [String]
    def name_of(rate) = rate.name || @book.shipping_method(rate.method_id).name
  end
end
