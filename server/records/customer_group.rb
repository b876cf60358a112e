# frozen_string_literal: true

module Server
  module Records
    # Customers that the shop tells apart.
    class CustomerGroup < Base
      says :name

      words :name, most: 60
      unlike_others :name, "group has this name"

      before_destroy { [Offer, Rule].each { |model| model.forget("group", id) } }

      # @return [Hash] as in a book document
      def document = { "id" => id, **said }
    end
  end
end
