# frozen_string_literal: true

module Server
  module Records
    # A method in a zone, with its plan.
    class Rate < Base
      says :zone_id, :shipping_method_id, :name, :active, :plan, :areas, :cost, :live

      belongs_to :zone, inverse_of: :rates, optional: true
      belongs_to :shipping_method, optional: true

      words :name, required: false
      validates :zone_id, :shipping_method_id, presence: { message: Words.of(:unknown_id) }
      validates :shipping_method_id, uniqueness: { scope: :zone_id, message: Words.of(:method_in_zone) }
      validate :plans_readable, :areas_readable, :live_readable

      PLANS = %w[plan cost].freeze

      # Takes a class that goes out of the plans that price it.
      # @param id [String]
      # @return [void]
      def self.forget_class(id)
        change_plans(id) { |plan| plan.without_class(id) }
      end

      # Takes a box that goes out of the parcel policies of plans.
      # @param id [String]
      # @return [void]
      def self.forget_box(id)
        change_plans(id) { |plan| plan.without_box(id) }
      end

      # @param id [String] that stands in those that change
      # @yieldparam plan [GateMile::Plan]
      # @yieldreturn [GateMile::Plan]
      # @return [void]
      def self.change_plans(id)
        where("plan LIKE :id OR cost LIKE :id", id: "%#{sanitize_sql_like(id)}%").find_each do |rate|
          PLANS.each { |field| rate[field] &&= GateMile::Documents.write(yield(rate.value_of(field))) }
          rate.save!(validate: false) if rate.changed?
        end
      end
      private_class_method :change_plans

      # Takes a carrier that goes out of the rates that ask it; one that asks nobody any more is an ordinary rate again.
      # @param id [String]
      # @return [void]
      def self.forget_carrier(id)
        where.not(live: nil).find_each do |rate|
          left = rate.value_of("live").without_carrier(id)
          rate.live = left && GateMile::Documents.write(left)
          rate.save!(validate: false) if rate.changed?
        end
      end

      # @param field [String] plan, cost or live
      # @return [GateMile::Plan, GateMile::LiveRate, nil] what its document says
      def value_of(field)
        kind = field == "live" ? GateMile::LiveRate : GateMile::Plan
        self[field] && GateMile::Documents.parse(kind, self[field], Store.current.money)
      end

      # @return [Hash] as in a book document
      def document
        { "id" => id, "zone" => zone_id, "method" => shipping_method_id,
          **said.except("zone_id", "shipping_method_id") }
      end

      private

      def plans_readable
        PLANS.each { |field| self[field] = read(field) if self[field] }
      end

      def read(field)
        plan = GateMile::PlanOrder.parse(self[field], Store.current.money)
        known(field, plan)
        GateMile::Documents.write(plan)
      rescue GateMile::Invalid => e
        e.problems.each { |problem| tell(field, problem) }
        self[field]
      end

      def known(field, plan)
        box = ParcelBoxes.unknown(plan.parcels && GateMile::Documents.write(plan.parcels))
        errors.add(field, Words.of(:unknown_id), pointer: "/#{field}/parcels/boxes/#{box}") if box
        ids = plan.classes ? plan.classes.list.map(&:group) : []
        gone = (ids - ShippingClass.where(id: ids).pluck(:id)).first or return
        errors.add(field, Words.of(:unknown_id), pointer: "/#{field}/classes/#{ids.index(gone)}/class")
      end

      def tell(field, problem)
        errors.add(field, Words.of(problem.code, **problem.numbers), pointer: "/#{field}#{problem.pointer}")
      end

      def live_readable
        return if live.nil?

        reader = GateMile::Reader.new({ "live" => live })
        read = GateMile::Documents.read(GateMile::LiveRate, reader.object("live"), Store.current.money)
        if reader.problems.empty?
          gone = read.services.index { |id, _| !Carrier.exists?(id: id) }
          reader.problem(["live", "services", gone, "carrier"], :unknown_id) if gone
          reader.problem(%w[live ladder], :no_plan_to_fall_back_on) if plan.nil? && read.plan_in_ladder?
        end
        reader.problems.each { |one| errors.add(:live, Words.of(one.code, **one.numbers), pointer: one.pointer) }
        self.live = GateMile::Documents.write(read) if reader.problems.empty?
      end

      def areas_readable
        self.areas = areas.presence
        return if areas.nil?

        reader = GateMile::Reader.new({ "areas" => areas })
        read = reader.items("areas").map { |item| GateMile::Documents.read(GateMile::Area, item) }
        reader.problems.each do |problem|
          errors.add(:areas, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
        self.areas = read.map { |area| GateMile::Documents.write(area) } if reader.problems.empty?
      end
    end
  end
end
