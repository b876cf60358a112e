# frozen_string_literal: true

module Server
  module Routes
    # The catalogue.
    module Products
      def self.registered(app)
        app.get "/api/products" do
          found = Records::Product.search(params["q"])
          page = found.limit(number("limit", 50, 1..500)).offset(number("offset", 0, 0..10_000_000))
          answer({ products: page.map { |product| Documents.product(product) }, total: found.count })
        end

        Plain.routes(app, "/api/products", Records::Product, "product")
      end
    end
  end
end
