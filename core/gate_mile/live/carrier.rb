# frozen_string_literal: true

module GateMile
  # A carrier whose services can be asked for prices. How it is reached, and with whose account, is not a matter of the
  # book. services: {Service}s.
  class Carrier < Value.of(:id, :name, :active, :services)
    # One of its services: code as the carrier calls it, name as the merchant reads it.
    Service = Value.of(:code, :name)

    # @param code [String]
    # @return [String] its name, or the code where it has no such service
    def service_name(code) = services.find { |service| service.code == code }&.name || code
  end
end
