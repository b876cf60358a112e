# frozen_string_literal: true

module GateMile
  # What a proof's cart is to get. What is nil, or empty, is not looked at.
  #
  # status: of the {Quote}, as a symbol; zone: id; methods: {ExpectedMethod}s; only: whether no other method may be
  # offered; ordered: whether those that are offered stand in this order; text: the merchant's words to the shopper.
  class Expected < Value.of(:status, :zone, :methods, :only, :ordered, :text)
    STATUSES = %i[priced nothing_available not_served undetermined nothing_ships empty].freeze
    METHODS = 100
    TEXT = 300

    class << self
      # What a cart gets is what it is to get from now on.
      # @param quote [Quote]
      # @return [Expected]
      def of(quote)
        return beside_live(quote) if quote.method_quotes.any? { |one| waiting?(one) }

        offered = quote.method_quotes.select(&:available?)
        new(status: quote.status, zone: quote.landing&.zone&.id, only: true, ordered: false, text: quote.text,
            methods: offered.map { |one| ExpectedMethod.of(one) })
      end

      private

      # Carriers that were not asked leave open what is offered beside the merchant's own prices.
      def beside_live(quote)
        own = quote.method_quotes.reject(&:live?)
        new(zone: quote.landing&.zone&.id, only: false, ordered: false,
            methods: own.map { |one| ExpectedMethod.of(one).with(marks: []) })
      end

      def waiting?(one) = one.causes.any? { |cause| cause.code == :live_waiting }
    end

    # What it gets now takes the place of what it does not get any more; what was looked at is still looked at, and
    # bounds that hold stay bounds.
    # @param quote [Quote]
    # @return [Expected]
    def accepting(quote)
      found = Expected.of(quote)
      with(status: status && found.status, zone: zone && found.zone, text: text && found.text,
           methods: accepted(quote, found.methods))
    end

    private

    def accepted(quote, found)
      now = quote.method_quotes.to_h { |one| [one.method_id, one] }
      kept = methods.map { |one| one.accepting(now[one.method_id]) }
      more = only ? found.reject { |one| methods.any? { |other| other.method_id == one.method_id } } : []
      all = kept + more
      ordered ? all.sort_by.with_index { |one, at| [place(found, one), at] } : all
    end

    def place(found, one) = found.index { |other| other.method_id == one.method_id } || found.size
  end
end
