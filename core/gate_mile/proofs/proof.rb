# frozen_string_literal: true

module GateMile
  # A kept cart with what it is to get.
  #
  # id; name; note: the merchant's, or nil; tags; cart: {Cart}; moment: {ProofMoment}; expected: {Expected}; recorded:
  # {Recorded}, what carriers said when it was kept.
  class Proof < Value.of(:id, :name, :note, :tags, :cart, :moment, :expected, :recorded)
    TAGS = 20
    NOTE = 1000
  end
end
