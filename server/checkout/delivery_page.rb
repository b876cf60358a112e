# frozen_string_literal: true

module Server
  # What a shop builds its address form and its delivery page from.
  module DeliveryPage
    class << self
      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutMethods of the contract
      def shipping_methods(ground)
        book = ground.book
        used = book.rates_in_use.map(&:method_id).uniq
        list = book.methods_in_order.select { |one| used.include?(one.id) }
        { release: ground.number, methods: list.map { |one| shipping_method(one) } }
      end

      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutServed of the contract
      def served(ground)
        zones = ground.book.zones
        known = @served
        known = @served = [zones, countries(zones)] unless known&.first.equal?(zones)
        { release: ground.number, countries: known.last }
      end

      # @param body [Object] Address of the contract
      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutAddress of the contract
      # @raise [Problem] 422
      def address(body, ground)
        raise Problem.at("", :not_an_object) unless body.is_a?(Hash)

        reader = GateMile::Reader.new(body)
        address = GateMile::Documents.read(GateMile::Address, reader)
        raise Problem.of_invalid(GateMile::Invalid.new(reader.problems)) if reader.problems.any?

        landing = ground.book.zones.land(address)
        { release: ground.number, served: { zone: true, none: false }[landing.status],
          needs: [*landing.decides].map(&:to_s), region: landing.place&.regions&.first,
          remarks: landing.remarks }
      end

      # Offers that say something to everybody, as their mileposts say it before anything is in the cart.
      # @param ground [CheckoutQuotes::Ground]
      # @return [Hash] CheckoutOffers of the contract
      def offers(ground)
        book = ground.book
        open = book.offers.select { |offer| told?(offer, ground.now) }
        { release: ground.number, currency: book.currency.code, offers: open.map { |one| offer(one, book) } }
      end

      private

      # With what a form needs besides: the names of regions that can be chosen, and how a postcode looks.
      def countries(zones)
        all = Geography.all
        Served.of(zones)[:countries].map do |one|
          known = all[:regions].fetch(one[:country], []).to_h { |region| [region[:code], region[:name]] }
          names = one[:regions] && known.slice(*one[:regions].keys)
          { **one, names: names, postcode: all[:forms][one[:country]] }.compact
        end
      end

      def shipping_method(one) = { code: one.code, name: one.name, promise: one.promise, kind: one.kind }

      def told?(offer, now) = offer.active && offer.milepost&.active && !offer.period.outside(now)

      def offer(one, book)
        { texts: one.milepost.texts, link: one.milepost.link, **threshold(one.threshold, book.store),
          zones: (one.zones || book.zones.select(&:active).map(&:id)).map { |id| book.zone(id).name },
          methods: (one.method_ids || book.method_ids).map { |id| book.shipping_method(id).code } }
      end

      # As shoppers see it: a value in the prices of the shop.
      def threshold(threshold, store)
        return { measure: nil, threshold: nil } if threshold.nil?
        return { measure: threshold.measure, threshold: threshold.from.to_s } unless threshold.measure == "value"

        { measure: "value", threshold: threshold.in_prices(threshold.least(store), store).to_s }
      end
    end
  end
end
