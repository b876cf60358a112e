# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # Yes or no.
      class Flag < GoodsField
        ON = [1, true].freeze
        YES = %w[yes y true 1].freeze
        NO = %w[no n false 0].freeze
        private_constant :ON, :YES, :NO

        def of_cell(cell, _fields)
          return usual if cell.empty?
          return true if YES.include?(cell.downcase)
          return false if NO.include?(cell.downcase)

          raise GoodsFields::Fault, :yes_or_no
        end

        def columns(item, _currency) = { column => item.fetch(name, usual) ? 1 : 0 }
        # Only "ships" is written where it is as usual.
        def document(row, currency) = shown(row, currency).then { |on| on if on || usual }
        def shown(row, _currency) = ON.include?(row[column])
        def cell(item, _fields) = item.fetch(name, usual) ? "yes" : "no"
        def worded(value, _fields) = value && (ON.include?(value) ? "yes" : "no")

        private

        def value(typed, _fields, _sure)
          [true, false].include?(typed) ? typed : raise(GoodsFields::Fault, :not_true_or_false)
        end
      end
    end
  end
end
