# frozen_string_literal: true

module Server
  # How often offers were used by orders: counted when somebody asks after an order came or went.
  class OfferUses
    def initialize
      @counts = Remembered.new { Records::OrderOffer.uses.freeze }
    end

    # @return [void]
    def changed = @counts.forget

    # @return [Hash{String => Integer}] by offer
    def counts = @counts.value
  end
end
