# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # One of a few words, of which the first is the usual one.
      class Choice < GoodsField
        def initialize(name, among:, **more)
          super(name, usual: among.first, **more)
          @among = among
        end

        def columns(item, _currency) = { column => item.fetch(name, usual) }
        def document(row, _currency) = (row[column] unless row[column] == usual)
        def cell(item, _fields) = item.fetch(name, usual)

        private

        def value(typed, _fields, _sure)
          text = typed.to_s.strip.downcase
          text = usual if text.empty?
          return text if @among.include?(text)

          raise GoodsFields::Fault.new(:not_one_of, choices: @among.join(", "))
        end
      end
    end
  end
end
