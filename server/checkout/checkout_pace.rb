# frozen_string_literal: true

module Server
  # How often each key asks: counted by the minute, as a window that begins with the clock's.
  class CheckoutPace
    SECONDS = 60
    private_constant :SECONDS

    # Counts of one process: those of the minute, and nothing of those before.
    class Own
      def initialize = clear

      # @param name [String] of a key and a minute
      # @param amount [Integer]
      # @return [Integer] what it comes to
      def increment(name, amount, **)
        minute = name.rpartition(" ").last
        clear(minute) unless @minute == minute
        @counts.compute(name) { |count| count.to_i + amount }
      end

      # @return [void]
      def clear(minute = nil)
        @counts = Concurrent::Map.new
        @minute = minute
      end
    end

    # @param store [ActiveSupport::Cache::Store, Own] that counts
    def initialize(store = Own.new)
      @store = store
    end

    # @param id [String] of a key
    # @param now [Time]
    # @return [Integer] how often it has asked in this minute, this time included
    def count(id, now = Time.now)
      @store.increment("pace #{id} #{now.to_i / SECONDS}", 1, expires_in: SECONDS * 2) || 0
    end

    # @param now [Time]
    # @return [Integer] seconds until the next minute begins
    def left(now = Time.now) = SECONDS - (now.to_i % SECONDS)

    # @return [void]
    def clear = @store.clear
  end
end
