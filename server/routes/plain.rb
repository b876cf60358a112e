# frozen_string_literal: true

module Server
  module Routes
    # What resources have in common that are made, edited and removed one by one.
    module Plain
      # @param app [Class] the application
      # @param path [String] e.g. "/api/methods"
      # @param model [Class]
      # @param kind [String] how the history calls it; also the name of its document
      # @return [void]
      def self.routes(app, path, model, kind)
        schema = kind.capitalize
        app.post path do
          body = body_of("#{schema}Draft")
          made = ::Server::History.edit("create", kind, { name: body["name"] }) do
            Documents.public_send(kind, save(model.new(body)))
          end
          answer(made, 201)
        end

        app.patch "#{path}/:id" do
          body = body_of("#{schema}Patch")
          names = {}
          answer(::Server::History.edit("update", kind, names) do
            Documents.public_send(kind, update(model, kind.to_sym, body, names))
          end)
        end

        app.delete "#{path}/:id" do
          names = {}
          ::Server::History.edit("delete", kind, names) { remove(model, kind.to_sym, names) }
          done
        end
      end
    end
  end
end
