# frozen_string_literal: true

module Server
  module Routes
    # Rates: a method in a zone, with its plan.
    module Rates
      def self.registered(app)
        app.post "/api/rates" do
          body = body_of("RateDraft")
          names = {}
          answer(::Server::History.edit("create", "rate", names) do
            Documents.rate(Rates.create(self, body, names))
          end, 201)
        end

        app.patch "/api/rates/:id" do
          body = body_of("RatePatch")
          names = {}
          answer(::Server::History.edit("update", "rate", names) do
            rate = update(Records::Rate, :rate, body, names)
            names.merge!(Rates.names(rate))
            Documents.rate(rate)
          end)
        end

        app.delete "/api/rates/:id" do
          names = {}
          ::Server::History.edit("delete", "rate", names) do
            rate = remove(Records::Rate, :rate, names)
            names.merge!(Rates.names(rate))
          end
          done
        end
      end

      # Makes the rate and, where asked for, its method. A zone that was off because it had no rate comes on.
      def self.create(app, body, names)
        zone = Records::Zone.find_by(id: body["zone"])
        fields = body.slice("name", "active", "plan")
        rate = Records::Rate.new(fields.merge("zone" => zone, "shipping_method" => method_for(app, body)))
        app.save(rate)
        first = !zone.active && zone.rates.one?
        zone.update!(active: true) if first
        names.merge!(names(rate), first ? { zone_on: zone.name } : {})
        rate
      end

      # @param rate [Records::Rate]
      # @return [Hash] what names it to the merchant
      def self.names(rate) = { name: rate.name || rate.shipping_method.name, zone: rate.zone.name }

      def self.method_for(app, body)
        return Records::ShippingMethod.find_by(id: body["method"]) unless body["new_method"]

        method = Records::ShippingMethod.new(body["new_method"])
        app.save(method)
      rescue Problem => e
        raise e.under("/new_method")
      end
      private_class_method :method_for
    end
  end
end
