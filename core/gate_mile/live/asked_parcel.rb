# frozen_string_literal: true

module GateMile
  # One parcel as a carrier is told of it: whole grams and millimetres, rounded up; value: {Money}; count: how many.
  class AskedParcel < Value.of(:grams, :millimetres, :value, :count)
    # @param parcel [Parcel]
    # @param currency [Currency]
    # @return [AskedParcel]
    def self.of(parcel, currency)
      sides = parcel.size&.map { |side| Decimal.started(side, Length::UNITS["mm"]) }&.sort&.reverse
      new(grams: Decimal.started(parcel.weight, Weight::UNITS["g"]), millimetres: sides,
          value: Money.new(parcel.value, currency), count: parcel.times)
    end
  end
end
