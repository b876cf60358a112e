# frozen_string_literal: true

module GateMile
  # What a carrier is asked: what all services in question would take for these parcels. Equal requests are one.
  #
  # carrier: id; services: codes; origin, destination: {Address}; parcels: {AskedParcel}s; currency: {Currency};
  # hazardous: whether goods with the hazard mark are among them.
  class CarrierRequest < Value.of(:carrier, :services, :origin, :destination, :parcels, :currency, :hazardous)
    # @return [Hash] for JSON (docs/formats/carriers.md), without the carrier
    def dump
      { "services" => services, "origin" => origin.dump, "destination" => destination.dump,
        "parcels" => parcels.map(&:dump), "currency" => currency.code, "hazardous" => hazardous }
    end
  end

  # One parcel as a carrier is told of it: whole grams and millimetres, rounded up; value: {Money}; count: how many.
  class AskedParcel < Value.of(:grams, :millimetres, :value, :count)
    # @param parcel [ParcelPolicy::Parcel]
    # @param currency [Currency]
    # @return [AskedParcel]
    def self.of(parcel, currency)
      sides = parcel.size&.map { |side| (Rational(side) / Length::UNITS["mm"]).ceil }&.sort&.reverse
      new(grams: (Rational(parcel.weight) / Weight::UNITS["g"]).ceil, millimetres: sides,
          value: Money.new(parcel.value, currency), count: parcel.times)
    end

    # @return [Hash] for JSON
    def dump
      { "grams" => grams, "millimetres" => millimetres, "value" => value.to_s, "count" => count }.compact
    end
  end

  # What came back of one request. status: :answered, :silent (down, too late, not asked because it is down), :refused
  # (this address or these goods), :unusable (nonsense) or :fault (whoever asks has made a mistake, and the carrier has
  # no part in it); services: {ServiceAnswer}s by code, where it answered; said:
  # what the carrier said, or why there is no answer; age: seconds since it answered.
  class Reply < Value.of(:status, :services, :said, :age)
    # @param said [String]
    # @return [Reply]
    def self.failed(status, said) = new(status: status, services: {}, said: said, age: 0)
  end

  # What one service said. status: :ok, :refused or :unusable; prices: {Money} of each kind of parcel, times their
  # count; days: business days, [least, most], or nil; said: a reason, or nil.
  class ServiceAnswer < Value.of(:status, :prices, :days, :said)
    # @return [Money, nil] for all parcels together
    def total = prices&.inject(:+)
  end
end
