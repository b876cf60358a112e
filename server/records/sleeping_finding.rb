# frozen_string_literal: true

module Server
  module Records
    # A finding that the merchant has put to sleep. Its id is the finding's key: what says something else is not asleep.
    class SleepingFinding < Base
      # @param keys [Array<String>]
      # @param asleep [Boolean] whether they are to sleep, or to wake
      # @return [void]
      def self.put(keys, asleep)
        there = where(id: keys).to_a
        return there.each(&:destroy!) unless asleep

        (keys - there.map(&:id)).each { |key| create!(id: key) }
      end
    end
  end
end
