# frozen_string_literal: true

require "faraday"

module Server
  # Sends what is due to be told, and tries again later what did not arrive. The waits are those that the Standard
  # Webhooks specification recommends. Each receiver has a turn of its own: one that hangs keeps no other waiting. What
  # came of a message is written down before it is sent once more.
  class Deliveries
    WAITS = [5, 300, 1800, 7200, 18_000, 36_000, 50_400, 72_000, 86_400].freeze
    # Seconds that a receiver may take.
    PATIENCE = 10
    # Messages to one receiver in one go, and receivers at the same time.
    TOGETHER = 8
    RECEIVERS = 32
    GONE = 410
    private_constant :TOGETHER, :RECEIVERS, :GONE

    # What came of a message that was sent. hook: id of the webhook.
    Outcome = Struct.new(:id, :hook, :status, :trouble, :at)
    private_constant :Outcome

    def initialize
      @lock = Mutex.new
      @busy = {}
      @outcomes = []
    end

    # Begins to send what is due, to everybody who is not being sent to already.
    # @param now [Time]
    # @return [Array<Thread>] one for each receiver; its value is how many messages it was sent
    def start(now = Time.now)
      write_down
      due(now).group_by(&:webhook_id).first(RECEIVERS - @busy.size).filter_map do |hook, list|
        @lock.synchronize { @busy[hook] = true unless @busy.key?(hook) } or next
        Thread.new { turn(hook, list.first(TOGETHER), now) }
      end
    end

    # The same, until all of it is sent and written down.
    # @param now [Time]
    # @return [Integer] how many were sent
    def round(now = Time.now)
      sent = start(now).sum(&:value)
      write_down
      sent
    end

    # Writes down what came of what was sent. What can't be written now is written the next time.
    # @return [void]
    def write_down
      @lock.synchronize do
        while (outcome = @outcomes.first)
          Database.write { note(outcome) }
          @outcomes.shift
        end
      end
    end

    private

    def due(now)
      sent = @lock.synchronize { @busy.keys }
      Records::WebhookDelivery.where(state: "waiting").where("due <= ?", now).where.not(webhook_id: sent)
                              .order(:due, :id).includes(:webhook, :message).limit(TOGETHER * RECEIVERS).to_a
    end

    def turn(hook, list, now)
      sent = list.map { |one| Thread.new { send_to(one.webhook, one.message, now) } }
      list.zip(sent.map(&:value)).each do |one, (status, trouble)|
        @lock.synchronize { @outcomes << Outcome.new(one.id, hook, status, trouble, now) }
      end
      list.size
    ensure
      settle(hook)
    end

    # Only when it is written down is anything sent there again.
    def settle(hook)
      write_down
    rescue *Database::BUSY, ActiveRecord::StatementInvalid => e
      Log.fault(e, "noting what was delivered") unless Database::BUSY.any? { |kind| e.is_a?(kind) }
      sleep 0.5
      retry if @lock.synchronize { @outcomes.any? { |one| one.hook == hook } }
    ensure
      @lock.synchronize { @busy.delete(hook) }
      ActiveRecord::Base.connection_handler.clear_active_connections!
    end

    # @return [Array(Integer, String)] a status, or what went wrong
    def send_to(hook, message, now)
      return [nil, "its secret is lost: remove it and add it anew"] if hook.secret.nil?

      signed = WebhookSignature.headers(hook.secret, message.id, now, message.body)
      headers = { "content-type" => "application/json", **signed }
      answer = Outgoing.guarded { connection.post(hook.url, message.body, headers) }
      [answer.status, answer.success? ? nil : "refused"]
    rescue Outgoing::Refused
      [nil, "inside the server's own network"]
    rescue Faraday::TimeoutError
      [nil, "no answer"]
    rescue Faraday::Error, URI::InvalidURIError, SystemCallError
      [nil, "not reached"]
    end

    def connection
      Faraday.new(request: { timeout: PATIENCE, open_timeout: PATIENCE }) { |to| to.adapter(:net_http) }
    end

    def note(outcome)
      delivery = Records::WebhookDelivery.find_by(id: outcome.id, state: "waiting") or return
      tried = { status: outcome.status, trouble: outcome.trouble, tried_at: outcome.at,
                attempts: delivery.attempts + 1 }
      delivery.webhook.update!(gone_at: outcome.at) if outcome.status == GONE
      wait = WAITS[delivery.attempts] unless outcome.status == GONE
      delivery.update!(**tried, **became(outcome.trouble, wait, outcome.at))
    end

    def became(trouble, wait, now)
      return { state: "delivered" } if trouble.nil?

      wait ? { state: "waiting", due: now + wait } : { state: "failed" }
    end
  end
end
