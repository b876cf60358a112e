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
    private_constant :NOTED, :SHOWN

    # A key that opens the door.
    Key = Struct.new(:id, :name, :public, :family, :origins, :calls, :pace, :ends_at) do
      # @param origin [String, nil]
      # @return [Boolean]
      def lets?(origin) = !public || (!origin.nil? && origins.include?(origin.downcase))
    end

    class << self
      # @param said [Hash] CheckoutKeyDraft of the contract
      # @param family [String, nil] of the key whose place it takes
      # @return [Array(Records::CheckoutKey, String)] with the key itself, which is told this once
      # @raise [ActiveRecord::RecordInvalid]
      def make(said, family: nil)
        key = (said["public"] ? PUBLIC : SECRET) + SecureRandom.alphanumeric(40)
        calls = said["public"] ? said["calls"] - Records::CheckoutKey::SERVER_ONLY : said["calls"]
        made = Records::CheckoutKey.new(
          name: said["name"].to_s.strip, public: said["public"] || false, digest: digest(key), start: key.first(SHOWN),
          family: family || Records::Base.new_id, origins: said["origins"].to_a, calls: calls,
          pace: said["pace"] || PACE, made_at: Time.now
        )
        made.save!
        [made, key]
      end

      # @param key [String]
      # @return [String]
      def digest(key) = Digest::SHA256.hexdigest(key)
    end

    def initialize
      @used = {}
      @lock = Mutex.new
      changed
    end

    # What is known of the keys is read anew.
    # @return [void]
    def changed = @known = nil

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

    # @param family [String]
    # @return [Boolean] whether some key of it opens the door
    def family?(family) = known.each_value.any? { |key| key.family == family }

    private

    def known
      @known ||= Records::CheckoutKey.where(revoked_at: nil).to_h do |one|
        [one.digest, Key.new(one.id, one.name, one.public, one.family, one.origins, one.calls, one.pace, one.ends_at)]
      end
    end

    def note(id, now)
      due = @lock.synchronize do
        next false if @used[id] && now - @used[id] < NOTED

        @used[id] = now
      end
      Records::CheckoutKey.where(id: id).update_all(used_at: now) if due
    rescue *Database::BUSY
      nil
    end
  end
end
