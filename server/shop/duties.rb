# frozen_string_literal: true

module Server
  # What the server does by itself, whether anybody asks it anything or not: releases begin to count, others are told of
  # what happens, and carts of old orders are forgotten. Each duty has a thread of its own, so that one that waits holds
  # up none of the others.
  class Duties
    # Seconds between two rounds, and at most after failures: each doubles the wait.
    PAUSE = 1.0
    LONGEST = 60.0
    # Seconds between two times that what checkouts asked is stored.
    STORE = 5
    # Seconds between two looks at what is kept for too long.
    TIDY = 3600
    ALL = %i[publish write_down asked proofs deliver tidy nightly].freeze
    private_constant :PAUSE, :LONGEST, :STORE, :TIDY, :ALL

    # @return [Nightly]
    attr_reader :backups

    # @param releases [ReleaseShelf]
    # @param suite [ProofSuite]
    # @param asked [Asked]
    # @param keys [KeyRing, nil]
    def initialize(releases:, suite:, asked: Asked.new, keys: nil)
      @releases = releases
      @suite = suite
      @asked = asked
      @keys = keys
      @deliveries = Deliveries.new
      @backups = Nightly.new
      @failing = nil
      @tidied = nil
    end

    # @return [Array<Thread>] that do their rounds until the server ends
    def start = ALL.map { |duty| Thread.new { rounds(duty) } }

    # All duties, one after the other.
    # @param now [Time]
    # @return [void]
    def round(now = Time.now)
      (ALL - [:deliver]).each { |duty| attend(duty, now) }
      @deliveries.round(now)
    end

    private

    def rounds(duty)
      wait = PAUSE
      loop do
        wait = attend(duty, Time.now) ? PAUSE : [wait * 2, LONGEST].min
        sleep wait
      end
    end

    # @return [Boolean] whether it went well; a busy database is tried again soon
    def attend(duty, now)
      send(duty, now)
      true
    rescue *Database::BUSY
      true
    rescue StandardError => e
      Log.fault(e, "its duties (#{duty})")
      false
    ensure
      ActiveRecord::Base.connection_handler.clear_active_connections!
    end

    # What is due begins to count, and counts from then on whatever the clock says.
    def publish(now)
      return if Records::Publication.standing.where(told: false).where("due <= ?", now).empty?

      Database.write do
        Records::Publication.standing.where(told: false).where("due <= ?", now).in_order.each do |one|
          Publishing.begin(one, now)
        end
      end
      @releases.changed
    end

    def write_down(_now)
      Announcements.write_down
      @keys&.write_down
    end

    def asked(now)
      return if @stored && (now - @stored).abs < STORE

      @asked.store { |taken| AskedRows.store(taken) }
      @stored = now
    end

    # Proofs that have begun to fail since the last round.
    def proofs(now)
      revision = Records::Store.revision
      return if revision.zero? || @looked == revision

      failing = @suite.run(now: now).list.select { |_, kept| kept.outcome.state == :changed }
      new = failing.except(*@failing) if @failing
      names = new.to_h.values.map { |kept| kept.proof.name }
      told = { proofs: names.first(50), count: names.size }
      Database.write { Announcements.tell("proof.failing", told, now: now) } if names.any?
      @failing = failing.keys
      @looked = revision
    end

    def deliver(now) = @deliveries.start(now)

    # Carts of orders are kept for as long as the merchant says; what was told, for a month.
    def tidy(now)
      return if @tidied && (now - @tidied).abs < TIDY

      days = Records::DoorSetting.current.evidence_days
      Records::Order.where("placed_at < ?", now - (days * 86_400)).where.not(cart: nil)
                    .update_all(cart: nil, recorded: nil)
      # What was tried to deliver them goes with them, by the database itself.
      Records::WebhookMessage.where("made_at < ?", now - (30 * 86_400)).delete_all
      [Sessions, AuditLog, AskedRows].each { |one| one.tidy(now) }
      Records::Invitation.where("ends_at < ?", now).delete_all
      @tidied = now
    end

    def nightly(now) = Records::Store.current && @backups.round(now)
  end
end
