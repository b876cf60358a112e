# frozen_string_literal: true

module Server
  module Routes
    # What resources have in common that are made, edited and removed one by one.
    module Plain
      # @param app [Class] the application
      # @param path [String] e.g. "/api/methods"
      # @param model [Class]
      # @param kind [String] how the history calls it
      # @param document [Symbol] of {Documents}
      # @param schema [String] the contract's, without Draft or Patch
      # @return [void]
      def self.routes(app, path, model, kind, document: kind.to_sym, schema: kind.capitalize)
        app.post path do
          body = body_of("#{schema}Draft")
          made = History.edit("create", kind, { name: body["name"] || body["code"] }) do
            Documents.public_send(document, save(model.new(body)))
          end
          answer(made, 201)
        end

        app.patch "#{path}/:id" do
          body = body_of("#{schema}Patch")
          names = {}
          answer(History.edit("update", kind, names) do
            Documents.public_send(document, update(model, document, body, names))
          end)
        end

        app.delete "#{path}/:id" do
          names = {}
          History.edit("delete", kind, names) { remove(model, document, names) }
          done
        end
      end

      # A copy says all that the original says, under a name of its own, and is off.
      # @param app [Class]
      # @param path [String]
      # @param model [Class]
      # @param kind [String]
      # @return [void]
      def self.copies(app, path, model, kind)
        app.post "#{path}/:id/copy" do
          names = {}
          answer(History.edit("create", kind, names) do
            item = found(model, params["id"])
            copy = save(item.copied(name: Plain.copy_name(item.name), active: false))
            names[:name] = copy.name
            order = model.where.not(id: copy.id).order(:position, :id).to_a
            order.insert(order.index(item) + 1, copy).each.with_index(1) { |one, place| one.update!(position: place) }
            Documents.public_send(kind, copy)
          end, 201)
        end
      end

      # @param name [String]
      # @return [String]
      def self.copy_name(name) = "#{name[0, GateMile::Reader::NAME_LENGTH - 6]}, copy"

      # @param app [Class]
      # @param path [String]
      # @param model [Class]
      # @param kind [String]
      # @return [void]
      def self.order(app, path, model, kind)
        app.put "#{path}/order" do
          ids = body_of("Order")["ids"]
          History.edit("reorder", kind, {}) { put_in_order(model.all.to_a, ids) }
          done
        end
      end
    end
  end
end
