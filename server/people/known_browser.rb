# frozen_string_literal: true

require "active_support/message_verifier"

module Server
  # A browser in which somebody has signed in before: its cookie says whose it was. It lets nobody in; it is not locked
  # out when others guess at that account from elsewhere. It ends with the password that it was made with.
  module KnownBrowser
    COOKIE = "gate-mile-known"
    FIND = /(?:\A|; ?)gate-mile-known=([\w.=%+-]{1,400})(?:;|\z)/
    # Seconds.
    LASTS = 365 * 86_400
    private_constant :COOKIE, :FIND, :LASTS

    class << self
      # @param person [Records::Person]
      # @param env [Hash] of Rack
      # @return [String] the cookie to set
      def cookie(person, env)
        token = verifier.generate([person.id, mark(person)], expires_in: LASTS)
        "#{COOKIE}=#{token}; Path=/api/session; HttpOnly; SameSite=Strict; Max-Age=#{LASTS}" \
          "#{"; Secure" if Rack::Request.new(env).ssl?}"
      end

      # @param person [Records::Person, nil]
      # @param env [Hash] of Rack
      # @return [String, nil] what tells the browser from others; nil where it is not known as this person's
      def of(person, env)
        token = env["HTTP_COOKIE"]&.[](FIND, 1) or return
        return if person.nil? || verifier.verified(token) != [person.id, mark(person)]

        Digest::SHA256.hexdigest(token)[0, 32]
      end

      private

      def mark(person) = Digest::SHA256.hexdigest(person.password_digest)[0, 16]

      def verifier
        key = OpenSSL::HMAC.digest("SHA256", Keys.seal.last, "browsers that are known")
        ActiveSupport::MessageVerifier.new(key, digest: "SHA256", serializer: JSON, url_safe: true)
      end
    end
  end
end
