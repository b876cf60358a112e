# frozen_string_literal: true

module Server
  module Carriers
    # The last calls to carriers, in memory: when, how long, what came of it, and where to, masked.
    module Calls
      KEPT = 200

      class << self
        # @param carrier [String] id
        # @param request [GateMile::CarrierRequest]
        # @param reply [GateMile::Reply]
        # @param seconds [Float]
        # @return [void]
        def note(carrier, request, reply, seconds)
          entry = { carrier: carrier, at: Time.now.utc.iso8601(3), milliseconds: (seconds * 1000).round,
                    outcome: reply.status, said: reply.said, to: masked(request.destination),
                    services: request.services, parcels: request.parcels.sum(&:count) }
          Metrics.call(carrier, reply.status, seconds)
          lock.synchronize { @list = ([entry] + list).first(KEPT) }
        end

        # @return [Array<Hash>] the newest first
        def list = @list ||= []

        # @return [void]
        def clear = lock.synchronize { @list = [] }

        private

        def lock = @lock ||= Mutex.new

        # The country, and the beginning of the postcode.
        def masked(address)
          code = address.postcode.to_s.strip
          [address.country, code.empty? ? nil : "#{code[0, 2]}…"].compact.join(" ")
        end
      end
    end
  end
end
