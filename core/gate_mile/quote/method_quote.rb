# frozen_string_literal: true

module GateMile
  # What one method of a zone comes to for one cart.
  #
  # method, rate: ids; status: :available, :unavailable or :incomplete (something the merchant has not said yet);
  # price: {Money}, only where available; cost: {Money} that it costs the merchant, nil where that is not said;
  # marks: e.g. [:cheapest]; causes: all of them, where not available; outcomes: of the offers that name it, as
  # {Settling::Outcome}; messages: that rules attach; provisional: facts that the cart does not carry and that may
  # change the price; unsettled: those of them that may take the method away or change what it costs; arrives: the first
  # and the last {Date}, days: [least, most] business days, both nil where that is not known; duty: {Money} that is due
  # at the border, with whether it is included, or nil; live: age in seconds of the carriers' answer that counts, or
  # nil.
  class MethodQuote < Value.of(:method, :rate, :code, :name, :promise, :status, :price, :cost, :marks, :causes,
                               :outcomes, :messages, :provisional, :unsettled, :reckoning, :arrives, :days, :duty,
                               :live)
    # @return [Boolean]
    def available? = status == :available

    # @return [Money, nil] what the merchant is left with of the price, where the cost is known
    def left = price && cost && (price - cost)

    # @return [Array<Offer>] those that took something off
    def acted = outcomes.select { |outcome| outcome.state == :acted }.map(&:offer)

    # @return [Hash] for JSON
    def dump
      { "method" => method, "rate" => rate, "code" => code, "name" => name, "promise" => promise,
        "status" => status.to_s, "price" => price&.to_s, "cost" => cost&.to_s, "left" => left&.to_s,
        "marks" => marks.map(&:to_s),
        "causes" => causes.map(&:dump), "offers" => acted.map(&:id), "messages" => messages,
        "provisional" => provisional.map(&:to_s), "arrives" => arrives&.map(&:iso8601), "days" => days,
        "duty" => duty_dump, "live" => live, "reckoning" => reckoning.map(&:dump) }
    end

    private

    def duty_dump = duty && { "amount" => duty.first.to_s, "included" => duty.last }
  end
end
