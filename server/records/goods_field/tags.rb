# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # Words that goods are found by.
      class Tags < GoodsField
        def of_cell(cell, _fields) = cell.split(/[;,]/)
        def columns(item, _currency) = { column => JSON.generate(item.fetch(name, usual)) }
        def document(row, currency) = shown(row, currency).presence
        def shown(row, _currency) = row[column] == "[]" ? [] : JSON.parse(row[column])
        def cell(item, _fields) = item[name]&.join("; ")
        def worded(value, _fields) = value && JSON.parse(value).join("; ")

        private

        def value(typed, _fields, _sure)
          reader = GateMile::Reader.new({ "tags" => typed.map { |tag| tag.to_s.strip }.reject(&:empty?) })
          tags = GateMile::GoodsForms.tags(reader)
          problem = reader.problems.first
          problem ? raise(GoodsFields::Fault.new(problem.code, **problem.numbers)) : tags
        end
      end
    end
  end
end
