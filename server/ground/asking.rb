# frozen_string_literal: true

module Server
  # Who asks: a person who is signed in. Nobody, where there are no accounts yet and nobody needs one.
  Asking = Struct.new(:id, :name, :role, :session) do
    # What a person may be, from the least to the most.
    const_set(:ROLES, %w[viewer editor owner].freeze)
    const_set(:RANKS, self::ROLES.each_with_index.to_h.freeze)

    class << self
      # @return [Asking, nil] who has sent the request that this thread answers
      def now = Thread.current[:gate_mile_asking]

      # @param asking [Asking, nil]
      # @return [void]
      def now=(asking)
        Thread.current[:gate_mile_asking] = asking
      end

      # @return [String, nil] the address from which this thread's request came
      def from = Thread.current[:gate_mile_from]

      # @param address [String, nil]
      # @yield what was asked from there
      # @return [Object] what the block returns
      def at(address)
        before = from
        Thread.current[:gate_mile_from] = address
        yield
      ensure
        Thread.current[:gate_mile_from] = before
      end
    end

    # @param role [String] of ROLES
    # @return [Boolean] whether they may do at least what that role may
    def at_least?(role) = self.class::RANKS.fetch(self.role) >= self.class::RANKS.fetch(role)
  end
end
