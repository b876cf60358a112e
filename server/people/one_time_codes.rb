# frozen_string_literal: true

require "rotp"
require "rqrcode"

module Server
  # The second thing that somebody shows to sign in: a code of six digits that their telephone reckons from a secret and
  # the time (RFC 6238), or one of ten recovery codes.
  module OneTimeCodes
    ISSUER = "Gate Mile"
    # Seconds that clocks may differ, beside the period of 30.
    DRIFT = 30
    RECOVERY = 10
    private_constant :ISSUER, :DRIFT

    class << self
      # A new secret, which counts from when a code of it was shown.
      # @param person [Records::Person]
      # @return [Hash] CodeSecret of the contract: secret, address (otpauth) and the same as a picture to scan
      # @raise [Problem] 409 where they are asked for already: to begin anew would take them off meanwhile
      def begin(person)
        raise Problem.new(409, "One-time codes are on. Switch them off first.") if person.codes

        secret = ROTP::Base32.random
        Database.write { person.update!(code_secret: secret, codes: false, code_used: nil) }
        address = ROTP::TOTP.new(secret, issuer: ISSUER).provisioning_uri(person.email)
        drawn = RQRCode::QRCode.new(address).as_svg(module_size: 4, use_path: true, viewbox: true, offset: 16,
                                                    fill: "ffffff")
        { secret: secret, address: address, picture: drawn }
      end

      # @param person [Records::Person]
      # @param code [String]
      # @return [Array<String>, nil] ten recovery codes, told this once; nil where the code is wrong
      def switch_on(person, code)
        Database.write do
          next unless reckoned?(person, code)

          person.update!(codes: true)
          make_recovery(person)
        end
      end

      # @param person [Records::Person]
      # @return [Array<String>] ten new ones; the old ones count no more
      def make_recovery(person)
        codes = Array.new(RECOVERY) { Array.new(2) { SecureRandom.alphanumeric(5).downcase }.join("-") }
        Database.write do
          person.recovery_codes.delete_all
          codes.each { |code| person.recovery_codes.create!(digest: digest(code)) }
        end
        codes
      end

      # @param person [Records::Person]
      # @return [void]
      def switch_off(person)
        Database.write do
          person.recovery_codes.delete_all
          person.update!(codes: false, code_secret: nil, code_used: nil)
        end
      end

      # @param person [Records::Person]
      # @param text [String] what was typed
      # @return [Symbol, nil] :code or :recovery, which is used up by that; nil where it is neither
      def spend(person, text)
        plain = text.downcase.gsub(/\s/, "")
        Database.write do
          next :code if reckoned?(person, plain)

          :recovery if person.recovery_codes.where(digest: digest(plain)).delete_all == 1
        end
      end

      private

      # Each code counts once: RFC 6238, 5.2. Which one was used last is read under the lock that writes it, so that two
      # who come at once do not both find theirs unused.
      def reckoned?(person, code)
        person.reload
        return false if person.code_secret.nil? || !code.match?(/\A\d{6}\z/)

        at = ROTP::TOTP.new(person.code_secret).verify(code, drift_behind: DRIFT, drift_ahead: DRIFT,
                                                             after: person.code_used)
        at && person.update!(code_used: at)
      end

      # Of fifty random bits and more, so that nothing is won by a slow one.
      def digest(code) = Digest::SHA256.hexdigest(code)
    end
  end
end
