# frozen_string_literal: true

require "fileutils"

module Server
  # What shops tell of orders while the workbench is away: a folder of files, each whole and on the disk before it is
  # answered, sent on in their order.
  class OrderQueue
    # @param path [String]
    def initialize(path)
      @path = path
      FileUtils.mkdir_p(path, mode: 0o700)
    end

    # @param call [Hash] verb, path and body
    # @return [void]
    def put(call)
      at = Process.clock_gettime(Process::CLOCK_REALTIME, :nanosecond)
      name = format("%<at>020d-%<pid>d-%<tail>s", at: at, pid: Process.pid, tail: SecureRandom.hex(4))
      file = File.join(@path, "#{name}.json")
      File.open("#{file}.new", File::WRONLY | File::CREAT | File::EXCL, 0o600) do |out|
        out.write(JSON.generate(call))
        out.fsync
      end
      File.rename("#{file}.new", file)
      File.open(@path, &:fsync)
    end

    # @return [Integer] how many wait
    def size = files.size

    # @return [Boolean] whether none waits
    def empty? = files.empty?

    # Sends on what waits, the oldest first, until one can't be sent now.
    # @yieldparam call [Hash]
    # @yieldreturn [Boolean] whether it has arrived, or was refused for good
    # @return [Integer] how many were sent on
    def each_in_order
      files.each_with_index do |file, at|
        return at unless yield(JSON.parse(File.read(file)))

        FileUtils.rm_f(file)
      end.size
    end

    private

    # By the moments in their names.
    def files = Dir[File.join(@path, "*.json")]
  end
end
