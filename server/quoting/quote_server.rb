# frozen_string_literal: true

module Server
  # One quote process: the checkout door on a folder, without a database.
  module QuoteServer
    # Seconds after a new release that the other workers are forked anew, so that they share its memory.
    REFORK = 5
    # Seconds between two times that it hands over what it noticed.
    HANDED_OVER = 5
    # Seconds without a round of the courier after which it is missed.
    SILENT = 30
    private_constant :REFORK, :HANDED_OVER, :SILENT

    class << self
      # @return [QuoteGround] looked at once before workers are forked: what it compiles is theirs together
      def ground = @ground ||= QuoteGround.new(ReleaseFolder.new(Settings.quotes))

      # @return [Notices] of this process
      def notices = @notices ||= Notices.new(OrderQueue.new(File.join(Settings.quotes, "notices")))

      # @return [#call] the Rack application
      def app
        Stoplight.default_notifiers = [notices]
        queue = OrderQueue.new(File.join(Settings.quotes, "orders"))
        orders = RelayedOrders.new(workbench, queue)
        checkout = QuoteCheckout.new(ground, orders, queue, notices)
        Metrics.share(File.join(Settings.quotes, "metrics"))
        door = CheckoutDoor.new(->(env) { other(env, checkout) }, checkout)
        watch = Watch.new(door, ready: -> { unready(checkout.status) }, more: -> { ages(checkout.status) },
                                now: -> { standing(checkout) })
        Doors::OneProxy.new(Doors::Headers.new(watch))
      end

      # @return [Workbench, nil] nil where only a folder is given
      def workbench
        address, key = Settings.workbench
        address && Workbench.new(address, key)
      end

      # What a worker does beside answering.
      # @param index [Integer] of the worker; the first one has the others forked anew
      # @return [Thread]
      def watch(index)
        ground.look
        hand_over if workbench
        ground.watch { refork if index.zero? }
      end

      private

      # While the workbench is away quotes go on; without a courier nothing would ever come or go.
      def unready(now)
        return "There is no release here yet." if now[:release].nil?

        "The courier does not run." if workbench && now[:rounds].to_f > SILENT
      end

      def ages(now)
        { release: now[:release], release_seconds: now[:age],
          workbench_answered_seconds: now[:seen], oldest_order_seconds: now[:oldest],
          orders_waiting: now[:waiting] }.compact
      end

      def standing(checkout)
        now = checkout.status
        { release: now[:release], orders_waiting: now[:waiting], orders_refused: now[:refused],
          release_age: now[:age], workbench_answered: now[:seen], oldest_order: now[:oldest] || 0 }
      end

      def hand_over
        Thread.new do
          loop do
            sleep HANDED_OVER
            notices.hand_over
          end
        end
      end

      def refork
        master = Process.ppid
        Thread.new do
          sleep REFORK
          Process.kill(:URG, master)
        rescue Errno::ESRCH
          nil
        end
      end

      # For whoever watches over it: GET /status.
      def other(env, checkout)
        return Problem.new(404, "There is nothing at this address.").response unless env["PATH_INFO"] == "/status"

        told = checkout.status
        [told[:release] ? 200 : 503, { "content-type" => "application/json", "cache-control" => "no-store" },
         [JSON.generate({ **told, pid: Process.pid })]]
      end
    end
  end
end
