# frozen_string_literal: true

module Server
  # Counts of one process: those of the last minutes, so that a thread that is late finds its own.
  class Counts
    # Minutes that are kept.
    KEPT = 3
    private_constant :KEPT

    def initialize
      @lock = Mutex.new
      clear
    end

    # @param name [String] of a key and a minute
    # @param amount [Integer]
    # @return [Integer] what it comes to
    def increment(name, amount, **)
      minute = name.rpartition(" ").last
      counts = @minutes[minute] || @lock.synchronize { @minutes[minute] || begin_minute(minute) }
      counts.compute(name) { |count| count.to_i + amount }
    end

    # @return [void]
    def clear = @lock.synchronize { @minutes = {}.freeze }

    private

    def begin_minute(minute)
      counts = Concurrent::Map.new
      @minutes = @minutes.to_a.last(KEPT - 1).to_h.merge(minute => counts).freeze
      counts
    end
  end
end
