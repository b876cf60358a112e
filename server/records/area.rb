# frozen_string_literal: true

module Server
  module Records
    # One part of the world that a zone covers.
    class Area < Base
      belongs_to :zone, inverse_of: :areas

      # @return [Array] what makes it the same place
      def place = [kind, country]

      # @return [Hash] as in a book document
      def document = { "kind" => kind, "country" => country }.compact
    end
  end
end
