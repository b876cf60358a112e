# frozen_string_literal: true

module GateMile
  # Builds small immutable value objects with named fields: equal when their fields are equal, frozen from birth.
  # A quote makes hundreds of them, so their code is written out rather than interpreted, and they are made without a
  # hash of their fields in between.
  module Value
    # @param fields [Array<Symbol>] the names of the fields; a field that is not given is nil
    # @return [Class] a class to derive from; its `fields` are their names
    def self.of(*fields)
      keywords = fields.map { |field| "#{field}: nil" }.join(", ")
      setting = fields.map { |field| "@#{field} = #{field}" }.join("; ")
      Class.new do
        attr_reader(*fields)

        define_singleton_method(:fields) { fields }

        class_eval <<~RUBY, __FILE__, __LINE__ + 1
          def self.new(#{keywords}) = allocate.fill(#{fields.join(", ")})

          def initialize(#{keywords}) = fill(#{fields.join(", ")})

          def fill(#{fields.join(", ")})
            #{setting}
            freeze
          end

          def to_h = { #{fields.map { |field| "#{field}: @#{field}" }.join(", ")} }

          def ==(other)
            equal?(other) ||
              (other.instance_of?(self.class) && #{fields.map { |field| "#{field} == other.#{field}" }.join(" && ")})
          end
          alias_method :eql?, :==

          def hash = [#{fields.map { |field| "@#{field}" }.join(", ")}].hash
        RUBY

        extend Initialized
        include Changed
      end
    end

    # A class with an initializer of its own is made by it.
    module Initialized
      def method_added(name)
        super
        return unless name == :initialize && superclass.respond_to?(:new)

        define_singleton_method(:new, Class.instance_method(:new).bind(self))
      end
    end

    # What all values share.
    module Changed
      # @return [Object] a copy in which the given fields have other values
      def with(**changes) = self.class.new(**to_h, **changes)

      # @param field [Symbol]
      # @return [Object] the field of that name
      def [](field) = public_send(field)
    end
  end
end
