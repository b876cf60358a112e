# frozen_string_literal: true

module GateMile
  # How a rate prices the ordinary lines of a cart: they are grouped, each group has its price by a schedule, the prices
  # are combined, and what comes out is adjusted.
  #
  # group: one of {Loads}::GROUPS; schedule: of every group, nil where classes have their own; classes: {ClassPrices} or
  # nil; combine: one of COMBINE; adjustment: {Adjustment}; basis: {Basis} of its own or nil; parcels: {ParcelPolicy} of
  # its own or nil.
  class Plan < Value.of(:group, :schedule, :classes, :combine, :adjustment, :basis, :parcels)
    COMBINE = %w[sum highest lowest dearest_first].freeze

    class << self
      # @param reader [Reader]
      # @param currency [Currency]
      # @return [Plan]
      def read(reader, currency)
        group = reader.choice("group", among: Loads::GROUPS, default: "cart")
        plan = new(group: group, **prices(reader, currency, group),
                   combine: reader.choice("combine", among: COMBINE, default: "sum"),
                   adjustment: Adjustment.read(reader, currency),
                   basis: reader.object("basis", required: false)&.then { |item| Basis.own(item) },
                   parcels: ParcelPolicy.of(reader))
        reader.finish
        first_and_more(reader, plan)
        plan
      end

      # @param hash [Hash] a plan document by itself, as in a book
      # @param currency [Currency]
      # @return [Plan]
      # @raise [Invalid]
      def parse(hash, currency)
        reader = Reader.open(hash)
        plan = read(reader, currency)
        reader.problems.any? ? raise(Invalid, reader.problems) : plan
      end

      private

      def prices(reader, currency, group)
        return { classes: ClassPrices.read(reader, currency) } if group == "class"

        { schedule: reader.object("schedule")&.then { |item| Schedule.read(item, currency) } }
      end

      # The dearest first price is a matter of schedules that have one.
      def first_and_more(reader, plan)
        return unless plan.combine == "dearest_first"

        fits = plan.schedules.all? { |schedule| schedule.nil? || schedule.is_a?(FirstAdditional) }
        reader.problem("combine", :needs_first) unless fits
      end
    end

    # @return [Array] all its schedules
    def schedules = classes ? classes.all.map(&:schedule).compact : [schedule]

    # @return [Boolean] whether its price depends on how goods become parcels
    def parcelled?
      group == "parcel" || adjustment.per == "parcel" || gauges.any? { |gauge| gauge.name == "billable_weight" }
    end

    # @param shops [ParcelPolicy] the store's
    # @return [Boolean] whether it looks at the weights of goods, and nothing stands in for one that is not known
    def needs_weight?(shops)
      stands_in = (parcels || shops).unit_weight
      names = gauges.map(&:name)
      return true if names.include?("weight") && !(stands_in && group == "parcel")

      (names.include?("billable_weight") || limited_parcels?) && !stands_in
    end

    # @param lines [Array<Line>] ordinary ones, at least one
    # @param basket [Basket] that they are part of
    # @param place [Destination]
    # @return [Reading]
    def price(lines, basket, place) = PlanReading.new(self, lines, basket, place).read

    # @return [Hash] for JSON
    def dump
      { "group" => (group unless group == "cart"), "schedule" => schedule&.dump, **(classes ? classes.dump : {}),
        "combine" => (combine unless combine == "sum"), **adjustment.dump, "basis" => basis&.dump,
        "parcels" => parcels&.dump }.compact
    end

    private

    def gauges = schedules.compact.flat_map(&:gauges)
    def limited_parcels? = (group == "parcel" || adjustment.per == "parcel") && !parcels&.up_to.nil?
  end
end
