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

        app.post "/api/products" do
          body = body_of("ProductDraft")
          answer(::Server::History.edit("create", "product", { name: body["name"] }) do
            Documents.product(save(Records::Product.new(body)))
          end, 201)
        end

        app.patch "/api/products/:id" do
          body = body_of("ProductPatch")
          names = {}
          answer(::Server::History.edit("update", "product", names) do
            Documents.product(update(Records::Product, :product, body, names))
          end)
        end

        app.delete "/api/products/:id" do
          names = {}
          ::Server::History.edit("delete", "product", names) { remove(Records::Product, :product, names) }
          done
        end
      end
    end
  end
end
