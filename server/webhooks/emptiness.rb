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
      @times = []
    end

    # @param now [Time]
    # @return [void]
    def note(now = Time.now)
      Announcements.tell("nothing.offered", { times: OFTEN, minutes: SECONDS / 60 }, now: now) if often?(now)
    end

    private

    def often?(now)
      @lock.synchronize do
        @times = @times.last(OFTEN - 1).push(now)
        next false if @times.size < OFTEN || now - @times.first > SECONDS || (@told && now - @told < SILENCE)

        @told = now
      end
    end
  end
end
