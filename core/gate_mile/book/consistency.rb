# frozen_string_literal: true

module GateMile
  # What can only be seen when the parts of a book are looked at together: the same name twice, a rate that points
  # nowhere.
  module Consistency
    # list => [field, code of the problem when two share it]
    UNIQUE = { products: %i[sku], zones: %i[id name], methods: %i[id code], rates: %i[id] }.freeze
    private_constant :UNIQUE

    # @param reader [Reader] of the whole document; problems are noted on it
    # @param parts [Hash{Symbol => Object}] the parts that were read
    # @return [void]
    def self.check(reader, parts)
      UNIQUE.each do |list, fields|
        fields.each { |field| twice(reader, list, parts[list].map { |item| Product.fold(item[field]) }, field) }
      end
      rates(reader, parts)
    end

    def self.rates(reader, parts)
      known = { zone: parts[:zones].map(&:id), method: parts[:methods].map(&:id) }
      parts[:rates].each_with_index do |rate, index|
        known.each { |field, ids| problem(reader, :rates, index, field, :unknown_id) unless ids.include?(rate[field]) }
      end
      twice(reader, :rates, parts[:rates].map { |rate| [rate.zone, rate[:method]] }, :method)
    end

    def self.twice(reader, list, keys, field)
      seen = {}
      keys.each_with_index do |key, index|
        problem(reader, list, index, field, :twice, first: seen[key] + 1) if seen.key?(key)
        seen[key] ||= index
      end
    end

    def self.problem(reader, list, index, field, code, **numbers)
      reader.problems << Problem.new(pointer: "/#{list}/#{index}/#{field}", code: code, numbers: numbers)
    end
    private_class_method :rates, :twice, :problem
  end
end
