# frozen_string_literal: true

require "bcrypt"

module Server
  # Somebody signs in: with their email, their password and, where they have that on, a one-time code. What is wrong is
  # not said, and takes as long as what is right; who tries too often waits.
  module SignIn
    # How often one may be wrong in so many seconds, and for how many seconds nothing is tried after that: with one
    # account from one address, with one account from anywhere, and from one address with any account.
    PACES = { pair: [5, 900, 900], account: [50, 3600, 900], address: [30, 900, 900] }.freeze
    WRONG = "The email or the password is wrong."
    WRONG_CODE = "The password is right, the code is wrong or used."
    private_constant :PACES, :WRONG, :WRONG_CODE

    class << self
      # @param said [Hash] SignIn of the contract
      # @param address [String] of who asks
      # @return [Records::Person]
      # @raise [Problem] 401 (code_wanted: where the password is right and a code is missing), 429
      def person(said, address)
        email = said["email"].strip.downcase
        bar(email, address)
        person = Records::Person.find_by(email: email)
        refuse(email, address, person, WRONG) unless right?(person, said["password"])
        check_code(person, said["code"].to_s.strip, email, address) if person.codes
        AuditLog.add(:signed_in, person: person)
        person
      end

      # @param person [Records::Person]
      # @param password [String] their own, asked for once more before what matters
      # @param address [String]
      # @return [void]
      # @raise [Problem] 422, 429
      def confirm(person, password, address)
        bar(person.email.downcase, address)
        return if right?(person, password)

        count(person.email.downcase, address)
        raise Problem.at("/current", :password_wrong)
      end

      private

      def right?(person, password)
        readable = password.bytesize <= Passwords::MOST && !password.include?("\0")
        held = person || Records::Person.new(password_digest: nobody)
        held.authenticate(readable ? password : "") && readable && !person.nil?
      end

      # What is held against it where there is no such person, so that it takes as long.
      def nobody = @nobody ||= BCrypt::Password.create(SecureRandom.hex(16)).to_s

      def check_code(person, code, email, address)
        if code.empty?
          raise Problem.new(401, "Type the code that your telephone shows, or a recovery code.", code_wanted: true)
        end

        with = OneTimeCodes.spend(person, code) or
          refuse(email, address, person, WRONG_CODE, code_wanted: true)
        AuditLog.add(:recovery_code_used, person: person) if with == :recovery
      end

      def refuse(email, address, person, words, **more)
        count(email, address)
        AuditLog.add(:sign_in_refused, about: person&.name)
        raise Problem.new(401, words, **more)
      end

      # Counted in memory: what counts is that nobody tries thousands.
      def bar(email, address)
        return if names(email, address).none? { |_, name| Rack::Attack::Allow2Ban.banned?(name) }

        wait = PACES[:pair].last
        raise Problem.new(429, "Too many tries. Wait a quarter of an hour, or have an owner make you a new link.",
                          retry_after: wait)
      end

      def count(email, address)
        names(email, address).each do |kind, name|
          most, find, ban = PACES[kind]
          Rack::Attack::Allow2Ban.filter(name, maxretry: most, findtime: find, bantime: ban) { true }
        end
      end

      def names(email, address)
        account = Digest::SHA256.hexdigest(email)[0, 32]
        { pair: "sign-in #{account} #{address}", account: "sign-in #{account}", address: "sign-in from #{address}" }
      end
    end
  end
end
