# frozen_string_literal: true

module GateMile
  # The price part of a treatment: what its goods pay.
  #
  # plus: {Money} on top for each unit that goes along with the cart, or nil; charge: {Charge} of goods priced apart
  # from it, nil where they go along; by_method: charges of single methods, by id, in its place there; together:
  # whether all units that the treatment prices count together, not only those of one product.
  class OwnPrice < Value.of(:plus, :charge, :by_method, :together)
    KINDS = %w[along apart].freeze

    # @return [Boolean] whether its goods leave the ordinary calculation
    def apart? = !charge.nil?

    # @param method [String] id
    # @return [Charge] of goods priced apart
    def charge_for(method) = by_method.fetch(method, charge)
  end
end
