# frozen_string_literal: true

require "faraday"

module Server
  # Sends what is due to be told, and tries again later what did not arrive. The waits are those that the Standard
  # Webhooks specification recommends.
  class Deliveries
    WAITS = [5, 300, 1800, 7200, 18_000, 36_000, 50_400, 72_000, 86_400].freeze
    # Seconds that a receiver may take.
    PATIENCE = 10
    # Messages sent in one go, at the same time.
    TOGETHER = 8
    GONE = 410
    private_constant :TOGETHER, :GONE

    # @param now [Time]
    # @return [Integer] how many were sent
    def round(now = Time.now)
      due = Records::WebhookDelivery.where(state: "waiting").where("due <= ?", now).order(:due, :id)
                                    .includes(:webhook, :message).limit(TOGETHER).to_a
      sent = due.map { |one| Thread.new { send_to(one.webhook, one.message, now) } }
      due.zip(sent.map(&:value)).each { |one, (status, trouble)| note(one, status, trouble, now) }
      due.size
    end

    private

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

    def note(delivery, status, trouble, now)
      tried = { status: status, trouble: trouble, tried_at: now, attempts: delivery.attempts + 1 }
      delivery.webhook.update!(gone_at: now) if status == GONE
      wait = WAITS[delivery.attempts] unless status == GONE
      delivery.update!(**tried, **outcome(trouble, wait, now))
    end

    def outcome(trouble, wait, now)
      return { state: "delivered" } if trouble.nil?

      wait ? { state: "waiting", due: now + wait } : { state: "failed" }
    end
  end
end
