# frozen_string_literal: true

module Server
  # Records as the contract shows them.
  module Documents
    class << self
      # @return [Hash] the Setup of the contract
      def setup
        ActiveRecord::Base.transaction do
          store = Records::Store.current
          { revision: store&.revision.to_i, store: store && store(store), opening_cart: store&.opening_cart,
            zones: Records::Zone.order(:position, :id).includes(:areas).map { |zone| zone(zone) },
            methods: Records::ShippingMethod.order(:position, :id).map { |method| method(method) },
            rates: Records::Rate.order(:position, :id).map { |rate| rate(rate) }, history: History.heads }
        end
      end

      def store(store)
        store.document.merge("currency_exponent" => store.money.exponent, "lock_version" => store.lock_version)
      end

      def zone(zone) = zone.document.merge("lock_version" => zone.lock_version)
      def method(method) = method.document.merge("lock_version" => method.lock_version)
      def rate(rate) = rate.document.merge("lock_version" => rate.lock_version)

      def product(product)
        product.document(Records::Store.current.money).except("size")
               .merge(product.slice(:id, *Records::Product::SIDES, :lock_version))
      end
    end
  end
end
