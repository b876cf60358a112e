# frozen_string_literal: true

module Server
  # How often each key asks: counted by the minute, as a window that begins with the clock's.
  class CheckoutPace
    SECONDS = 60
    private_constant :SECONDS

    # Counts of one process: those of the last minutes, so that a thread that is late finds its own.
    class Own
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

    # @param store [ActiveSupport::Cache::Store, Own] that counts
    def initialize(store = Own.new)
      @store = store
    end

    # @param id [String] of a key
    # @param now [Time]
    # @param times [Integer] how often it asks at once: a batch asks once for each of its carts
    # @return [Integer] how often it has asked in this minute, this time included
    def count(id, now = Time.now, times: 1)
      @store.increment("pace #{id} #{now.to_i / SECONDS}", times, expires_in: SECONDS * 2) || 0
    end

    # @param now [Time]
    # @return [Integer] seconds until the next minute begins
    def left(now = Time.now) = SECONDS - (now.to_i % SECONDS)

    # @return [void]
    def clear = @store.clear
  end
end
