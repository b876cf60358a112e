# frozen_string_literal: true

module Server
  # How often each key asks: counted by the minute, as a window that begins with the clock's.
  class CheckoutPace
    SECONDS = 60
    private_constant :SECONDS

    # @param store [ActiveSupport::Cache::Store, Counts] that counts
    def initialize(store = Counts.new)
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
