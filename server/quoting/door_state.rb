# frozen_string_literal: true

module Server
  # All that a quote process needs to know beside the book: told by the workbench to those whose key is for it.
  module DoorState
    # @param ground [CheckoutQuotes::Ground]
    # @param keys [KeyRing]
    # @return [Hash] for JSON
    def self.of(ground, keys)
      digest = Records::Release.where(id: ground.number).pick(:digest)
      { release: { number: ground.number, digest: digest }, uses: ground.uses, settings: ground.settings,
        keys: keys.dump, seal: Keys.seal,
        carriers: Records::Carrier.order(:id).map { |one| one.slice("id", "name", "address", "account", "secret", "lock_version") } }
    end
  end
end
