# frozen_string_literal: true

require "bcrypt"

module Server
  # Somebody signs in: with their email, their password and, where they have that on, a one-time code. What is wrong is
  # not said, and takes as long as what is right; who tries too often waits.
  module SignIn
    # How often one may be wrong in so many seconds, and for how many seconds nothing is tried after that: with one
    # account from one address or one browser that is known as theirs, with one account from anywhere, and from one
    # address with any account.
    PACES = { pair: [5, 900, 900], account: [50, 3600, 900], address: [30, 900, 900] }.freeze
    WRONG = "The email or the password is wrong."
    WRONG_CODE = "The password is right, the code is wrong or used."
    private_constant :PACES, :WRONG, :WRONG_CODE
    @tries = Tries.new

    class << self
      # @return [Tries]
      attr_reader :tries

      # @param said [Hash] SignIn of the contract
      # @param env [Hash] of Rack: whose browser it is known as
      # @param address [String] of who asks
      # @return [Records::Person]
      # @raise [Problem] 401 (code_wanted: where the password is right and a code is missing), 429
      def person(said, env, address)
        email = said["email"].strip.downcase
        person = Records::Person.find_by(email: email)
        trying(email, address, KnownBrowser.of(person, env)) do
          refuse(person, WRONG) unless right?(person, said["password"])
          check_code(person, said["code"].to_s.strip) if person.codes
        end
        AuditLog.add(:signed_in, person: person)
        person
      end

      # @param person [Records::Person]
      # @param password [String] their own, asked for once more before what matters
      # @param address [String]
      # @return [void]
      # @raise [Problem] 422, 429
      def confirm(person, password, address)
        trying(person.email.downcase, address) do
          raise Problem.at("/current", :password_wrong) unless right?(person, password)
        end
      end

      private

      def right?(person, password)
        readable = password.bytesize <= Passwords::MOST && !password.include?("\0")
        held = person || Records::Person.new(password_digest: nobody)
        held.authenticate(readable ? password : "") && readable && !person.nil?
      end

      # What is held against it where there is no such person, so that it takes as long.
      def nobody = @nobody ||= BCrypt::Password.create(SecureRandom.hex(16)).to_s

      def check_code(person, code)
        if code.empty?
          raise Problem.new(401, "Type the code that your telephone shows, or a recovery code.", code_wanted: true)
        end

        with = OneTimeCodes.spend(person, code) or refuse(person, WRONG_CODE, code_wanted: true)
        AuditLog.add(:recovery_code_used, person: person) if with == :recovery
      end

      def refuse(person, words, **more)
        AuditLog.add(:sign_in_refused, about: person&.name)
        raise Problem.new(401, words, **more)
      end

      # A try counts before it is made. One that goes well, or that a code is still missing for, is taken back.
      def trying(email, address, browser = nil)
        limits = limits(email, address, browser)
        wait = @tries.take(limits)
        refuse_for(wait) if wait
        yield.tap { @tries.give_back(limits.keys) }
      rescue Problem => e
        @tries.give_back(limits.keys) if e.status == 401 && e.body[:code_wanted] && e.message != WRONG_CODE
        raise
      end

      def refuse_for(wait)
        raise Problem.new(429, "Too many tries. Wait a quarter of an hour, or have an owner make you a new link.",
                          retry_after: wait.ceil)
      end

      # Counted in memory: what counts is that nobody tries thousands. Whoever guesses from elsewhere does not lock out
      # a browser in which that person has signed in before.
      def limits(email, address, browser)
        account = Digest::SHA256.hexdigest(email)[0, 32]
        return { "#{account} in #{browser}" => PACES[:pair] } if browser

        { "#{account} from #{address}" => PACES[:pair], account => PACES[:account],
          "from #{address}" => PACES[:address] }
      end
    end
  end
end
