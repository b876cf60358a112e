# frozen_string_literal: true

module Server
  # A value that is worked out by the first who asks; the others wait for it. Where that fails, the next one tries
  # again.
  class Once
    def initialize
      @lock = Mutex.new
    end

    # @yieldreturn [Object] the value
    # @return [Object]
    def value
      return @value if @made

      @lock.synchronize do
        unless @made
          @value = yield
          @made = true
        end
      end
      @value
    end
  end
end
