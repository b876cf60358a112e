# frozen_string_literal: true

module Server
  # All that a quote process needs to know beside the book: told by the workbench to those whose key is for it.
  module DoorState
    # @param ground [CheckoutQuotes::Ground]
    # @param keys [KeyRing]
    # @param since [Time, nil] when the release began to count
    # @return [Hash] for JSON
    def self.of(ground, keys, since)
      digest = Records::Release.where(id: ground.number).pick(:digest)
      { release: { number: ground.number, digest: digest }, since: since&.iso8601, uses: ground.uses,
        settings: ground.settings,
        keys: keys.dump, seal: Keys.seal,
        carriers: Records::Carrier.order(:id).map { |one| one.slice("id", "name", "address", "account", "secret", "lock_version") } }
    end
  end
end
