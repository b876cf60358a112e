# frozen_string_literal: true

module GateMile
  # What a carrier is asked: what all services in question would take for these parcels. Equal requests are one.
  #
  # carrier: id; services: codes; origin, destination: {Address}; parcels: {AskedParcel}s; currency: {Currency};
  # hazardous: whether goods with the hazard mark are among them.
  class CarrierRequest < Value.of(:carrier, :services, :origin, :destination, :parcels, :currency, :hazardous)
  end
end
