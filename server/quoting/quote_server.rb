# frozen_string_literal: true

module Server
  # One quote process: the checkout door on a folder, without a database.
  module QuoteServer
    # Seconds after a new release that the other workers are forked anew, so that they share its memory.
    REFORK = 5
    # Seconds between two times that it hands over what it noticed.
    HANDED_OVER = 5
    private_constant :REFORK, :HANDED_OVER

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
        Watch.new(door, ready: -> { ground.ready ? nil : "There is no release here yet." },
                        now: -> { standing(checkout) })
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

      def standing(checkout)
        now = checkout.status
        { release: now[:release], orders_waiting: now[:waiting], orders_refused: now[:refused] }
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
