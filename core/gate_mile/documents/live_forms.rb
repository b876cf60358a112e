# frozen_string_literal: true

module GateMile
  # Carriers and live rates in JSON.
  module LiveForms
    SERVICE = Form.new(Carrier::Service) do
      text :code, most: 40
      text :name, most: 60
    end

    CARRIER = Form.new(Carrier) do
      list :services, SERVICE, most: 100
      text :id
      text :name, most: 60
      flag :active, default: true
    end

    FALLBACK = Form.new(LiveRate::Fallback) do
      needed :kind, among: LiveRate::Fallback::KINDS, symbol: true
      field(:amount, write: ->(amount) { amount&.to_s }) do |reader, setting|
        reader.money("amount", setting.currency) if reader.peek("kind") == "amount"
      end
    end

    LIVE = Form.new(LiveRate) do
      field(:services, write: lambda { |pairs|
        pairs.map do |id, code|
          { "carrier" => id, "service" => code }
        end
      }) do |reader, _|
        found = reader.list("services", most: 40) { |item| [item.text("carrier"), item.text("service", most: 40)] }
        reader.problem("services", :no_service) if found.empty? && reader.given?("services")
        found
      end
      choice :answer, among: LiveRate::ANSWERS
      choice :own, among: LiveRate::OWN
      part(read: ->(reader, setting) { { adjustment: PricingForms::AdjustmentForm.read(reader, setting) } },
           write: ->(live) { PricingForms::AdjustmentForm.write(live.adjustment) })
      field(:ladder, write: lambda { |ladder|
        ladder.to_h do |trouble, step|
          [trouble.to_s, FALLBACK.write(step)]
        end
      }) do |reader, setting|
        LiveForms.ladder(reader, setting)
      end
      choice :promise, among: LiveRate::PROMISES
    end

    # A parcel as a carrier is told of it; it is only written.
    module ParcelForm
      # @return [Hash] for JSON
      def self.write(parcel)
        { "grams" => parcel.grams, "millimetres" => parcel.millimetres, "value" => parcel.value.to_s,
          "count" => parcel.count }.compact
      end
    end

    # What a carrier is asked (docs/formats/carriers.md), without the carrier; it is only written.
    module RequestForm
      # @return [Hash] for JSON
      def self.write(request)
        { "services" => request.services, "origin" => GeographyForms::ADDRESS.write(request.origin),
          "destination" => GeographyForms::ADDRESS.write(request.destination),
          "parcels" => request.parcels.map { |parcel| ParcelForm.write(parcel) }, "currency" => request.currency.code,
          "hazardous" => request.hazardous }
      end
    end

    # @return [Hash{Symbol => LiveRate::Fallback}] by trouble
    def self.ladder(reader, setting)
      given = reader.object("ladder", required: false)
      found = LiveRate::TROUBLES.to_h do |trouble|
        step = given&.object(trouble, required: false)
        [trouble.to_sym, step ? FALLBACK.read(step, setting) : LiveRate::Fallback::NONE]
      end
      given&.finish
      found
    end
  end
end
