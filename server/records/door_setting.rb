# frozen_string_literal: true

module Server
  module Records
    # How the checkout door is set up: one row. holds_minutes: how long a quote's price is promised; evidence_days: how
    # long carts of orders are kept; tax_class: by which the tax in a price is told, nil for not at all.
    class DoorSetting < ActiveRecord::Base
      HOLDS = (1..1440)
      EVIDENCE = (1..3660)

      # @return [DoorSetting]
      def self.current = find_by(id: 1) || new(id: 1)

      # @return [Hash] DoorSettings of the contract
      def document
        { holds_minutes: holds_minutes, evidence_days: evidence_days, tax_class: tax_class, lock_version: lock_version }
      end
    end
  end
end
