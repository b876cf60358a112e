# frozen_string_literal: true

module GateMile
  # Builds small immutable value objects with named fields: equal when their fields are equal, frozen from birth.
  # A quote makes hundreds of them, so their constructors are written out rather than interpreted.
  module Value
    # @param fields [Array<Symbol>] the names of the fields; a field that is not given is nil
    # @return [Class] a class to derive from
    def self.of(*fields)
      Class.new do
        attr_reader(*fields)

        class_eval <<~RUBY, __FILE__, __LINE__ + 1
          def initialize(#{fields.map { |field| "#{field}: nil" }.join(", ")})
            #{fields.map { |field| "@#{field} = #{field}" }.join("; ")}
            freeze
          end

          def to_h = { #{fields.map { |field| "#{field}: @#{field}" }.join(", ")} }
        RUBY

        include Compared
      end
    end

    # What all values share.
    module Compared
      # @return [Object] a copy in which the given fields have other values
      def with(**changes) = self.class.new(**to_h, **changes)

      # @param field [Symbol]
      # @return [Object] the field of that name
      def [](field) = public_send(field)

      def ==(other) = other.instance_of?(self.class) && to_h == other.to_h
      alias eql? ==
      def hash = to_h.hash
    end
  end
end
