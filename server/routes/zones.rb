# frozen_string_literal: true

module Server
  module Routes
    # Zones, their areas and the order of their rates.
    module Zones
      def self.registered(app)
        app.post "/api/zones" do
          body = body_of("ZoneDraft")
          answer(History.edit("create", "zone", { name: body["name"] }) do
            zone = Records::Zone.new(body.except("areas"))
            zone.add(body.fetch("areas", []))
            Documents.zone(save(zone))
          end, 201)
        end

        app.put "/api/zones/order" do
          ids = body_of("Order")["ids"]
          History.edit("reorder", "zone", {}) { put_in_order(Records::Zone.all.to_a, ids) }
          done
        end

        app.patch "/api/zones/:id" do
          body = body_of("ZonePatch")
          zone = found(Records::Zone, params["id"])
          names = { name: zone.name }
          answer(History.edit("update", "zone", names) do
            zone = found_for_edit(Records::Zone, zone.id, body.delete("lock_version"), :zone)
            zone.assign_attributes(body)
            save(zone)
            names.merge!(Naming.of_update(zone))
            Documents.zone(zone)
          end)
        end

        app.post "/api/zones/:id/copy" do
          zone = found(Records::Zone, params["id"])
          copy = nil
          answer(History.edit("create", "zone", -> { { name: copy.name } }) do
            copy = Zones.copy(self, zone)
            Documents.zone(copy.reload)
          end, 201)
        end

        app.delete "/api/zones/:id" do
          names = {}
          History.edit("delete", "zone", names) do
            zone = found_for_edit(Records::Zone, params["id"], lock_version, :zone)
            names[:name] = zone.name
            zone.destroy!
          end
          done
        end

        Zones.areas(app)

        app.put "/api/zones/:id/rates/order" do
          ids = body_of("Order")["ids"]
          zone = found(Records::Zone, params["id"])
          History.edit("reorder", "rate", { zone: zone.name }) { put_in_order(zone.rates.to_a, ids) }
          done
        end
      end

      # A zone's areas: added together, edited and removed one by one, under the lock of their zone.
      def self.areas(app)
        app.post "/api/zones/:id/areas" do
          body = body_of("AreasDraft", limit: Body::OF_TABLES)
          names = { fields: "areas" }
          answer(History.edit("update", "zone", names) do
            zone = found_for_edit(Records::Zone, params["id"], body["lock_version"], :zone)
            names[:name] = zone.name
            zone.add(body["areas"])
            zone.touch_lock
            save(zone)
            Documents.zone(zone)
          end, 201)
        end

        app.get("/api/areas/:id") { answer(Documents.area(found(Records::Area, params["id"]), whole: true)) }

        app.patch "/api/areas/:id" do
          body = body_of("AreaPatch", limit: Body::OF_TABLES)
          names = { fields: "areas" }
          answer(History.edit("update", "zone", names) do
            Documents.zone(Zones.edit_area(self, body, names) { |area| Zones.narrow(area, body) })
          end)
        end

        app.delete "/api/areas/:id" do
          names = { fields: "areas" }
          version = lock_version
          answer(History.edit("update", "zone", names) do
            Documents.zone(Zones.edit_area(self, { "lock_version" => version }, names, &:mark_for_destruction))
          end)
        end
      end

      # @yieldparam area [Records::Area] as its zone holds it
      # @return [Records::Zone] saved
      def self.edit_area(app, body, names)
        area = app.found(Records::Area, app.params["id"])
        zone = app.found_for_edit(Records::Zone, area.zone_id, body["lock_version"], :zone)
        names[:name] = zone.name
        own = zone.areas.to_a.find { |candidate| candidate.id == area.id }
        yield own
        raise Problem.of_record(own) unless own.marked_for_destruction? || own.valid?

        zone.touch_lock
        app.save(zone)
        zone.reload
      end

      # @param area [Records::Area]
      # @param body [Hash] an AreaPatch of the contract
      def self.narrow(area, body)
        if body.key?("regions")
          area.assign_attributes(kind: body["regions"].any? ? "regions" : "country",
                                 regions: body["regions"])
        end
        Records::Area::CLAUSES.each { |list| area.paste(list, body[list]) if body.key?(list) }
      end

      # @param zone [Records::Zone]
      # @return [Records::Zone] a copy with areas and rates, right below it
      def self.copy(app, zone)
        copy = app.save(zone.copied(name: Zones.free_name(zone.name)))
        zone.rates.each { |rate| rate.copied(zone_id: copy.id).update!(position: rate.position) }
        order = Records::Zone.where.not(id: copy.id).order(:position, :id).to_a
        order.insert(order.index(zone) + 1, copy).each.with_index(1) { |other, place| other.update!(position: place) }
        copy
      end

      # @param name [String]
      # @return [String] one that no zone has
      def self.free_name(name)
        stem = name[0, 100]
        taken = Records::Zone.pluck(:name).map(&:downcase)
        ["copy of #{stem}", *(2..200).map do |number|
          "copy #{number} of #{stem}"
        end].find { |text| !taken.include?(text.downcase) }
            .then { |text| text[0].upcase + text[1..] }
      end
    end
  end
end
