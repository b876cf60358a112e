# frozen_string_literal: true

module Server
  # Records as the contract shows them.
  module Documents
    # The lists of the setup, and the tables that each is made of.
    LISTS = { zones: %w[zones areas], methods: %w[shipping_methods], rates: %w[rates],
              classes: %w[shipping_classes class_targets product_targets treatments],
              tax_classes: %w[tax_classes], treatments: %w[treatments class_targets product_targets],
              groups: %w[customer_groups], coupons: %w[coupons], offers: %w[offers], rules: %w[rules],
              boxes: %w[boxes], carriers: %w[carriers] }.freeze
    MODELS = { zones: -> { Records::Zone }, methods: -> { Records::ShippingMethod }, rates: -> { Records::Rate },
               classes: -> { Records::ShippingClass }, tax_classes: -> { Records::TaxClass },
               treatments: -> { Records::Treatment }, boxes: -> { Records::Box }, carriers: -> { Records::Carrier },
               **BookDocument::POLICIES.transform_keys(&:to_sym) }.freeze
    # The method that writes one item of each list.
    ONE = { zones: :zone, methods: :method, rates: :rate, tax_classes: :tax_class, groups: :group, coupons: :coupon,
            offers: :offer, rules: :rule, boxes: :box, carriers: :carrier }.freeze
    WHOLE = %i[classes treatments].freeze
    private_constant :LISTS, :MODELS, :ONE, :WHOLE

    class << self
      # @return [Hash] the Setup of the contract
      def setup
        Database.read { { **head, **shop, **LISTS.to_h { |list, _| [list, list(list)] } } }
      end

      # Only what edits have changed since then.
      # @param revision [Integer]
      # @param journal [String, nil] the journal's name that came with that revision
      # @return [Hash] the SetupSince of the contract; the whole setup where it is not known what has changed
      def setup_since(revision, journal)
        Database.read do
          touched = Journal.between(revision, Records::Store.revision) if journal == Journal.name
          next { whole: setup } if touched.nil?

          lists = LISTS.select { |_, tables| touched.tables.intersect?(tables) }
          { whole: nil, changes: { **head, **(touched.tables.include?("stores") ? shop : {}),
            lists: lists.to_h { |list, _| [list, changed(list, touched.rows)] } } }
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

      def head
        { revision: Records::Store.revision, journal: Journal.name, beside: AuditLog.newest, history: History.heads }
      end

      def shop
        store = Records::Store.current
        { store: store && store(store), opening_cart: store&.opening_cart }
      end

      # @param only [Array<String>, nil] ids
      # @return [Array<Hash>] one list of the setup
      def list(list, only = nil)
        records = relation(list)
        records = records.where(id: only) if only
        case list
        when :treatments
          known = targets(Records::TreatmentTarget)
          records.map { |item| treatment(item, known: known) }
        when :classes then records.map { |item| shipping_class(item) }
        else records.map { |item| public_send(ONE.fetch(list), item) }
        end
      end

      # Classes and treatments depend on more than their own rows, so these lists are returned whole.
      def changed(list, rows)
        only = WHOLE.include?(list) ? nil : LISTS[list].flat_map { |table| rows.fetch(table, []) }
        only += Records::Area.where(id: rows["areas"]).distinct.pluck(:zone_id) if list == :zones && rows["areas"]
        { ids: relation(list).ids, items: list(list, only) }
      end

      def relation(list)
        all = MODELS.fetch(list).call.order(:position, :id)
        { zones: all.includes(:areas), classes: all.includes(:targets) }.fetch(list, all)
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
