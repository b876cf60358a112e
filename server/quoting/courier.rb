# frozen_string_literal: true

module Server
  # Goes between the workbench and the folder of the quote processes: brings what is new, takes along what waits. While
  # the workbench is away everything goes on with what is there.
  class Courier
    # Seconds between two rounds.
    PAUSE = 1.0
    private_constant :PAUSE

    # The workbench does not take what was told while it was away.
    class Refused < StandardError; end

    # @param workbench [Workbench]
    # @param folder [ReleaseFolder]
    # @param queues [Array<OrderQueue>] of what waits
    def initialize(workbench, folder, *queues)
      @workbench = workbench
      @folder = folder
      @queues = queues
      @etag = nil
    end

    # @return [void] never
    def run
      loop do
        round
        sleep PAUSE
      end
    end

    # @return [Boolean] whether the workbench was there, and all went well
    def round
      @folder.note(:rounds)
      bring
      @folder.note(:seen)
      take
      @away = false
      true
    rescue Workbench::Away => e
      Log.fault(e, "asking the workbench; quotes go on") unless @away
      @away = true
      false
    rescue StandardError => e
      Log.fault(e, "carrying between the workbench and the folder")
      false
    end

    private

    # What was damaged in the folder since is brought once more.
    def bring
      body, etag = @workbench.get("state", @folder.untouched? ? @etag : nil)
      return if body.nil?

      state = JSON.parse(body)
      raise Workbench::Away, "a state that can't be read" unless state.is_a?(Hash)

      release = state.fetch("release")
      bring_book(release) unless @folder.book?(release)
      @folder.keep_state(state)
      @etag = etag
    rescue JSON::ParserError, KeyError
      raise Workbench::Away, "a state that can't be read"
    end

    def bring_book(release)
      text, = @workbench.get("book/#{release["number"]}")
      raise Workbench::Away, "a book that was cut short" unless Digest::SHA256.hexdigest(text) == release["digest"]

      @folder.keep_book(release["number"], text)
    end

    def take = @queues.each { |queue| taken(queue) }

    def taken(queue)
      queue.each_in_order do |call|
        status, = @workbench.tell(call["verb"].to_sym, call["call"], call["body"])
        next :taken if status < 400
        # The order that it closes may still wait at another quote server.
        next :early if status == 404 && call["verb"] == "patch"

        refused(call, status)
      end
    end

    def refused(call, status)
      Log.fault(Refused.new("#{call["call"]}: #{status}"), "handing on what was told, which is kept apart now")
      :refused
    end
  end
end
