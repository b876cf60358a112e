# frozen_string_literal: true

module Server
  # What a shop builds its address form and its delivery page from.
  module DeliveryPage
    class << self
      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutMethods of the contract
      def methods(ground)
        book = ground.book
        used = book.rates_in_use.map(&:method_id).uniq
        list = book.methods_in_order.select { |one| used.include?(one.id) }
        { release: ground.number, methods: list.map { |one| { code: one.code, name: one.name, promise: one.promise, kind: one.kind } } }
      end

      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutServed of the contract
      def served(ground)
        @served = [ground.number, Routes::Places.served(ground.book.zones)] unless @served&.first == ground.number
        { release: ground.number, **@served.last }
      end

      # Offers that say something to everybody, as their mileposts say it before anything is in the cart.
      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutOffers of the contract
      def offers(ground)
        book = ground.book
        open = book.offers.select { |offer| offer.active && offer.milepost&.active && !offer.period.outside(ground.now) }
        { release: ground.number, currency: book.currency.code, offers: open.map { |one| offer(one, book) } }
      end

      private

      def offer(one, book)
        zones = (one.zones || book.zones.select(&:active).map(&:id)).filter_map { |id| book.zone(id)&.name }
        methods = (one.method_ids || book.method_ids).filter_map { |id| book.shipping_method(id)&.code }
        { texts: one.milepost.texts, link: one.milepost.link, measure: one.threshold&.measure,
          threshold: one.threshold&.from&.to_s, zones: zones, methods: methods }
      end
    end
  end
end
