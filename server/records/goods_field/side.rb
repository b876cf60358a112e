# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # One of three sides, which a document has together.
      class Side < GoodsField
        def as_written? = true
        def columns(item, _currency) = { column => item.dig("size", name) }
        def document(_row, _currency) = nil
        def cell(item, _fields) = item.dig("size", name)

        private

        def value(typed, fields, _sure)
          GateMile::Length.parse(typed, unit: fields.length_unit).to_s unless typed.to_s.strip.empty?
        end
      end
    end
  end
end
