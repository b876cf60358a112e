# frozen_string_literal: true

module Server
  # What was done that is no edit of the setup (those are in the history): who came in, what was published, taken out,
  # opened or shut, and from which network. It says not with what.
  module AuditLog
    # What is told of; AuditEntry of the contract has the same list.
    WHAT = %w[signed_in sign_in_refused signed_out session_ended invited invitation_withdrawn joined reset_made
              password_changed role_changed person_removed codes_on codes_off recovery_codes_made recovery_code_used
              key_made key_changed key_rotated key_revoked door_changed webhook_made webhook_changed webhook_removed
              published went_back withdrawn exported backup_taken access_refused].freeze
    # Bits of an address that are kept: of IPv4 and of IPv6.
    NETWORK = [24, 48].freeze
    # Seconds for which the same refusal of the same person is told once.
    SILENCE = 60
    private_constant :NETWORK, :SILENCE
    @refused = {}
    @lock = Mutex.new

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
                                      by: who&.name, source: source)
        end
      end

      # What somebody asked for and may not do. The same is told once a minute.
      # @param what [String] they asked for: a method and an address
      # @return [Thread, nil] that notes it
      def refused(what, now: Database.now)
        key = [Asking.now&.id, what].join(" ")
        fresh = @lock.synchronize do
          @refused.reject! { |_, at| now - at >= SILENCE }
          @refused.key?(key) ? false : @refused[key] = now
        end
        add_beside(:access_refused, about: what) if fresh
      end

      # @param address [String, nil] of who asks
      # @return [String, nil] its network: 203.0.113.0/24, 2001:db8:7::/48
      def network(address)
        ip = IPAddr.new(address.to_s[/\A[^%]+/].to_s)
        ip = ip.native if ip.ipv4_mapped?
        bits = NETWORK[ip.ipv4? ? 0 : 1]
        "#{ip.mask(bits)}/#{bits}"
      rescue IPAddr::Error
        nil
      end

      # The same of what only reads: it does not wait for whoever writes, and where nothing can be written it is done
      # all the same.
      # @param what [Symbol]
      # @param about [String, nil]
      # @return [Thread] that notes it
      def add_beside(what, about: nil)
        who = Asking.now
        from = Asking.from
        Beside.write("noting #{what}") { Asking.at(from) { add(what, about: about, person: who) } }
      end

      # @param before [Integer, nil] id of an entry: those before it
      # @param limit [Integer]
      # @return [Array<Records::AuditEntry>] the newest first
      def list(limit, before: nil)
        all = Records::AuditEntry.order(id: :desc).limit(limit)
        (before ? all.where("id < ?", before) : all).to_a
      end

      # @return [Integer] id of the newest entry, 0 where there is none
      def newest = Records::AuditEntry.maximum(:id).to_i

      # @return [void] forgets what is older than {DAYS}
      def tidy(now = Time.now) = Records::AuditEntry.where("at < ?", now - (DAYS * 86_400)).delete_all

      private

      def source = network(Asking.from)
    end
  end
end
