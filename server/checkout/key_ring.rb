# frozen_string_literal: true

module Server
  # The keys of checkouts, as the door looks at them: each is made, told once, and kept as a digest alone. What they are
  # is in memory; when each was last used is written down once in a while.
  class KeyRing
    # Seconds between two notes that a key was used.
    NOTED = 60
    # Characters of a key that are shown of it afterwards.
    SHOWN = 12
    SECRET = "gmk_"
    PUBLIC = "gmp_"
    # Requests in a minute, where nobody says otherwise.
    PACE = 600
    # Keys that one statement writes, at most.
    AT_ONCE = 200
    private_constant :NOTED, :SHOWN, :AT_ONCE

    # A key that opens the door.
    Key = Struct.new(:id, :name, :public, :family, :origins, :calls, :pace, :ends_at) do
      # @param origin [String, nil]
      # @return [Boolean]
      def lets?(origin) = !public || (!origin.nil? && origins.include?(origin.downcase))

      # @param call [String]
      # @return [Boolean]
      def for?(call) = calls.include?(call) || (call == "orders" && relays?)

      # @return [Boolean] whether it is a quote server's, which hands on what shops told it
      def relays? = calls.include?("state")
    end

    class << self
      # @param said [Hash] CheckoutKeyDraft of the contract
      # @param family [String, nil] of the key whose place it takes
      # @return [Array(Records::CheckoutKey, String)] with the key itself, which is told this once
      # @raise [ActiveRecord::RecordInvalid]
      def make(said, family: nil)
        key = (said["public"] ? PUBLIC : SECRET) + SecureRandom.alphanumeric(40)
        made = Records::CheckoutKey.new(
          name: said["name"].to_s.strip, public: said["public"] || false, digest: digest(key), start: key.first(SHOWN),
          family: family || Records::Base.new_id, origins: said["origins"].to_a, calls: said["calls"],
          pace: said["pace"] || PACE, made_at: Time.now
        )
        made.save!
        [made, key]
      end

      # @param list [Array<Array>] as {#dump} wrote it
      # @return [Hash{String => Key}] by digest
      def read(list)
        list.to_h { |digest, *fields, ends| [digest, Key.new(*fields, ends && Time.at(ends))] }
      end

      # @return [Hash{String => Key}] by digest, as they are stored
      def stored
        Records::CheckoutKey.where(revoked_at: nil).to_h do |one|
          [one.digest, Key.new(one.id, one.name, one.public, one.family, one.origins, one.calls, one.pace, one.ends_at)]
        end
      end

      # @param key [String]
      # @return [String]
      def digest(key) = Digest::SHA256.hexdigest(key)
    end

    # @param source [#call, nil] says which keys there are, by digest; nil for those that are stored
    def initialize(source = nil)
      @source = source
      @stored = Remembered.new { KeyRing.stored }
      @used = {}
      @noted = {}
      @lock = Mutex.new
    end

    # What is known of the keys is read anew.
    # @return [void]
    def changed = @stored.forget

    # @param env [Hash] of Rack
    # @param now [Time]
    # @return [Key, nil] nil without a key that opens the door
    def key(env, now = Time.now)
      scheme, text = env["HTTP_AUTHORIZATION"].to_s.split(" ", 2)
      return unless scheme&.casecmp?("bearer") && text

      found = known[KeyRing.digest(text)]
      return if found.nil? || (found.ends_at && found.ends_at <= now)

      note(found.id, now)
      found
    end

    # @param origin [String]
    # @return [Boolean] whether any public key is for pages of that origin
    def origin?(origin) = known.each_value.any? { |key| key.public && key.lets?(origin) }

    # @return [Array<Array>] for JSON
    def dump = known.map { |digest, key| [digest, *key.to_a[0..-2], key.ends_at&.to_f] }

    # Writes down when each was last used, in a request's stead.
    # @return [void]
    def write_down
      due = @lock.synchronize { @used.select { |id, at| @noted[id].nil? || (at - @noted[id]).abs >= NOTED } }
      return if due.empty?

      Database.write { due.each_slice(AT_ONCE) { |some| write_used(some.to_h) } }
      @lock.synchronize { @noted.merge!(due) }
    end

    private

    # Writes many keys in one statement.
    def write_used(moments)
      used_at = Records::CheckoutKey.arel_table[:used_at]
      each = moments.inject(Arel::Nodes::Case.new(Records::CheckoutKey.arel_table[:id])) do |so_far, (id, at)|
        so_far.when(id).then(Arel::Nodes.build_quoted(at, used_at))
      end
      Records::CheckoutKey.where(id: moments.keys).update_all(used_at: each)
    end

    def known = @source ? @source.call : @stored.value

    def note(id, now)
      @lock.synchronize { @used[id] = now } unless @source
    end
  end
end
