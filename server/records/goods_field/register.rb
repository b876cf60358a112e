# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # The id of something that is kept in a register of its own, and goes by its name in tables.
      class Register < GoodsField
        # @param model [Class] of the register
        def initialize(name, model:, **more)
          super(name, **more)
          @model = model
        end

        # @return [Class]
        def model = Records.const_get(@model)

        def of_cell(cell, fields)
          return if cell.empty?

          fields.names(name)[GateMile::Product.fold(cell)] or raise GoodsFields::Fault.new(:no_class_named, name: cell)
        end

        def cell(item, fields) = fields.called(name, item[name])
        def worded(value, fields) = fields.called(name, value)

        private

        def value(id, fields, _sure)
          raise GoodsFields::Fault, :unknown_id unless id.nil? || fields.names(name).value?(id) || model.exists?(id: id)

          id
        end
      end
    end
  end
end
