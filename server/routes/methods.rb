# frozen_string_literal: true

module Server
  module Routes
    # Shipping methods.
    module Methods
      def self.registered(app)
        app.put "/api/methods/order" do
          ids = body_of("Order")["ids"]
          ::Server::History.edit("reorder", "method", {}) { put_in_order(Records::ShippingMethod.all.to_a, ids) }
          done
        end

        Plain.routes(app, "/api/methods", Records::ShippingMethod, "method")
      end
    end
  end
end
