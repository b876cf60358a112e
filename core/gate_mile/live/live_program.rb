# frozen_string_literal: true

module GateMile
  # A live rate made ready for one store: which requests it needs for some lines, and what comes of the answers.
  class LiveProgram
    # @return [LiveRate]
    attr_reader :live
    # @return [PlanProgram, nil] the rate's own plan
    attr_reader :plan
    # @return [View] how goods become parcels
    attr_reader :view
    # @return [Store]
    attr_reader :store

    # @param live [LiveRate]
    # @param plan [Plan, nil] the rate's own
    # @param program [PlanProgram, nil] the same, made ready
    # @param carriers [Array<Carrier>] of the book
    # @param store [Store]
    def initialize(live, plan, program, carriers, store)
      @live = live
      @plan = program
      @store = store
      @carriers = carriers.to_h { |carrier| [carrier.id, carrier] }
      @view = View.new(basis: store.basis, policy: plan&.parcels || store.parcels, boxes: store.boxes)
    end

    # @param id [String]
    # @return [Carrier, nil]
    def carrier(id) = @carriers[id]

    # @param lot [Lot] ordinary lines, at least one
    # @param basket [Basket] that they are part of
    # @param destination [Destination]
    # @return [Array<CarrierRequest>] none where the rate's own plan gives the price, or something is missing
    def requests(lot, basket, destination) = LivePricing.new(self, lot, basket, destination).requests

    # @param lot [Lot]
    # @param basket [Basket]
    # @param destination [Destination]
    # @param answers [Hash{CarrierRequest => Reply}, nil] nil while carriers are not asked
    # @param listener [#call, nil] hears of each step
    # @return [LivePrice]
    def price(lot, basket, destination, answers, listener = nil)
      LivePricing.new(self, lot, basket, destination).price(answers, listener)
    end
  end
end
