# frozen_string_literal: true

module Server
  module Routes
    # For owners: who has an account, the links that let somebody in, and the audit log.
    module People
      # Entries of the log on one page.
      PAGE = (1..500)

      def self.registered(app)
        accounts(app)
        invitations(app)
        app.get "/api/audit" do
          before = params["before"] && number("before", nil, 1..(2**53))
          answer({ entries: AuditLog.list(number("limit", 100, PAGE), before: before).map(&:document) })
        end
      end

      class << self
        # @return [Hash] People of the contract
        def list
          lasting = Sessions.lasting.group(:person_id).count
          people = Records::Person.order(:made_at, :id).map do |one|
            one.document.merge(sessions: lasting.fetch(one.id, 0))
          end
          { people: people, invitations: Records::Invitation.open.order(:made_at).map(&:document) }
        end

        private

        def accounts(app)
          app.get("/api/people") { answer(People.list) }

          app.patch "/api/people/:id" do
            body = body_of("PersonPatch")
            was = nil
            person = Database.write do
              found_as_shown(Records::Person, params["id"], body["edition"]).tap do |one|
                was = one.role
                Server::People.give(one, body["role"])
              end
            end
            AuditLog.add(:role_changed, about: "#{person.name}: #{was} → #{person.role}") if was != person.role
            answer(person.document)
          end

          app.delete "/api/people/:id" do
            person = found(Records::Person, params["id"])
            Database.write { Server::People.remove(person) }
            AuditLog.add(:person_removed, about: person.name)
            done
          end

          app.post "/api/people/:id/reset" do
            person = found(Records::Person, params["id"])
            made, words = Server::People.reset(person)
            AuditLog.add(:reset_made, about: person.name)
            answer({ made: made.document, link: words }, 201)
          end

          app.delete "/api/people/:id/codes" do
            person = found(Records::Person, params["id"])
            OneTimeCodes.switch_off(person)
            AuditLog.add(:codes_off, about: person.name)
            done
          end

          app.delete "/api/people/:id/sessions" do
            person = found(Records::Person, params["id"])
            Sessions.end(Records::Session.where(person_id: person.id))
            AuditLog.add(:session_ended, about: person.name)
            done
          end
        end

        def invitations(app)
          app.post "/api/invitations" do
            made, words = Server::People.invite(body_of("InvitationDraft")["role"])
            AuditLog.add(:invited, about: made.role)
            answer({ made: made.document, link: words }, 201)
          end

          app.delete "/api/invitations/:id" do
            Database.write { found(Records::Invitation, params["id"]).destroy! }
            AuditLog.add(:invitation_withdrawn)
            done
          end
        end
      end
    end
  end
end
