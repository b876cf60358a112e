# frozen_string_literal: true

module Server
  module Routes
    # Shipping methods.
    module Methods
      def self.registered(app)
        Plain.order(app, "/api/methods", Records::ShippingMethod, "method")
        Plain.copies(app, "/api/methods", Records::ShippingMethod, "method")
        Plain.routes(app, "/api/methods", Records::ShippingMethod, "method")
      end
    end
  end
end
