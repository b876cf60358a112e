# frozen_string_literal: true

module GateMile
  # Turns the values of the core into what JSON knows.
  module Plain
    # @param value [Object]
    # @return [Hash, Array, String, Integer, Boolean, nil]
    def self.of(value)
      case value
      when Hash then value.to_h { |key, item| [key.is_a?(Symbol) ? key.name : key.to_s, of(item)] }
      when Symbol then value.name
      when Array then value.map { |item| of(item) }
      when String, Integer, true, false, nil then value
      else value.to_s
      end
    end
  end
end
