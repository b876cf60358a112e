# frozen_string_literal: true

module Server
  # What is read once and known until somebody says that it has changed. Who was reading it meanwhile does not bring
  # back what stood there before.
  class Remembered
    # @yieldreturn [Object] what is to be known
    def initialize(&read)
      @read = read
      @lock = Mutex.new
      @version = 0
    end

    # @return [Object]
    def value
      known = @known
      return known.last if known && known.first == @version

      version = @version
      found = @read.call
      @lock.synchronize { @known = [version, found] if version == @version }
      found
    end

    # It is read anew by the next who asks.
    # @return [void]
    def forget = @lock.synchronize { @version += 1 }
  end
end
