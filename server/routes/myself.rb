# frozen_string_literal: true

module Server
  module Routes
    # Whoever is signed in: name, email, password, one-time codes, and the browsers in which they are.
    module Myself
      def self.registered(app)
        myself(app)
        codes(app)
      end

      class << self
        # @return [Records::Person]
        # @raise [Problem] 409 where nobody signs in here yet
        def me
          asking = Asking.now or raise Problem.new(409, "Nobody is signed in. Make the first account first.")
          Records::Person.find(asking.id)
        end

        # @param said [Hash] Confirmation of the contract
        # @param address [String] of who asks
        # @return [Records::Person] whoever asks, and has typed their password again
        # @raise [Problem] 409, 422, 429
        def confirmed(said, address) = me.tap { |person| SignIn.confirm(person, said["current"], address.to_s) }

        # @param person [Records::Person]
        # @param said [Hash] MePatch of the contract
        # @return [void]
        # @raise [Problem] 422
        def changed(person, said)
          person.assign_attributes(said.slice("name", "email"))
          person.save or raise Problem.of_record(person)
          Sessions.changed
          return unless said.key?("password")

          Server::People.renewed(person, said["password"])
          AuditLog.add(:password_changed, about: person.name)
        end

        private

        def myself(app)
          app.get "/api/me" do
            next answer({ person: nil, recovery_codes: 0, sessions: [] }) if Asking.now.nil?

            me = Myself.me
            sessions = Sessions.lasting.where(person_id: me.id).order(seen_at: :desc)
            answer({ person: me.document, recovery_codes: me.recovery_codes.count,
                     sessions: sessions.map { |one| one.document.merge(current: one.id == Asking.now.session) } })
          end

          app.patch "/api/me" do
            body = body_of("MePatch")
            me = Myself.me
            SignIn.confirm(me, body["current"].to_s, request.ip.to_s) if body.key?("email") || body.key?("password")
            Database.write { Myself.changed(found_as_shown(Records::Person, me.id, body["edition"]), body) }
            me.reload
            # Whoever knew the old password is out; the one who has changed it stays in.
            headers "set-cookie" => Sessions.make(me, env) if body.key?("password")
            answer(me.document)
          end

          app.delete "/api/me/sessions/:id" do
            mine = Records::Session.where(person_id: Myself.me.id)
            others = params["id"] == "others"
            ended = Sessions.end(others ? mine.where.not(id: Asking.now.session) : mine.where(id: params["id"]))
            raise Problem.new(404, "It has ended already.") if ended.zero? && !others

            AuditLog.add(:session_ended)
            done
          end
        end

        def codes(app)
          app.post "/api/me/codes" do
            me = Myself.confirmed(body_of("Confirmation"), request.ip)
            answer(OneTimeCodes.begin(me), 201)
          end

          app.put "/api/me/codes" do
            recovery = OneTimeCodes.switch_on(Myself.me, body_of("OneTimeCode")["code"]) or
              raise Problem.at("/code", :code_wrong)
            AuditLog.add(:codes_on)
            answer({ recovery_codes: recovery })
          end

          app.post "/api/me/codes/recovery" do
            me = Myself.confirmed(body_of("Confirmation"), request.ip)
            raise Problem.new(409, "Switch one-time codes on first.") unless me.codes

            AuditLog.add(:recovery_codes_made)
            answer({ recovery_codes: OneTimeCodes.make_recovery(me) })
          end

          app.post "/api/me/codes/off" do
            OneTimeCodes.switch_off(Myself.confirmed(body_of("Confirmation"), request.ip))
            AuditLog.add(:codes_off)
            done
          end
        end
      end
    end
  end
end
