# frozen_string_literal: true

require "fileutils"

module Server
  # What shops tell of orders while the workbench is away: a folder of files, each whole and on the disk before it is
  # answered, sent on in their order. A file that can't be read is kept apart, and holds up none behind it.
  class OrderQueue
    REFUSED = "refused"
    private_constant :REFUSED

    # @param path [String]
    def initialize(path)
      @path = path
      FileUtils.mkdir_p(File.join(path, REFUSED), mode: 0o700)
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
    def size = files.size

    # @return [Boolean] whether none waits
    def empty? = files.empty?

    # @param now [Time]
    # @return [Float, nil] seconds that the oldest has waited; nil where none waits
    def age(now = Time.now)
      oldest = files.first or return
      [now - File.mtime(oldest), 0].max
    rescue Errno::ENOENT
      nil
    end

    # @return [Integer] how many were refused when they were handed on, or can't be read; they are kept for somebody to
    #   look at
    def refused = Dir[File.join(@path, REFUSED, "*.json")].size

    # Hands on what waits, the oldest first. What the block raises ends that: the rest goes on waiting.
    # @yieldparam call [Hash]
    # @yieldreturn [Boolean] whether it was taken; what was refused is kept apart
    # @return [void]
    def each_in_order
      files.each do |file|
        call = read(file) or next apart(file)
        yield(call) ? FileUtils.rm_f(file) : apart(file)
      end
    end

    private

    # By the numbers in their names.
    def files = Dir[File.join(@path, "*.json")]

    # @return [Hash, nil] nil for a file that is empty, cut short or something else
    def read(file)
      found = JSON.parse(File.read(file, encoding: Encoding::UTF_8))
      found if found.is_a?(Hash) && found.key?("call")
    rescue JSON::ParserError
      nil
    end

    def apart(file)
      FileUtils.mv(file, File.join(@path, REFUSED))
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
