# frozen_string_literal: true

module Server
  module Records
    # When something holds of a cart, then something is done to methods.
    class Rule < Base
      says :name, :active, :when, :then

      include Policy

      private

      def read(item, store) = GateMile::Documents.read(GateMile::Rule, item, store.money)
    end
  end
end
