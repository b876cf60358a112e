# frozen_string_literal: true

module Server
  # Goes between the workbench and the folder of the quote processes: brings what is new, takes along what waits. While
  # the workbench is away everything goes on with what is there.
  class Courier
    # Seconds between two rounds.
    PAUSE = 1.0
    private_constant :PAUSE

    # @param workbench [Workbench]
    # @param folder [ReleaseFolder]
    # @param queue [OrderQueue]
    def initialize(workbench, folder, queue)
      @workbench = workbench
      @folder = folder
      @queue = queue
      @etag = nil
    end

    # @return [void] never
    def run
      loop do
        round
        sleep PAUSE
      end
    end

    # @return [Boolean] whether the workbench was there
    def round
      bring
      take
      back
      true
    rescue Workbench::Away => e
      away(e)
      false
    end

    private

    def bring
      body, etag = @workbench.get("state", @etag)
      return if body.nil?

      state = JSON.parse(body)
      release = state.fetch("release")
      unless @folder.book?(release)
        text, = @workbench.get("book/#{release["number"]}")
        raise Workbench::Away, "a book that was cut short" unless Digest::SHA256.hexdigest(text) == release["digest"]

        @folder.keep_book(release["number"], text)
      end
      @folder.keep_state(state)
      @etag = etag
    rescue JSON::ParserError, KeyError
      raise Workbench::Away, "a state that can't be read"
    end

    def take
      @queue.each_in_order do |call|
        @workbench.tell(call["verb"].to_sym, call["call"], call["body"]) && true
      end
    end

    def away(error)
      Log.fault(error, "asking the workbench; quotes go on") unless @away
      @away = true
    end

    def back = @away = false
  end
end
