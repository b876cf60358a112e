# frozen_string_literal: true

module GateMile
  # From one moment until just before another, either of which may be left open.
  #
  # starts, ends: as written, or nil; from, to: {Time}s.
  class Period < Value.of(:starts, :ends, :from, :to)
    # @param time [Time]
    # @return [Symbol, nil] :early, :late, or nil while it lasts
    def outside(time)
      return :early if from && time < from

      :late if to && time >= to
    end

    # @return [Boolean] whether it has neither beginning nor end
    def always? = from.nil? && to.nil?

    # @param other [Period]
    # @return [Period] in which both last
    def within(other)
      start = [self, other].select(&:from).max_by(&:from)
      stop = [self, other].select(&:to).min_by(&:to)
      Period.new(starts: start&.starts, from: start&.from, ends: stop&.ends, to: stop&.to)
    end
  end
end
