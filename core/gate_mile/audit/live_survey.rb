# frozen_string_literal: true

module GateMile
  # What carriers can be asked about single goods: each product alone, by every live rate, to a sample address of its
  # zone. Nobody is asked here; the answers are what the audit of live rates looks at.
  class LiveSurvey
    # Goods that are asked about, at most.
    MOST = 60
    # One product alone. requests: {CarrierRequest}s, one for each carrier of the rate.
    Case = Struct.new(:rate, :article, :requests)

    # @param book [Book]
    def initialize(book)
      @book = book
      @samples = book.zones.samples
      @alone = Alone.new(book)
    end

    # @return [Array<CarrierRequest>] each once
    def requests = cases.flat_map(&:requests).uniq

    # @return [Array<Case>] those of which anything is asked
    def cases
      @cases ||= rates.flat_map do |rate|
        goods.filter_map { |article| of(rate, article) }
      end
    end

    # @param rate [Rate]
    # @return [Address, nil] where it is asked for
    def place(rate) = @samples.of(@book.zone(rate.zone))

    private

    def rates = @book.rates_in_use.select { |rate| rate.live && place(rate) }
    def goods = @goods ||= Alone.sample(@book, MOST)

    def of(rate, article)
      visit = Visit.new(basket: @alone.basket(article), destination: Destination.new(place(rate)))
      requests = @book.program(rate).requests(visit)
      Case.new(rate, article, requests) if requests.any?
    end
  end
end
