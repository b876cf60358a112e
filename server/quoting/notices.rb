# frozen_string_literal: true

require "stoplight"

module Server
  # What a quote process notices and only the workbench can tell anybody: gathered, and sent on a few times a minute.
  class Notices < Stoplight::Notifier::Base
    # Gatherings that may wait while the workbench is away; what comes then goes on being gathered.
    MOST = 20
    private_constant :MOST

    # @return [Asked]
    attr_reader :asked

    # @param queue [OrderQueue] that the courier takes along
    def initialize(queue)
      @queue = queue
      @lock = Mutex.new
      @asked = Asked.new
      begin_anew
      super()
    end

    # A cart for which there was nothing.
    # @return [void]
    def note = @lock.synchronize { @nothing += 1 }

    # @param light [Stoplight::Light] named "carrier ID ADDRESS"
    # @param from [String] a colour
    # @param to [String]
    # @param _error [StandardError, nil]
    # @return [void]
    def notify(light, from, to, _error)
      return unless from == Stoplight::Color::GREEN && to == Stoplight::Color::RED

      @lock.synchronize { @down |= [light.name.split[1]] }
    end

    # @return [void] puts what was gathered where the courier finds it
    def hand_over
      return if @queue.size >= MOST

      counted = asked.store { |taken| put(asked: taken) }
      put unless counted || nothing?
    rescue SystemCallError => e
      Log.fault(e, "keeping what was noticed")
    end

    private

    def nothing? = @lock.synchronize { @nothing.zero? && @down.empty? }

    # Named, so that a message that is sent again counts once.
    def put(**more)
      @lock.synchronize do
        body = { id: SecureRandom.uuid, nothing_offered: @nothing, carriers_down: @down, **more }
        @queue.put({ verb: :post, call: "notices", body: body })
        begin_anew
      end
    end

    def begin_anew
      @nothing = 0
      @down = []
    end
  end
end
