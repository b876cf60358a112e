# frozen_string_literal: true

module GateMile
  # How a plan looks at goods: by which basis it counts their value, and whose; and how they become parcels.
  #
  # basis: a whole {Basis}; counted: "all" or "shipping" lines whose value counts for the whole cart, nil for the
  # ordinary ones; policy: {ParcelPolicy}; boxes: {Box}es of the store.
  class View < Value.of(:basis, :counted, :policy, :boxes)
    # @param plan [Plan, nil]
    # @param store [Store]
    # @return [View]
    def self.of(plan, store)
      counted = plan&.basis&.lines
      new(basis: store.basis_for(plan&.basis), counted: (counted unless counted == "ordinary"),
          policy: plan&.parcels || store.parcels, boxes: store.boxes)
    end

    # @param lot [Lot] ordinary lines
    # @param basket [Basket] that they are part of
    # @return [Lot] the lines whose value a price for the whole cart looks at
    def counted_of(lot, basket)
      case counted
      when "all" then basket.all
      when "shipping" then basket.shipping
      else lot
      end
    end

    # @param lot [Lot]
    # @return [Array<Unit>] worked out once for each lot
    def units(lot) = lot.keep([:units, basis.object_id]) { Unit.of(lot, basis) }

    # @param lot [Lot]
    # @return [Array<Parcel>, Refusal] worked out once for each lot
    def parcels(lot)
      lot.keep([:parcels, basis.object_id, policy.object_id]) do
        policy.together?(lot) ? [Parcel.new(-> { policy.inside(units(lot)) }, 1)] : policy.parcels(units(lot), boxes)
      end
    end

    # @param lot [Lot]
    # @return [Integer, Refusal] how many parcels the lines make
    def parcel_count(lot)
      found = parcels(lot)
      found.is_a?(Refusal) ? found : found.sum(&:times)
    end

    # @param lot [Lot]
    # @return [Array<Hash>] what the policy lets stand in for weights and sizes that are not known
    def stand_ins(lot) = policy.stand_ins(units(lot))

    # @param lot [Lot]
    # @return [Integer, Rational, nil] the parcels' billable weights together, in base units
    def billable(lot) = lot.keep([:billable, basis.object_id, policy.object_id]) { billable_of(parcels(lot)) }

    # @param parcels [Array<Parcel>, Refusal]
    # @return [Integer, Rational, nil] their billable weights together
    def billable_of(parcels)
      return if parcels.is_a?(Refusal)

      parcels.sum { |parcel| policy.billable(parcel)&.*(parcel.times) || (return nil) }
    end
  end
end
