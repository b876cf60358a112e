# frozen_string_literal: true

module Server
  # How often something was tried, in memory: a try is counted before it is made, in one step with the look at how many
  # there were, so that many at once are no way around it. What went well is taken back.
  class Tries
    # Names that are kept; those that were counted longest ago go first.
    MOST = 50_000
    private_constant :MOST

    # times: tries since the window began; ends: of the window, or of the ban.
    Count = Struct.new(:times, :ends, :banned)
    private_constant :Count

    def initialize
      @lock = Mutex.new
      clear
    end

    # Counts one try under each name, unless one of them has none left.
    # @param limits [Hash{String => Array(Integer, Integer, Integer)}] by name: tries, in so many seconds, and seconds
    #   for which nothing more is tried after the last
    # @param now [Float] seconds of a clock that never goes back
    # @return [Float, nil] seconds to wait where nothing may be tried; nil where it was counted
    def take(limits, now = Database.now)
      @lock.synchronize do
        counts = limits.to_h { |name, limit| [name, current(name, limit, now)] }
        barred = limits.filter_map { |name, (most, _)| counts[name].ends - now if spent?(counts[name], most) }.max
        next barred if barred

        counts.each { |name, count| add(name, count, limits[name], now) }
        nil
      end
    end

    # @param names [Array<String>] under which a try was counted that went well
    # @return [void]
    def give_back(names)
      @lock.synchronize do
        names.each do |name|
          count = @counts[name] or next
          count.times -= 1 if count.times.positive?
          count.banned = false
        end
      end
    end

    # @return [void]
    def clear = @lock.synchronize { @counts = {} }

    private

    def current(name, (_, find, _), now)
      found = @counts[name]
      found && found.ends > now ? found : Count.new(0, now + find, false)
    end

    def spent?(count, most) = count.banned || count.times >= most

    def add(name, count, (most, _, ban), now)
      count.times += 1
      if count.times >= most
        count.banned = true
        count.ends = now + ban
      end
      @counts.delete(name)
      @counts.shift if @counts.size >= MOST
      @counts[name] = count
    end
  end
end
