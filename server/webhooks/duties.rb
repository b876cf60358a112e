# frozen_string_literal: true

module Server
  # What the server does by itself, whether anybody asks it anything or not: releases begin to count, others are told of
  # what happens, and carts of old orders are forgotten.
  class Duties
    # Seconds between two rounds.
    PAUSE = 1.0
    # Seconds between two times that what checkouts asked is stored.
    STORE = 5
    # Seconds between two looks at what is kept for too long.
    TIDY = 3600
    private_constant :PAUSE, :STORE, :TIDY

    # @param releases [ReleaseShelf]
    # @param suite [ProofSuite]
    # @param asked [Asked]
    def initialize(releases:, suite:, asked: Asked.new)
      @releases = releases
      @suite = suite
      @asked = asked
      @deliveries = Deliveries.new
      @nightly = Nightly.new
      @failing = nil
      @tidied = nil
    end

    # @return [Thread] that does its rounds until the server ends
    def start
      Thread.new do
        loop do
          round
          sleep PAUSE
        end
      end
    end

    # @param now [Time]
    # @return [void]
    def round(now = Time.now)
      each_duty(now, &:call)
    ensure
      ActiveRecord::Base.connection_handler.clear_active_connections!
    end

    private

    # What goes wrong with one leaves the others as they are.
    def each_duty(now)
      [-> { publish(now) }, -> { asked(now) }, -> { proofs(now) }, -> { @deliveries.round(now) }, -> { tidy(now) },
       -> { @nightly.round(now) if Records::Store.current }].each do |duty|
        yield duty
      rescue *Database::BUSY
        nil
      rescue StandardError => e
        Log.fault(e, "its duties")
      end
    end

    # What is due begins to count, and counts from then on whatever the clock says.
    def publish(now)
      due = Records::Publication.standing.where(told: false).where("due <= ?", now).in_order.to_a
      return if due.empty?

      Database.write do
        due.each do |one|
          one.update!(told: true)
          Announcements.published(one, now: now)
        end
      end
      @releases.changed
    end

    def asked(now)
      return if @stored && now - @stored < STORE

      @stored = now
      AskedRows.store(@asked.take)
    end

    # Proofs that have begun to fail since the last round.
    def proofs(now)
      return if Records::Store.revision.zero? || @looked == Records::Store.revision

      @looked = Records::Store.revision
      failing = @suite.run(now: now).list.select { |_, kept| kept.outcome.state == :changed }
      new = failing.except(*@failing) if @failing
      @failing = failing.keys
      names = new.to_h.values.map { |kept| kept.proof.name }
      Announcements.tell("proof.failing", { proofs: names.first(50), count: names.size }, now: now) if names.any?
    end

    # Carts of orders are kept for as long as the merchant says; what was told, for a month.
    def tidy(now)
      return if @tidied && now - @tidied < TIDY

      @tidied = now
      days = Records::DoorSetting.current.evidence_days
      Records::Order.where("placed_at < ?", now - (days * 86_400)).where.not(cart: nil)
                    .update_all(cart: nil, recorded: nil)
      Records::WebhookMessage.where("made_at < ?", now - (30 * 86_400)).destroy_all
      [Sessions, AuditLog, AskedRows].each { |one| one.tidy(now) }
      Records::Invitation.where("ends_at < ?", now).delete_all
    end
  end
end
