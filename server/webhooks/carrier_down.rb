# frozen_string_literal: true

require "stoplight"

module Server
  # Hears of carriers that are left alone because they do not answer, and tells of it.
  class CarrierDown < Stoplight::Notifier::Base
    # Seconds in which the same carrier is told once: several processes notice it.
    SILENCE = 300
    private_constant :SILENCE

    class << self
      # @param id [String] of a carrier
      # @param now [Time]
      # @return [void]
      def tell(id, now = Time.now)
        return unless news?(id, now)

        Announcements.soon("carrier.down", now: now) do
          Records::Carrier.where(id: id).pick(:name)&.then { |name| { carrier: name } }
        end
      end

      # @return [void]
      def clear = LOCK.synchronize { @told = {} }

      private

      def news?(id, now)
        LOCK.synchronize do
          @told = @told.to_h.reject { |_, at| now - at >= SILENCE }
          !@told.key?(id) && @told[id] = now
        end
      end
    end
    LOCK = Mutex.new
    private_constant :LOCK

    # @param light [Stoplight::Light] named "carrier ID ADDRESS"
    # @param from [String] a colour
    # @param to [String]
    # @param _error [StandardError, nil]
    # @return [void]
    def notify(light, from, to, _error)
      return unless from == Stoplight::Color::GREEN && to == Stoplight::Color::RED

      CarrierDown.tell(light.name.split[1])
    rescue StandardError => e
      Log.fault(e, "telling of a carrier")
    end
  end
end
