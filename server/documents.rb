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

      def zone(zone)
        areas = zone.areas.sort_by(&:position).map { |area| area(area) }
        zone.document(areas: false).merge("areas" => areas, "lock_version" => zone.lock_version)
      end

      # @param whole [Boolean] all clauses, or only how many there are and the first of them
      def area(area, whole: false)
        lists = Records::Area::CLAUSES.to_h do |list|
          clauses = area[list]
          [list, { count: clauses.size, clauses: whole ? clauses : clauses.first(Records::Area::SHOWN) }]
        end
        { id: area.id, zone: area.zone_id, kind: area.kind, country: area.country, regions: area.regions,
          **lists.transform_keys(&:to_sym) }
      end

      def method(method) = method.document.merge("lock_version" => method.lock_version)
      def rate(rate) = rate.document.merge("lock_version" => rate.lock_version)

      def product(product)
        product.document(Records::Store.current.money).except("size")
               .merge(product.slice(:id, *Records::Product::SIDES, :lock_version))
      end
    end
  end
end
