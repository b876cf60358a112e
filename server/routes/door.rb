# frozen_string_literal: true

module Server
  module Routes
    # How the checkout door is set up: its keys and settings, and the orders that came through it.
    module Door
      # Orders on one page.
      PAGE = (1..200)
      INTRODUCTION = File.join(ROOT, "docs", "api", "checkout.md")
      private_constant :INTRODUCTION

      def self.registered(app)
        app.get "/api/keys" do
          # When each was last used is in it, unless somebody writes for long.
          Beside.write("noting keys") { settings.checkout.keys.write_down }.join(0.3)
          answer({ keys: Records::CheckoutKey.order(made_at: :desc, id: :asc).map(&:document) })
        end

        app.post "/api/keys" do
          made, key = Database.write { KeyRing.make(Door.checked(body_of("CheckoutKeyDraft"))) }
          settings.checkout.keys.changed
          AuditLog.add(:key_made, about: made.name)
          answer({ key: key, made: made.document }, 201)
        end

        app.patch "/api/keys/:id" do
          body = body_of("CheckoutKeyPatch")
          key = Database.write do
            Door.change(found_as_shown(Records::CheckoutKey, params["id"], body.delete("edition")), body)
          end
          settings.checkout.keys.changed
          AuditLog.add(:key_changed, about: key.name)
          answer(key.document)
        end

        app.post "/api/keys/:id/rotate" do
          hours = body_of("CheckoutKeyRotation")["hours"]
          made, key = Database.write { Door.rotate(found(Records::CheckoutKey, params["id"]), hours) }
          settings.checkout.keys.changed
          AuditLog.add(:key_rotated, about: made.name)
          answer({ key: key, made: made.document }, 201)
        end

        app.delete "/api/keys/:id" do
          key = found(Records::CheckoutKey, params["id"])
          Database.write { Door.revoke(key) }
          settings.checkout.keys.changed
          AuditLog.add(:key_revoked, about: key.name)
          done
        end

        app.get("/api/door") { answer(Records::DoorSetting.current.document) }

        app.patch "/api/door" do
          body = body_of("DoorSettingsPatch")
          set = Database.write { Door.set(body) }
          settings.checkout.changed
          AuditLog.add(:door_changed)
          answer(set.document)
        end

        app.get("/api/reference") { answer(Door.reference) }

        app.get "/api/today" do
          # What was asked a moment ago is in it, unless somebody writes for long.
          AskedRows.beside(settings.checkout.asked).join(0.3)
          answer(Today.document(settings.releases, settings.duties.backups))
        end

        app.get "/api/turned-away" do
          AskedRows.beside(settings.checkout.asked).join(0.3)
          answer(TurnedAwayReport.new(number("days", TurnedAwayReport::USUAL, TurnedAwayReport::DAYS)).document)
        end

        app.get "/api/orders.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "orders.csv"
          OrdersCsv.write
        end

        app.get "/api/orders" do
          limit = number("limit", 50, PAGE)
          all = Door.orders(params["number"].to_s.strip)
          answer({ count: all.count, orders: all.includes(:offers).limit(limit).map(&:document),
                   uses: settings.checkout.uses.counts })
        end

        app.get "/api/orders/:number" do
          order = Records::Order.find_by(number: params["number"]) or
            raise Problem.new(404, "There is no order with this number.")
          evidence = order.cart && Evidence.of_order(order, settings.releases.book(order.release_id))
          answer({ order: order.document, cart: order.cart, quote: evidence&.quote&.dump })
        end
      end

      class << self
        # @return [Hash] what those who build a shop's side of the door read
        def reference
          @reference ||= Contract.section(CheckoutDoor::PATH, title: "Gate Mile, the checkout door",
                                                              description: File.read(INTRODUCTION))
        end

        # A public key stands in pages: it is for those of some origins, and for the calls that pages may make.
        # @param said [Hash] CheckoutKeyDraft or CheckoutKeyPatch of the contract
        # @return [Hash] with origins as browsers write them
        # @raise [Problem] 422
        def checked(said, public: said["public"])
          return said unless public

          origins = pages(said["origins"].to_a) if said.key?("origins") || said.key?("public")
          calls = said["calls"] && (said["calls"] - Records::CheckoutKey::SERVER_ONLY)
          raise Problem.at("/calls", :no_page_call) if calls && calls.empty?

          said.merge({ "origins" => origins, "calls" => calls }.compact)
        end

        # @param key [Records::CheckoutKey]
        # @param said [Hash] CheckoutKeyPatch of the contract
        # @return [Records::CheckoutKey]
        def change(key, said)
          key.assign_attributes(checked(said, public: key.public).slice("name", "origins", "pace", "calls").compact)
          key.save or raise Problem.of_record(key)
          key
        end

        # @param key [Records::CheckoutKey]
        # @param hours [Integer] for which it opens the door still
        # @return [Array(Records::CheckoutKey, String)]
        # @raise [Problem] 409 for one that opens nothing any more
        def rotate(key, hours)
          raise Problem.new(409, "This key opens nothing any more. Make a new one.") unless key.open?

          said = key.slice("name", "public", "origins", "calls", "pace")
          ends = Time.now + (hours * 3600)
          key.update!(ends_at: [key.ends_at, ends].compact.min)
          KeyRing.make(said, family: key.family)
        end

        # @param key [Records::CheckoutKey]
        # @return [void]
        def revoke(key) = key.update!(revoked_at: key.revoked_at || Time.now)

        # @param said [Hash] DoorSettingsPatch of the contract
        # @return [Records::DoorSetting]
        # @raise [Problem] 409, 422
        def set(said)
          row = Records::DoorSetting.current
          unless row.lock_version == said["lock_version"]
            raise Problem.new(409, "This was changed elsewhere since it was shown here.", current: row.document)
          end

          tax = said["tax_class"]
          raise Problem.at("/tax_class", :unknown_id) if tax && !Records::TaxClass.exists?(id: tax)

          row.lock_version = 1 if row.new_record?
          row.tap { |one| one.update!(said.except("lock_version")) }
        end

        # @param start [String] of a number, empty for all
        # @return [ActiveRecord::Relation]
        def orders(start)
          all = Records::Order.order(placed_at: :desc, number: :desc)
          start.empty? ? all : all.where("number LIKE ? ESCAPE '\\'", "#{all.klass.sanitize_sql_like(start)}%")
        end

        private

        def pages(list)
          raise Problem.at("/origins", :no_origin) if list.empty?

          list.each_with_index.map do |text, at|
            GateMile::Storefront.origin(text) || raise(Problem.at("/origins/#{at}", :not_an_origin))
          end.uniq
        end
      end
    end
  end
end
