# frozen_string_literal: true

module Server
  # What was done that is no edit of the setup (those are in the history): who came in, what was published, taken out,
  # opened or shut. It says neither from where nor with what.
  module AuditLog
    # What is told of; AuditEntry of the contract has the same list.
    WHAT = %w[signed_in sign_in_refused signed_out session_ended invited invitation_withdrawn joined reset_made
              password_changed role_changed person_removed codes_on codes_off recovery_codes_made recovery_code_used
              key_made key_changed key_rotated key_revoked door_changed webhook_made webhook_changed webhook_removed
              published went_back withdrawn exported backup_taken].freeze
    # Days that entries are kept.
    DAYS = 400

    class << self
      # @param what [Symbol] of {WHAT}
      # @param about [String, nil] a name: of a key, a person, a file
      # @param person [Records::Person, Asking, nil] who; whoever asks where nil
      # @return [void]
      def add(what, about: nil, person: nil, now: Time.now)
        raise ArgumentError, what.to_s unless WHAT.include?(what.to_s)

        who = person || Asking.now
        Database.write do
          Records::AuditEntry.create!(at: now, what: what, about: about&.slice(0, 200), person_id: who&.id,
                                      by: who&.name)
        end
      end

      # The same of what only reads: it does not wait for whoever writes, and where nothing can be written it is done
      # all the same.
      # @param what [Symbol]
      # @param about [String, nil]
      # @return [Thread] that notes it
      def add_beside(what, about: nil)
        who = Asking.now
        Beside.write("noting #{what}") { add(what, about: about, person: who) }
      end

      # @param before [Integer, nil] id of an entry: those before it
      # @param limit [Integer]
      # @return [Array<Records::AuditEntry>] the newest first
      def list(limit, before: nil)
        all = Records::AuditEntry.order(id: :desc).limit(limit)
        (before ? all.where("id < ?", before) : all).to_a
      end

      # @return [void] forgets what is older than {DAYS}
      def tidy(now = Time.now) = Records::AuditEntry.where("at < ?", now - (DAYS * 86_400)).delete_all
    end
  end
end
