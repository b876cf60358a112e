# frozen_string_literal: true

module Server
  module Records
    # An offer that acted on what was ordered. counts: whether that uses it up.
    class OrderOffer < ActiveRecord::Base
      belongs_to :order, foreign_key: :order_number, inverse_of: :offers

      # @return [Hash{String => Integer}] how often each offer was used
      def self.uses = where(counts: true).group(:offer).count

      # @param offer [String]
      # @return [Integer] how often it was used
      def self.used(offer) = where(offer: offer, counts: true).count
    end
  end
end
