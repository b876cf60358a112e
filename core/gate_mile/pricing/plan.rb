# frozen_string_literal: true

module GateMile
  # How a rate prices the ordinary lines of a cart: they are grouped, each group has its price by a schedule, the prices
  # are combined, and what comes out is adjusted.
  #
  # group: one of GROUPS; schedule: of every group, nil where classes have their own; classes: {ClassPrices} or
  # nil; combine: one of COMBINE; adjustment: {Adjustment}; basis: {Basis} of its own or nil; parcels: {ParcelPolicy} of
  # its own or nil.
  class Plan < Value.of(:group, :schedule, :classes, :combine, :adjustment, :basis, :parcels)
    GROUPS = %w[cart class product unit parcel].freeze
    COMBINE = %w[sum highest lowest dearest_first].freeze

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

    # @yieldparam amount [Money] of its schedules
    # @yieldparam pointer [String] where it stands in a document
    # @yieldreturn [Money]
    # @return [Plan] with these in their place; minimum, maximum and handling stay
    def map_amounts(&)
      with(schedule: schedule&.map_amounts("/schedule", &), classes: classes&.map_amounts(&))
    end

    # @param id [String] of a class that goes
    # @return [Plan]
    def without_class(id) = with(classes: classes&.without(id))

    # @param id [String] of a box that goes
    # @return [Plan]
    def without_box(id) = with(parcels: parcels&.without_box(id))

    private

    def gauges = schedules.compact.flat_map(&:gauges)
    def limited_parcels? = (group == "parcel" || adjustment.per == "parcel") && !parcels&.up_to.nil?
  end
end
