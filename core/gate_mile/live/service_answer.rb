# frozen_string_literal: true

module GateMile
  # What one service said. status: :ok, :refused or :unusable; prices: {Money} of each kind of parcel, times their
  # count; days: business days, [least, most], or nil; said: a reason, or nil.
  class ServiceAnswer < Value.of(:status, :prices, :days, :said)
    # @return [Money, nil] for all parcels together
    def total = prices&.inject(:+)
  end
end
