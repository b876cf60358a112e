# frozen_string_literal: true

module GateMile
  # A carrier whose services can be asked for prices. How it is reached, and with whose account, is not a matter of the
  # book. services: {Service}s.
  class Carrier < Value.of(:id, :name, :active, :services)
    # One of its services: code as the carrier calls it, name as the merchant reads it.
    Service = Value.of(:code, :name)

    # @param reader [Reader]
    # @return [Carrier]
    def self.read(reader)
      services = reader.list("services", required: false, most: 100) do |item|
        Service.new(code: item.text("code", most: 40), name: item.text("name", most: 60))
      end
      new(id: reader.text("id"), name: reader.text("name", most: 60), active: reader.flag("active", default: true),
          services: services)
    end

    # @param code [String]
    # @return [String] its name, or the code where it has no such service
    def service_name(code) = services.find { |service| service.code == code }&.name || code

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "active" => active,
        "services" => services.map { |service| service.to_h.transform_keys(&:to_s) } }
    end
  end
end
