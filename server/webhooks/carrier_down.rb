# frozen_string_literal: true

require "stoplight"

module Server
  # Hears of carriers that are left alone because they do not answer, and tells of it.
  class CarrierDown < Stoplight::Notifier::Base
    # @param light [Stoplight::Light] named "carrier ID ADDRESS"
    # @param from [String] a colour
    # @param to [String]
    # @param _error [StandardError, nil]
    # @return [void]
    def notify(light, from, to, _error)
      return unless from == Stoplight::Color::GREEN && to == Stoplight::Color::RED

      name = Records::Carrier.where(id: light.name.split[1]).pick(:name) or return
      Announcements.tell("carrier.down", { carrier: name })
    rescue StandardError => e
      Log.fault(e, "telling of a carrier")
    end
  end
end
