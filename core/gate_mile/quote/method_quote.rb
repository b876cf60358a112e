# frozen_string_literal: true

module GateMile
  # What one method of a zone comes to for one cart.
  #
  # method, rate: ids; status: :available, :unavailable or :incomplete (something the merchant has not said yet);
  # price: {Money}, only where available; cost: {Money} that it costs the merchant, nil where that is not said;
  # marks: e.g. [:cheapest]; causes: all of them, where not available.
  class MethodQuote < Value.of(:method, :rate, :code, :name, :promise, :status, :price, :cost, :marks, :causes,
                               :reckoning)
    # @return [Boolean]
    def available? = status == :available

    # @return [Hash] for JSON
    def dump
      { "method" => method, "rate" => rate, "code" => code, "name" => name, "promise" => promise,
        "status" => status.to_s, "price" => price&.to_s, "cost" => cost&.to_s, "marks" => marks.map(&:to_s),
        "causes" => causes.map(&:dump), "reckoning" => reckoning.map(&:dump) }
    end
  end
end
