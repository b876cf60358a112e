# frozen_string_literal: true

module Server
  module Records
    # The boxes that a parcel policy names, as it stands in a row.
    module ParcelBoxes
      class << self
        # @param policy [Hash, nil]
        # @return [Integer, nil] place of the first box that is not there
        def unknown(policy)
          ids = policy&.fetch("boxes", nil) or return
          ids.index((ids - Records::Box.where(id: ids).ids).first)
        end

        # @param policy [Hash, nil]
        # @param gone [String] id
        # @yieldparam left [Hash] the policy without it, where it named it; one that named no other box has none left
        # @return [void]
        def forget(policy, gone)
          ids = policy&.fetch("boxes", nil)
          yield policy.merge("boxes" => ids - [gone]) if ids&.include?(gone)
        end
      end
    end
  end
end
