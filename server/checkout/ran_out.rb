# frozen_string_literal: true

module Server
  # A quote that is ordered too late is quoted again. The shop decides what it makes of both prices, and orders with the
  # new quote.
  module RanOut
    # @param content [QuoteSeal::Content]
    # @param code [String] of the method that was to be ordered
    # @param quotes [CheckoutQuotes]
    # @param ground [CheckoutQuotes::Ground]
    # @return [Problem] 409 with the price as it was promised, as it is now, and a new quote
    def self.problem(content, code, quotes, ground)
      fresh = quotes.again(content, ground)
      now = fresh[:methods].find { |one| one[:code] == code }
      detail = "The quote held until #{content.holds_until.iso8601}. Order with the new one, or let the shopper " \
               "choose again."
      Problem.new(409, detail, errors: [{ pointer: "/quote", code: "quote_ran_out", detail: detail }],
                               promised: content.prices.fetch(code), now: now && now[:price], quote: fresh)
    rescue GateMile::Invalid
      Problem.new(409, "The quote ran out, and the shop can't quote this cart any more.")
    end
  end
end
