# frozen_string_literal: true

module Server
  # How often offers were used by orders: counted when somebody asks after an order came or went.
  class OfferUses
    def initialize = changed

    # @return [void]
    def changed = @counts = nil

    # @return [Hash{String => Integer}] by offer
    def counts = @counts ||= Records::OrderOffer.uses.freeze
  end
end
