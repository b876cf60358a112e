# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # A SKU or a name.
      class Text < GoodsField
        def initialize(name, most:, **more)
          super(name, **more)
          @most = most
        end

        def as_written? = true

        private

        def value(typed, _fields, _sure)
          text = typed.to_s.strip
          raise GoodsFields::Fault, :missing if text.empty?
          raise GoodsFields::Fault.new(:too_long, most: @most, length: text.length) if text.length > @most
          raise GoodsFields::Fault, :control_characters if text.match?(/[[:cntrl:]]/)

          text
        end
      end
    end
  end
end
