# frozen_string_literal: true

module Server
  # Who may use the workbench, and the links that let somebody in.
  module People
    # Seconds that an invitation and a link for a new password hold.
    INVITED = 7 * 86_400
    RESET = 86_400

    @accounts = Remembered.new { Records::Person.exists? }

    class << self
      # @return [Boolean] whether there is an account: from then on everybody signs in
      def accounts? = @accounts.value

      # @return [void] whether there is one is looked up anew
      def changed = @accounts.forget

      # @param role [String]
      # @return [Array(Records::Invitation, String)] and the words of its link, which are told this once
      def invite(role, now: Time.now) = link({ role: role }, now + INVITED, now)

      # @param person [Records::Person]
      # @return [Array(Records::Invitation, String)] and the words of its link
      def reset(person, now: Time.now)
        Database.write do
          Records::Invitation.where(person: person).delete_all
          link({ person: person }, now + RESET, now)
        end
      end

      # @param words [String] of a link
      # @return [Records::Invitation]
      # @raise [Problem] 404
      def invitation(words, now: Time.now)
        Records::Invitation.open(now).find_by(digest: digest(words)) or
          raise Problem.new(404, "This link is used, or over. Ask an owner for a new one.")
      end

      # The first account, where nobody needs one yet: made by whoever is at this machine.
      # @param said [Hash] Joining of the contract
      # @return [Records::Person]
      # @raise [Problem] 409, 422
      def first(said)
        Database.write do
          raise Problem.new(409, "There is an account already. Sign in.") if Records::Person.exists?

          made(said, "owner")
        end.tap { changed }
      end

      # Uses a link up.
      # @param said [Hash] Joining of the contract
      # @return [Records::Person] a new one, or the one with a new password
      # @raise [Problem] 404, 422
      def join(said, now: Time.now)
        Database.write do
          link = invitation(said["link"].to_s, now: now)
          person = link.person ? renewed(link.person, said["password"]) : made(said, link.role)
          link.destroy!
          AuditLog.add(link.person_id ? :password_changed : :joined, about: person.role, person: person)
          person
        end.tap { changed }
      end

      # A new password ends every session of its person.
      # @param person [Records::Person]
      # @param password [String]
      # @return [Records::Person]
      # @raise [Problem] 422
      def renewed(person, password)
        Passwords.check(password, no_passwords(person))
        Sessions.end(person.sessions)
        person.tap { |one| one.update!(password: password) }
      end

      # @param person [Records::Person]
      # @param role [String]
      # @return [Records::Person]
      # @raise [Problem] 409 for the last owner
      def give(person, role)
        person.lock!
        keep_an_owner(person) unless role == "owner"
        person.update!(role: role)
        Sessions.changed
        person
      end

      # @param person [Records::Person]
      # @return [void]
      # @raise [Problem] 409 for the last owner
      def remove(person)
        person.lock!
        keep_an_owner(person)
        Sessions.end(person.sessions)
        person.destroy!
        changed
      end

      private

      # What everybody knows who tries: the person's names and the shop's.
      def no_passwords(person) = [person.name, person.email, Records::Store.current&.name]

      def link(fields, ends, now)
        words = SecureRandom.urlsafe_base64(24)
        made = Database.write do
          Records::Invitation.create!(**fields, digest: digest(words), by: Asking.now&.name, made_at: now,
                                                ends_at: ends)
        end
        [made, words]
      end

      def digest(words) = Digest::SHA256.hexdigest(words)

      def made(said, role)
        person = Records::Person.new(name: said["name"].to_s, email: said["email"].to_s, role: role, made_at: Time.now)
        person.password_digest = "none yet"
        person.valid? or raise Problem.of_record(person)
        person.password = Passwords.check(said["password"], no_passwords(person))
        person.tap(&:save!)
      end

      def keep_an_owner(person)
        return unless person.last_owner?

        raise Problem.new(409, "This is the last owner. Make somebody else an owner first.")
      end
    end
  end
end
