# frozen_string_literal: true

module Server
  # A product or variant of a book document as a row of the catalogue. The document has been read by the core: nothing
  # is checked again.
  class GoodsColumns
    # @param currency [GateMile::Currency]
    def initialize(currency)
      @currency = currency
    end

    # @param item [Hash] a product or variant
    # @param place [Hash] id, parent_id, family and position
    # @return [Hash] the row as the database holds it
    def row(item, place)
      Records::GoodsField::ALL.each_with_object(place.dup) { |field, row| row.update(field.columns(item, @currency)) }
    end
  end
end
