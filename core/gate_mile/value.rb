# frozen_string_literal: true

module GateMile
  # Builds small immutable value objects with named fields: equal when their fields are equal, frozen from birth.
  module Value
    # @param fields [Array<Symbol>] the names of the fields; a field that is not given is nil
    # @return [Class] a class to derive from
    def self.of(*fields)
      Struct.new(*fields, keyword_init: true) do
        def initialize(**)
          super
          freeze
        end

        # @return [Object] a copy in which the given fields have other values
        def with(**changes) = self.class.new(**to_h, **changes)
      end
    end
  end
end
