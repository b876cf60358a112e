# frozen_string_literal: true

module Server
  # Notices where checkouts are told too often that there is nothing to choose.
  class Emptiness
    # That many in so many seconds are too often; it is told once in so many.
    OFTEN = 10
    SECONDS = 600
    SILENCE = 3600
    private_constant :OFTEN, :SECONDS, :SILENCE

    def initialize
      @lock = Mutex.new
      clear
    end

    # @return [void]
    def clear
      @lock.synchronize do
        @times = []
        @told = nil
      end
    end

    # @param now [Time]
    # @param times [Integer] how often, where somebody else has counted
    # @return [void]
    def note(now = Time.now, times: 1)
      return unless often?([now] * [times, OFTEN].min)

      Announcements.soon("nothing.offered", now: now) { { times: OFTEN, minutes: SECONDS / 60 } }
    end

    private

    def often?(times)
      @lock.synchronize do
        @times = (@times + times).last(OFTEN)
        # The clock was set back: what was counted by the other one counts no more.
        @times.select! { |at| at <= times.last }
        @told = nil if @told && @told > times.last
        now = @times.last
        next false if @times.size < OFTEN || now - @times.first > SECONDS || (@told && now - @told < SILENCE)

        @told = now
      end
    end
  end
end
