# frozen_string_literal: true

module Server
  module Routes
    # Who is told of what happens, and how telling went.
    module Webhooks
      # Deliveries that are listed.
      SHOWN = 100

      def self.registered(app)
        app.get "/api/webhooks" do
          deliveries = Records::WebhookDelivery.includes(:message).order(id: :desc).limit(SHOWN)
          answer({ webhooks: Records::Webhook.order(:made_at, :id).map(&:document),
                   deliveries: deliveries.map(&:document) })
        end

        app.post "/api/webhooks" do
          body = body_of("WebhookDraft")
          secret = WebhookSignature.secret
          made = Database.write { save(Records::Webhook.new(**body, secret: secret, made_at: Time.now)) }
          AuditLog.add(:webhook_made, about: made.url)
          answer({ secret: secret, made: made.document }, 201)
        end

        app.patch "/api/webhooks/:id" do
          body = body_of("WebhookPatch")
          hook = Database.write do
            one = found_as_shown(Records::Webhook, params["id"], body.delete("edition"))
            # Switched on again, who was gone is tried again.
            one.assign_attributes(**body, **(body["active"] ? { gone_at: nil } : {}))
            save(one)
          end
          AuditLog.add(:webhook_changed, about: hook.url)
          answer(hook.document)
        end

        app.delete "/api/webhooks/:id" do
          hook = found(Records::Webhook, params["id"])
          Database.write { hook.destroy! }
          AuditLog.add(:webhook_removed, about: hook.url)
          done
        end

        app.post "/api/webhooks/:id/test" do
          hook = found(Records::Webhook, params["id"])
          Database.write { Announcements.tell("test", { shop: Records::Store.current.name }, to: [hook]) }
          done
        end

        app.post "/api/deliveries/:id/resend" do
          Database.write do
            found(Records::WebhookDelivery, params["id"]).update!(state: "waiting", due: Time.now, attempts: 0)
          end
          done
        end
      end
    end
  end
end
