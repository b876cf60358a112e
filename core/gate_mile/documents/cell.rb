# frozen_string_literal: true

module GateMile
  # One bare value of a list inside a document, read like a field.
  class Cell
    # @param reader [Reader]
    # @param path [Array] where it stands
    def initialize(reader, *path)
      @reader = reader
      @path = path
    end

    # @return [Object]
    def value = @path.drop(1).inject(@reader.values(@path.first)) { |list, at| list[at] }

    # @yieldparam value [Object]
    def parsed(_key)
      return problem(nil, :missing) if value.nil? || value == ""

      yield value
    rescue Malformed => e
      problem(nil, e.code, **e.numbers)
    end

    # @return [nil]
    def problem(_key, code, **numbers) = @reader.problem(@path, code, **numbers)
  end
end
