# frozen_string_literal: true

module Server
  module Routes
    # Shipping methods.
    module Methods
      def self.registered(app)
        app.post "/api/methods" do
          body = body_of("MethodDraft")
          answer(::Server::History.edit("create", "method", { name: body["name"] }) do
            Documents.method(save(Records::ShippingMethod.new(body)))
          end, 201)
        end

        app.put "/api/methods/order" do
          ids = body_of("Order")["ids"]
          ::Server::History.edit("reorder", "method", {}) { put_in_order(Records::ShippingMethod.all.to_a, ids) }
          done
        end

        app.patch "/api/methods/:id" do
          body = body_of("MethodPatch")
          names = {}
          answer(::Server::History.edit("update", "method", names) do
            Documents.method(update(Records::ShippingMethod, :method, body, names))
          end)
        end

        app.delete "/api/methods/:id" do
          names = {}
          ::Server::History.edit("delete", "method", names) { remove(Records::ShippingMethod, :method, names) }
          done
        end
      end
    end
  end
end
