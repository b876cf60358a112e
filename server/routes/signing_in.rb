# frozen_string_literal: true

module Server
  module Routes
    # Signing in and out, and the links that let somebody in.
    module SigningIn
      def self.registered(app)
        session(app)
        joining(app)
      end

      class << self
        # @param person [Records::Person, nil]
        # @param env [Hash] of Rack
        # @return [Hash] SessionState of the contract
        def state(person, env)
          { person: person&.document, accounts: Server::People.accounts?,
            open: person.nil? && !Server::People.accounts? && Admission.here?(env) }
        end

        private

        def session(app)
          app.get "/api/session" do
            answer(SigningIn.state(Asking.now && Records::Person.find_by(id: Asking.now.id), env))
          end

          app.post "/api/session" do
            person = SignIn.person(body_of("SignIn"), env, request.ip.to_s)
            headers "set-cookie" => [Sessions.make(person, env), KnownBrowser.cookie(person, env)]
            answer(SigningIn.state(person, env))
          end

          app.delete "/api/session" do
            if (asking = Asking.now)
              AuditLog.add(:signed_out)
              Sessions.end(Records::Session.where(id: asking.session))
            end
            headers "set-cookie" => Sessions.gone(env)
            done
          end
        end

        def joining(app)
          app.post "/api/joining/look" do
            link = Server::People.invitation(body_of("InvitationWords")["link"])
            person = link.person
            answer({ role: link.role || person.role, by: link.by, person: person&.name, email: person&.email })
          end

          app.post "/api/joining" do
            person = Server::People.join(body_of("Joining"))
            # A link replaces a password that was forgotten, and no one-time code.
            next answer(SigningIn.state(nil, env), 201) if person.codes

            headers "set-cookie" => Sessions.make(person, env)
            AuditLog.add(:signed_in, person: person)
            answer(SigningIn.state(person, env), 201)
          end

          app.post "/api/joining/first" do
            unless Admission.here?(env)
              raise Problem.new(403, "The first account is made on this machine, or with the link of bin/people owner.")
            end

            person = Server::People.first(body_of("FirstAccount"))
            AuditLog.add(:joined, about: "owner", person: person)
            headers "set-cookie" => Sessions.make(person, env)
            answer(SigningIn.state(person, env), 201)
          end
        end
      end
    end
  end
end
