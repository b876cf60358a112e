# frozen_string_literal: true

module Server
  # Records as the contract shows them.
  module Documents
    class << self
      # @return [Hash] the Setup of the contract
      def setup
        Database.read do
          store = Records::Store.current
          { revision: store&.revision.to_i, beside: AuditLog.newest, store: store && store(store),
            opening_cart: store&.opening_cart,
            zones: Records::Zone.order(:position, :id).includes(:areas).map { |zone| zone(zone) },
            methods: Records::ShippingMethod.order(:position, :id).map { |method| method(method) },
            rates: Records::Rate.order(:position, :id).map { |rate| rate(rate) }, **goods, **policies,
            carriers: Records::Carrier.order(:position, :id).map { |carrier| carrier(carrier) },
            boxes: Records::Box.order(:position, :id).map { |box| with_lock(box) }, history: History.heads }
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

      def product(product) = GoodsDocuments.of(Records::Product.where(id: product.id)).first
      def with_lock(record) = record.document.merge("lock_version" => record.lock_version)
      alias group with_lock
      alias coupon with_lock
      alias offer with_lock
      alias rule with_lock
      alias box with_lock

      def proof(record) = ProofDocuments.proof(record)

      # All but the secret: only whether there is one.
      def carrier(carrier)
        carrier.document.merge("address" => carrier.address, "account" => carrier.account,
                               "has_secret" => carrier.secret.present?, "secret_lost" => carrier.secret_lost?,
                               "lock_version" => carrier.lock_version)
      end

      def tax_class(item) = item.document.merge("lock_version" => item.lock_version)

      def shipping_class(item)
        { "description" => nil, "treatments" => [] }.merge(item.document, "lock_version" => item.lock_version)
      end

      # @param known [Hash, nil] what each treatment sits on, where it is known already
      def treatment(treatment, known: nil)
        known ||= targets(treatment.targets)
        treatment.document.merge("lock_version" => treatment.lock_version,
                                 "classes" => known[:classes].fetch(treatment.id, []),
                                 "products" => known[:products].fetch(treatment.id, 0))
      end

      private

      def policies
        BookDocument::POLICIES.to_h do |list, model|
          [list.to_sym, model.call.order(:position, :id).map { |record| with_lock(record) }]
        end
      end

      # What the setup tells of goods: all but the catalogue itself.
      def goods
        known = targets(Records::TreatmentTarget)
        classes = Records::ShippingClass.order(:position, :id).includes(:targets)
        { classes: classes.map { |item| shipping_class(item) },
          tax_classes: Records::TaxClass.order(:position, :id).map { |item| tax_class(item) },
          treatments: Records::Treatment.order(:position, :id).map { |item| treatment(item, known: known) } }
      end

      # @return [Hash] classes by treatment, and how many products and variants
      def targets(relation)
        classes = relation.where.not(shipping_class_id: nil).order(:id).pluck(:treatment_id, :shipping_class_id)
        { classes: classes.group_by(&:first).transform_values { |pairs| pairs.map(&:last) },
          products: relation.unscope(:order).where.not(product_id: nil).group(:treatment_id).count }
      end
    end
  end
end
