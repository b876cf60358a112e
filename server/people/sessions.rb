# frozen_string_literal: true

module Server
  # Browsers in which somebody is signed in: the cookie of each holds 256 random bits. Who that is, is kept in memory
  # for a few seconds, so that a quote looks nothing up.
  module Sessions
    # Seconds after which one ends that was not used, and after which one ends in any case.
    IDLE = 12 * 3600
    LONGEST = 7 * 86_400
    # Seconds for which what is known counts without a look: what a command on the machine ends is over by then.
    KNOWN = 5
    # Seconds between two notes that one was used.
    NOTED = 60
    # Of which a cookie with the prefix is taken from a secure connection alone (RFC 6265bis, 4.1.3.2).
    NAMES = %w[__Host-gate-mile gate-mile].freeze
    # The one with the prefix counts where both are sent: the other may come from anybody who speaks for a name below.
    COOKIES = NAMES.map { |name| /(?:\A|; ?)#{name}=([\w-]{43})(?:;|\z)/ }.freeze
    BROWSERS = { "Edg" => "Edge", "OPR" => "Opera", "Firefox" => "Firefox", "Chrome" => "Chrome",
                 "Safari" => "Safari" }.freeze
    SYSTEMS = { "Android" => "Android", "iPhone" => "iPhone", "iPad" => "iPad", "Windows" => "Windows",
                "Mac OS" => "macOS", "Linux" => "Linux" }.freeze
    LOCK = Mutex.new
    private_constant :KNOWN, :NOTED, :NAMES, :COOKIES, :BROWSERS, :SYSTEMS, :LOCK

    @known = {}

    class << self
      # @param person [Records::Person]
      # @param env [Hash] of Rack
      # @return [String] the cookie to set
      def make(person, env, now: Time.now)
        token = SecureRandom.urlsafe_base64(32)
        Database.write do
          Records::Session.create!(person: person, digest: digest(token), browser: browser(env["HTTP_USER_AGENT"].to_s),
                                   made_at: now, seen_at: now)
        end
        cookie(env, token, LONGEST)
      end

      # @param env [Hash] of Rack
      # @return [String] the cookie that takes the other one away
      def gone(env) = cookie(env, "", 0)

      # @param env [Hash] of Rack
      # @return [Asking, nil] nil without a cookie of a session that lasts
      def asking(env, now: Time.now)
        sent = env["HTTP_COOKIE"] or return
        token = COOKIES.lazy.filter_map { |cookie| sent[cookie, 1] }.first or return
        of(token, now)
      end

      # @param sessions [ActiveRecord::Relation]
      # @return [Integer] how many were ended
      def end(sessions) = Database.write { sessions.delete_all }.tap { changed }

      # @return [ActiveRecord::Relation] those that last
      def lasting(now = Time.now) = Records::Session.where("made_at > ? AND seen_at > ?", now - LONGEST, now - IDLE)

      # @return [void] what is known is looked up anew
      def changed = LOCK.synchronize { @known = {} }

      # @return [void] forgets those that are over
      def tidy(now = Time.now)
        Records::Session.where("made_at <= ? OR seen_at <= ?", now - LONGEST, now - IDLE).delete_all
      end

      private

      def digest(token) = Digest::SHA256.hexdigest(token)

      # Read without the lock: what is known is replaced as a whole, and never changed.
      def of(token, now)
        asking, ends = @known[token]
        return asking if ends && ends > now

        asking = looked_up(digest(token), now)
        LOCK.synchronize { @known = @known.size > 1000 ? {} : @known.merge(token => [asking, now + KNOWN]) } if asking
        asking
      end

      def looked_up(digest, now)
        found = lasting(now).includes(:person).find_by(digest: digest) or return
        note(found, now)
        Asking.new(found.person_id, found.person.name, found.person.role, found.id).freeze
      ensure
        handler = ActiveRecord::Base.connection_handler
        handler.clear_active_connections! if handler.active_connections?
      end

      def note(session, now)
        return if now - session.seen_at < NOTED

        Records::Session.where(id: session.id).update_all(seen_at: now)
      rescue *Database::BUSY, ActiveRecord::StatementInvalid
        nil # noted another time
      end

      def cookie(env, token, seconds)
        secure = Rack::Request.new(env).ssl?
        "#{NAMES[secure ? 0 : 1]}=#{token}; Path=/; HttpOnly; SameSite=Strict; Max-Age=#{seconds}" \
          "#{"; Secure" if secure}"
      end

      # What it calls itself, in two words, for the list.
      def browser(agent)
        [BROWSERS.find { |sign, _| agent.include?(sign) }&.last || "A browser",
         SYSTEMS.find { |sign, _| agent.include?(sign) }&.last].compact.join(" on ")
      end
    end
  end
end
