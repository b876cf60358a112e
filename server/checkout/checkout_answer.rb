# frozen_string_literal: true

module Server
  # A quote as checkouts are told it: what there is to choose, and where there is nothing, why.
  module CheckoutAnswer
    # Causes that are the merchant's own business: they say nothing of the cart.
    STANDING = %i[rate_off method_off].freeze
    private_constant :STANDING

    class << self
      # @param quote [GateMile::Quote]
      # @param book [GateMile::Book] of its release
      # @param tax_class [String, nil] by which the tax in a price is told
      # @param detail [String] one of {CheckoutQuotes::DETAILS}
      # @return [Hash]
      def of(quote, book, tax_class: nil, detail: "methods")
        rate = book.store.tax_class(tax_class)&.rate
        available, others = quote.method_quotes.partition(&:available?)
        told = { status: quote.status, currency: book.currency.code, text: quote.text, needs: needs(quote),
                 methods: available.map { |one| price(one, rate, book.store) } }
        return told if detail == "prices"

        told[:methods].zip(available) do |shown, one|
          shown.merge!(beside(one, detail), collection(book.shipping_method(one.method_id)))
        end
        told[:zero] = book.store.zero_word if book.store.zero_word
        { **told, unavailable: others.filter_map { |one| unavailable(one) }, mileposts: Mileposts.said(book, quote),
                  refused: GateMile::Plain.of(quote.refused) }
      end

      private

      def price(one, rate, store)
        shown = { code: one.code, name: one.name, price: one.price.to_s }
        rate ? shown.merge(tax: tax(one.price, rate, store)) : shown
      end

      # What is said beside a price.
      def beside(one, detail)
        arrives = one.arrives
        { promise: one.promise, arrives: arrives && { first: arrives.first.iso8601, last: arrives.last.iso8601 },
          duty: one.duty && { amount: one.duty.first.to_s, included: one.duty.last }, marks: one.marks,
          messages: one.messages, provisional: one.provisional,
          reckoning: detail == "reckonings" ? reckoning(one) : nil }.compact
      end

      def collection(shipping_method)
        return {} unless shipping_method.kind == "collection"

        { collection: { place: shipping_method.address, hours: shipping_method.hours }.compact }
      end

      def reckoning(one) = one.reckoning.map { |step| GateMile::QuoteDocument.step(step) }

      # @return [String] what of the price is tax, or what comes on top of it where prices are without
      def tax(price, rate, store)
        part = Rational(rate.value, 100)
        share = store.prices_include_tax ? part / (1 + part) : part
        (price * share).to_s
      end

      def unavailable(one)
        causes = one.causes.map(&:code) - STANDING
        { code: one.code, name: one.name, causes: causes.uniq } if causes.any?
      end

      # @return [Array<Symbol>] fields of the address that have to be known first
      def needs(quote)
        return [] unless quote.status == :undetermined

        open = quote.method_quotes.flat_map(&:causes).select { |cause| cause.code == :address_open }
        [quote.landing.decides, *open.map { |cause| cause.numbers[:field] }].compact.uniq
      end
    end
  end
end
