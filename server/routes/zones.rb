# frozen_string_literal: true

module Server
  module Routes
    # Zones, their areas and the order of their rates.
    module Zones
      def self.registered(app)
        app.post "/api/zones" do
          body = body_of("ZoneDraft")
          answer(::Server::History.edit("create", "zone", { name: body["name"] }) do
            zone = Records::Zone.new(body.except("areas"))
            zone.places = body.fetch("areas", [])
            Documents.zone(save(zone))
          end, 201)
        end

        app.put "/api/zones/order" do
          ids = body_of("Order")["ids"]
          ::Server::History.edit("reorder", "zone", {}) { put_in_order(Records::Zone.all.to_a, ids) }
          done
        end

        app.patch "/api/zones/:id" do
          body = body_of("ZonePatch")
          zone = found(Records::Zone, params["id"])
          names = { name: zone.name }
          answer(::Server::History.edit("update", "zone", names) do
            zone = found_for_edit(Records::Zone, zone.id, body.delete("lock_version"), :zone)
            zone.assign_attributes(body.except("areas"))
            zone.places = body["areas"] if body.key?("areas")
            zone.position_will_change! if body.key?("areas")
            save(zone)
            names.merge!(Naming.of_update(zone, also: body.key?("areas") ? ["areas"] : []))
            Documents.zone(zone.reload)
          end)
        end

        app.delete "/api/zones/:id" do
          names = {}
          ::Server::History.edit("delete", "zone", names) do
            zone = found_for_edit(Records::Zone, params["id"], lock_version, :zone)
            names[:name] = zone.name
            zone.destroy!
          end
          done
        end

        app.put "/api/zones/:id/rates/order" do
          ids = body_of("Order")["ids"]
          zone = found(Records::Zone, params["id"])
          ::Server::History.edit("reorder", "rate", { zone: zone.name }) { put_in_order(zone.rates.to_a, ids) }
          done
        end
      end
    end
  end
end
