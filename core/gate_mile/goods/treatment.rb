# frozen_string_literal: true

module GateMile
  # How goods leave the ordinary rates. It sits on any number of variants, products and classes, which name it.
  #
  # zones, method_ids: ids that it is limited to, nil for all; price: {OwnPrice} or nil; only: ids of the methods its
  # goods may travel by, nil for any; never: ids of those they may not.
  class Treatment < Value.of(:id, :name, :active, :zones, :method_ids, :price, :only, :never)
    # @param zone [String] id
    # @param method [String] id
    # @return [Boolean] whether it says anything there
    def applies?(zone, method)
      active && (zones.nil? || zones.include?(zone)) && (method_ids.nil? || method_ids.include?(method))
    end

    # @param zone [String] id
    # @param method [String] id
    # @return [Boolean] whether its goods may not travel by the method there
    def bars?(zone, method)
      applies?(zone, method) && (never.include?(method) || !(only.nil? || only.include?(method)))
    end

    # Without something that goes. One that was limited to that is off from then on.
    # @param kind [String] "zone" or "method"
    # @param id [String]
    # @return [Treatment]
    def without(kind, id)
      field = kind == "zone" ? :zones : :method_ids
      limit = self[field] && (self[field] - [id])
      left = { field => (limit unless limit && limit.empty?), active: active && !limit&.empty? }
      if kind == "method"
        left.update(only: only && (only - [id]), never: never - [id],
                    price: price&.charge ? price.with(by_method: price.by_method.except(id)) : price)
      end
      with(**left)
    end

    # @return [Boolean] whether it restricts how its goods travel
    def restricts? = !only.nil? || never.any?
  end
end
