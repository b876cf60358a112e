# frozen_string_literal: true

module GateMile
  # Puts a method into a zone with a plan.
  #
  # zone, method_id: ids; name: what the method is called there, nil for its own name; plan: nil while the merchant has
  # not said a price, and then the method is incomplete there, never free; areas: {AreaSets} of one that it is
  # narrowed to inside its zone, or nil; cost: {Plan} of what it costs the merchant, or nil; live: {LiveRate} or nil.
  class Rate < Value.of(:id, :zone, :method_id, :name, :active, :plan, :areas, :cost, :live)
  end
end
