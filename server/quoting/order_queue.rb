# frozen_string_literal: true

require "fileutils"

module Server
  # What shops tell of orders while the workbench is away: a folder of files, each whole and on the disk before it is
  # answered, sent on in their order. A file that can't be read is kept apart, and holds up none behind it. What is told
  # of an order that still waits at another quote server comes too early: it is tried again with every round.
  class OrderQueue
    REFUSED = "refused"
    EARLY = "early"
    # How long, in seconds, a call may wait for its order.
    DAY = 86_400
    private_constant :REFUSED, :EARLY, :DAY

    # @param path [String]
    def initialize(path)
      @path = path
      [REFUSED, EARLY].each { |name| FileUtils.mkdir_p(File.join(path, name), mode: 0o700) }
    end

    # @param call [Hash] verb, call and body
    # @return [void]
    # @raise [SystemCallError] where it can't be written; nothing is left of it then
    def put(call)
      file = File.join(@path, "#{name}.json")
      File.open("#{file}.new", File::WRONLY | File::CREAT | File::EXCL, 0o600) do |out|
        out.write(JSON.generate(call))
        out.fsync
      end
      File.rename("#{file}.new", file)
      File.open(@path, &:fsync)
    rescue SystemCallError
      FileUtils.rm_f("#{file}.new")
      raise
    end

    # @return [Integer] how many wait
    def size = files.size + early.size

    # @return [Boolean] whether none waits that nothing may overtake
    def empty? = files.empty?

    # @param now [Time]
    # @return [Float, nil] seconds that the oldest has waited; nil where none waits
    def age(now = Time.now)
      oldest = [files.first, early.first].compact.map { |file| File.mtime(file) }.min or return
      [now - oldest, 0].max
    rescue Errno::ENOENT
      nil
    end

    # @return [Integer] how many were refused when they were handed on, or can't be read; they are kept for somebody to
    #   look at
    def refused = Dir[File.join(@path, REFUSED, "*.json")].size

    # Hands on what waits, the oldest first. What the block raises ends that: the rest goes on waiting.
    # @param now [Time]
    # @yieldparam call [Hash]
    # @yieldreturn [Symbol] :taken; :refused is kept apart; :early is tried again, for a day
    # @return [void]
    def each_in_order(now = Time.now)
      (files + early).each do |file|
        call = read(file) or next apart(file)
        case yield(call)
        when :taken then FileUtils.rm_f(file)
        when :early then File.mtime(file) < now - DAY ? apart(file) : moved(file, EARLY)
        else apart(file)
        end
      end
    end

    private

    # By the numbers in their names.
    def files = Dir[File.join(@path, "*.json")]
    def early = Dir[File.join(@path, EARLY, "*.json")]

    # @return [Hash, nil] nil for a file that is empty, cut short or something else
    def read(file)
      found = JSON.parse(File.read(file, encoding: Encoding::UTF_8))
      found if found.is_a?(Hash) && found.key?("call")
    rescue JSON::ParserError
      nil
    end

    def apart(file) = moved(file, REFUSED)

    def moved(file, name)
      File.rename(file, File.join(@path, name, File.basename(file)))
    rescue Errno::ENOSPC
      nil # it goes on waiting
    end

    # After everything that waits, whatever the clock says.
    def name
      now = Process.clock_gettime(Process::CLOCK_REALTIME, :nanosecond)
      last = File.basename(files.last.to_s)[/\A\d+/].to_i
      format("%<at>020d-%<pid>d-%<tail>s", at: [now, last + 1].max, pid: Process.pid, tail: SecureRandom.hex(4))
    end
  end
end
