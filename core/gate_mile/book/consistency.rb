# frozen_string_literal: true

module GateMile
  # What can only be seen when the parts of a book are looked at together: the same name twice, a rate that points
  # nowhere.
  module Consistency
    # list => [field, code of the problem when two share it]
    UNIQUE = { classes: %i[id name], treatments: %i[id], zones: %i[id name], methods: %i[id code],
               rates: %i[id], groups: %i[id name], coupons: %i[id code], offers: %i[id], rules: %i[id],
               carriers: %i[id name] }.freeze
    # The same for the lists of the store.
    OF_STORE = { boxes: %i[id name], tax_classes: %i[id name] }.freeze
    private_constant :UNIQUE, :OF_STORE

    # @param reader [Reader] of the whole document; problems are noted on it
    # @param parts [Hash{Symbol => Object}] the parts that were read
    # @return [void]
    def self.check(reader, parts)
      UNIQUE.each { |list, fields| unique(reader, list_of(parts, list), fields, [list]) }
      OF_STORE.each { |list, fields| unique(reader, parts[:store][list], fields, [:store, list]) }
      rates(reader, parts)
      GoodsConsistency.new(reader, parts).check
      TermsConsistency.new(reader, parts).check
    end

    def self.list_of(parts, list) = parts[list] || parts[:policies][list]

    def self.unique(reader, items, fields, path)
      fields.each do |field|
        twice(reader, items.each_with_index.map { |item, at| [Product.fold(item[field]), [*path, at, field]] })
      end
    end
    private_class_method :unique

    # @param reader [Reader]
    # @param places [Array<Array(Object, Array)>] keys, and where in the document each stands
    # @return [void]
    def self.twice(reader, places)
      seen = {}
      places.each do |key, path|
        reader.problem(path, :twice, first: seen[key].find { |part| part.is_a?(Integer) } + 1) if seen.key?(key)
        seen[key] ||= path
      end
    end

    def self.rates(reader, parts)
      zones, methods = %i[zones methods].map { |list| parts[list].to_set(&:id) }
      parts[:rates].each_with_index do |rate, index|
        reader.problem([:rates, index, :zone], :unknown_id) unless zones.include?(rate.zone)
        reader.problem([:rates, index, :method], :unknown_id) unless methods.include?(rate.method_id)
      end
      twice(reader, parts[:rates].each_with_index.map do |rate, at|
        [[rate.zone, rate.method_id], [:rates, at, :method]]
      end)
    end
    private_class_method :rates
  end
end
